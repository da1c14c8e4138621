// The built pages as they are served: every address of people is the page, every file is itself, nothing else is read.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const folder = mkdtempSync(join(tmpdir(), 'pages-'));
const webRoot = join(folder, 'dist');
let test: TestApp;
beforeAll(async () => {
  mkdirSync(join(webRoot, 'assets'), { recursive: true });
  writeFileSync(join(webRoot, 'index.html'), '<title>the page</title>');
  writeFileSync(join(webRoot, 'assets', 'old-1.js'), 'export default 1;');
  writeFileSync(join(folder, 'secret.txt'), 'secret');
  test = await createTestApp({ exposures: 0, settings: { webRoot } });
}, 60_000);
afterAll(async () => {
  await test.close();
  rmSync(folder, { recursive: true });
});
const get = async (url: string) => {
  const { statusCode, headers, body } = await test.app.inject({ method: 'GET', url });
  return { statusCode, type: String(headers['content-type']), cache: String(headers['cache-control']), body };
};

describe('pages', () => {
  it.each(['/', '/tonight', '/projects/0455364b?tab=goals', '/framing?target=NGC%2055', '/a/b.c'])(
    '%s is the page, never kept',
    async (url) => {
      const { statusCode, type, cache, body } = await get(url);
      expect([statusCode, type, body]).toEqual([200, 'text/html; charset=utf-8', '<title>the page</title>']);
      expect(cache).toMatch(/max-age=0/);
    },
  );
  it('have their files, kept for a while', async () => {
    const { statusCode, type, cache } = await get('/assets/old-1.js');
    expect([statusCode, type]).toEqual([200, 'application/javascript; charset=utf-8']);
    expect(cache).toMatch(/max-age=3600/);
  });
  it('built anew are served at once, and files of the old build are gone, not pages', async () => {
    expect((await get('/assets/new-2.js')).statusCode).toBe(404);
    writeFileSync(join(webRoot, 'assets', 'new-2.js'), 'export default 2;');
    rmSync(join(webRoot, 'assets', 'old-1.js'));
    expect((await get('/assets/new-2.js')).body).toBe('export default 2;');
    const gone = await get('/assets/old-1.js');
    expect(gone.statusCode).toBe(404);
    expect(gone.body).not.toContain('the page');
  });
  it.each([
    '/../secret.txt',
    '/..%2fsecret.txt',
    '/%2e%2e/secret.txt',
    '/assets/../../secret.txt',
    '/assets/..%2f..%2fsecret.txt',
    '/assets%5c..%5c..%5csecret.txt',
    '//secret.txt',
    '/index.html%00.js',
  ])('%s leads nowhere else', async (url) => expect((await get(url)).body).not.toContain('secret'));
  it('leave addresses of the interface alone', async () => {
    const { statusCode, type } = await get('/api/nothing');
    expect([statusCode, type]).toEqual([404, 'application/json; charset=utf-8']);
  });
});
