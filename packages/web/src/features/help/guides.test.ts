import { describe, expect, it } from '@jest/globals';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { HELP_PAGES, PAGES } from '../../app/pages.ts';

const folder = fileURLToPath(new URL('../../../../../docs/guide/', import.meta.url));
const MOST_WORDS = 800;
const guides = readdirSync(folder).map((file) => [file, readFileSync(folder + file, 'utf8')] as const);

describe('the guides', () => {
  it('are one for each kind of person, each with its page', () =>
    expect(guides.map(([file]) => `/help/${file.replace('.md', '')}`)).toEqual(
      HELP_PAGES.map(({ to }) => to).toSorted(),
    ));

  it.each(guides)('%s is short, and its pictures are there', (_, text) => {
    expect(text.split(/\s+/).length).toBeLessThanOrEqual(MOST_WORDS);
    const pictures = [...text.matchAll(/!\[[^\]]+\]\(([^)]+)\)/g)].map(([, path]) => path);
    expect(pictures.length).toBeGreaterThan(0);
    for (const path of pictures) expect([path, existsSync(folder + path)]).toEqual([path, true]);
  });

  it.each(guides)('%s speaks plainly', (_, text) =>
    expect(text).not.toMatch(/\b(?:anew|told|somebody|whoever|nobody|wish|outbid|meanwhile)\b/i),
  );

  it('name pages as the line of pages does', () => {
    const named = new Set(
      guides.flatMap(([, text]) => [...text.matchAll(/\*([A-Z][a-z]+)\*/g)].map(([, page]) => page)),
    );
    for (const page of ['Tonight', 'Season', 'Projects', 'Finder', 'Ledger', 'Standing', 'Visits', 'Members'])
      if (named.has(page)) expect(PAGES.map(({ words }) => words)).toContain(page);
    expect(named.size).toBeGreaterThan(5);
  });
});
