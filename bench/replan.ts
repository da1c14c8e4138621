// Hand changes in the running application: from the key press to the first plan on screen and to the improved one, with 40 projects; measured in the page.
// npm run bench:replan, with the demo running. The projects it adds are copies of the demo's; they are retired at the end.
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { chromium } from '@playwright/test';
import { chromiumOptions } from '../e2e/chromium.ts';

const PROJECTS = 40;
const CHANGES = 30;
const base =
  process.env.MERIDIEM_SERVER_URL ?? `http://127.0.0.1:${readFileSync('.meridiem/server-port', 'utf8').trim()}`;
const browser = await chromium.launch(chromiumOptions());
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await page.goto(base);
await page.getByRole('button', { name: /coordinator/ }).click();
await page.getByRole('navigation', { name: 'Pages' }).waitFor();

interface ProjectRow {
  readonly id: string;
  readonly version: number;
  readonly rigId: string;
  readonly rigName: string;
  readonly state: string;
}
const ask = <T>(path: string, method = 'GET', body?: unknown): Promise<T> =>
  page.evaluate(
    async ([address, how, content]) => {
      const answer = await fetch(`/api${address}`, {
        method: how as string,
        headers: content === undefined ? {} : { 'content-type': 'application/json' },
        body: content === undefined ? undefined : JSON.stringify(content),
      });
      return (await answer.json()) as never;
    },
    [path, method, body] as const,
  );
const projectsOf = async (): Promise<ProjectRow[]> => (await ask<{ projects: ProjectRow[] }>('/projects')).projects;

const before = await projectsOf();
const rigName = before.find(({ state }) => state === 'granted')!.rigName;
const sources = before.filter((project) => project.state === 'granted' && project.rigName === rigName);
const made: string[] = [];
for (let i = 0; sources.length + i < PROJECTS; i++) {
  const { id } = await ask<{ id: string }>(`/projects/${sources[i % sources.length].id}/copy`, 'POST', {
    name: `Bench ${i + 1}`,
    withGoals: true,
  });
  made.push(id);
  await ask(`/projects/${id}`, 'PATCH', { version: 1, state: 'granted' });
}

try {
  await page.goto(`${base}/tonight?plan=working`);
  const rig = page.getByRole('region', { name: rigName, exact: true });
  await rig.getByLabel('Goal to ask about').getByRole('option').nth(2).waitFor({ state: 'attached', timeout: 60_000 });
  await page.waitForTimeout(4000);
  for (let i = 0; i < CHANGES; i++) {
    const bars = rig.getByRole('button', { name: /^\d+: .*arrows move/ });
    await bars.nth(i % 2).focus();
    await page.keyboard.press(i % 3 === 2 ? 'ArrowLeft' : 'ArrowRight');
    await page.waitForTimeout(2500);
  }
  for (const stage of ['first', 'improved'] as const) console.log(line(stage, await measured(page, stage)));
} finally {
  const { rigId } = sources[0];
  const night = await ask<{ sky: { nightDate: string }; rigs: { rigId: string; wishes: { id: string }[] }[] }>(
    '/nights/tonight?plan=working',
  );
  const wishes = night.rigs.find((rig) => rig.rigId === rigId)!.wishes.map(({ id }) => id);
  await ask(`/rigs/${rigId}/nights/${night.sky.nightDate}/hand-changes`, 'POST', { changes: [], replaces: wishes });
  for (const project of await projectsOf())
    if (made.includes(project.id))
      await ask(`/projects/${project.id}`, 'PATCH', { version: project.version, state: 'retired' });
  await browser.close();
}

/** Without the first change, which finds nothing warm. */
function measured(from: Page, stage: string): Promise<number[]> {
  return from.evaluate(
    (name) =>
      performance
        .getEntriesByName(`replan ${name}`)
        .map(({ duration }) => duration)
        .slice(1),
    stage,
  );
}

function line(stage: string, values: number[]): string {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number): string =>
    sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))].toFixed(0);
  return `| ${stage} | ${sorted.length} | ${at(0.5)} ms | ${at(0.95)} ms | ${at(1)} ms |`;
}
