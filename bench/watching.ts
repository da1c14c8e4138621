// Three rigs by devices at 60×, one browser in Watch, twenty listeners on the stream: how long requests take.
// npm run bench:watching [-- SECONDS]; needs MERIDIEM_TEST_DATABASE_URL and MERIDIEM_CHROMIUM, as the browser tests do, and built pages.
import { setTimeout as sleep } from 'node:timers/promises';
import { chromium } from 'playwright-core';
import { DEMO_PASSWORD, emailOf } from '../demo/people.ts';
import { queryStack, startStack, stopStack } from '../e2e/stack.ts';

const SECONDS = Number(process.argv[2] ?? 120);
const NIGHT = '2026-10-13';
const SPEED = 60;
const LISTENERS = ['ruan', 'mirela', 'jonah', 'petra', 'sam'].flatMap((who) => Array.from({ length: 4 }, () => who));
const WANTED_MS = 100;

const state = await startStack();
const cookies = new Map<string, string>();

async function cookieOf(key: string): Promise<string> {
  if (!cookies.has(key)) {
    const answer = await fetch(`${state.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: emailOf({ key }), password: DEMO_PASSWORD }),
    });
    cookies.set(key, String(answer.headers.get('set-cookie')).split(';')[0]);
  }
  return cookies.get(key)!;
}

async function call<T>(method: string, path: string, body?: object): Promise<T> {
  const answer = await fetch(`${state.url}/api${path}`, {
    method,
    headers: { cookie: await cookieOf('ilse'), ...(body ? { 'content-type': 'application/json' } : {}) },
    body: body ? JSON.stringify(body) : undefined,
  });
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
}

/** A third rig like the first, with the work of its longest stay. */
async function thirdRig(firstId: string): Promise<void> {
  const { rigs } = await call<{ rigs: { id: string; name: string }[] }>('POST', `/rigs/${firstId}/copy`, {
    name: 'Third rig',
    cameraSerial: 'bench-3',
  });
  const { id } = rigs.find(({ name }) => name === 'Third rig')!;
  const night = await call<{ rigs: { rigId: string; blocks: { runs: { goalId: string; count: number }[] }[] }[] }>('GET', `/nights/${NIGHT}`); // prettier-ignore
  const runs = night.rigs.find(({ rigId }) => rigId === firstId)!.blocks.flatMap((block) => block.runs);
  const longest = runs.reduce((most, one) => (one.count > most.count ? one : most));
  const [place] = await queryStack<{ ra: number; dec: number; angle: number; recipe: string }>(
    `SELECT l.ra_deg AS ra, l.dec_deg AS dec, l.position_angle_deg AS angle, r.name AS recipe FROM goals g JOIN framed_panels l ON l.id = g.panel_id
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id WHERE g.id = '${longest.goalId}'`,
  );
  // As after a visit that measured it.
  await queryStack(
    `INSERT INTO rig_angles (observatory_id, rig_id, during, sky_angle_deg) SELECT observatory_id, id, tstzrange('2020-01-01', NULL), ${place.angle} FROM rigs WHERE id = '${id}'`,
  );
  const { recipes } = await call<{ recipes: { id: string; rigId: string; name: string }[] }>('GET', '/observatory');
  const body = { name: 'A third', rigId: id, targetName: 'a field', raText: String(place.ra / 15), decText: String(place.dec), positionAngleDeg: place.angle }; // prettier-ignore
  const project = await call<{ id: string }>('POST', '/projects', body);
  const { panels, version } = await call<{ panels: { id: string }[]; version: number }>('GET', `/projects/${project.id}`); // prettier-ignore
  const recipeId = recipes.find(({ rigId, name }) => rigId === id && name === place.recipe)!.id;
  await call('POST', '/goals', { panelId: panels[0].id, recipeId, wanted: 400, allPanels: false });
  await call('PATCH', `/projects/${project.id}`, { version, state: 'granted' });
}

let events = 0;
/** A page’s stream without a page. */
async function listen(who: string, stop: AbortSignal): Promise<void> {
  const headers = { cookie: await cookieOf(who), accept: 'text/event-stream' };
  const answer = await fetch(`${state.url}/api/events`, { headers, signal: stop });
  for await (const part of answer.body!.pipeThrough(new TextDecoderStream())) events += part.split('event: changed').length - 1; // prettier-ignore
}

const share = (sorted: readonly number[], at: number): number => sorted[Math.min(sorted.length - 1, Math.floor(at * sorted.length))]; // prettier-ignore

try {
  const { rigs } = await call<{ rigs: { id: string }[] }>('GET', '/observatory');
  await thirdRig(rigs[0].id);
  const all = (await call<{ rigs: { id: string; name: string }[] }>('GET', '/observatory')).rigs;
  for (const { id } of all) {
    await call('PUT', `/rigs/${id}/devices`, { kind: 'simulated', url: null });
    await call('POST', `/nights/${NIGHT}/publish`, { rigId: id });
    await call('POST', `/nights/${NIGHT}/play`, { rigId: id, speed: SPEED });
  }
  const stop = new AbortController();
  for (const who of LISTENERS) void listen(who, stop.signal).catch(() => undefined);
  const browser = await chromium.launch({ executablePath: process.env.MERIDIEM_CHROMIUM, args: ['--no-sandbox'] });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const took: { path: string; ms: number }[] = [];
  page.on('requestfinished', (request) => {
    const { requestStart, responseEnd } = request.timing();
    const { pathname } = new URL(request.url());
    if (pathname.startsWith('/api/') && pathname !== '/api/events' && responseEnd > 0)
      took.push({ path: `${request.method()} ${pathname.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, ':id')}`, ms: responseEnd - requestStart }); // prettier-ignore
  });
  await page.goto(`${state.url}/nights/${NIGHT}/watch?rig=${all[0].id}`);
  await page.getByRole('button', { name: /Ilse/ }).click();
  await page.getByRole('navigation').waitFor();
  await page.goto(`${state.url}/nights/${NIGHT}/watch?rig=${all[0].id}`);
  await page.getByRole('region', { name: 'Steps' }).waitFor({ timeout: 60_000 });
  await sleep(10_000);
  took.length = 0;
  events = 0;
  await sleep(SECONDS * 1000);
  const [{ taken }] = await queryStack<{ taken: number }>(`SELECT count(*)::int AS taken FROM run_steps WHERE outcome = 'done'`); // prettier-ignore
  await browser.close();
  stop.abort();
  console.log(`${all.length} rigs at ${SPEED}×, ${SECONDS} s: ${taken} exposures taken since the start, ${events} events to ${LISTENERS.length} listeners, ${took.length} requests by the page`); // prettier-ignore
  const all95 = took.map(({ ms }) => ms).toSorted((a, b) => a - b);
  console.log(`requests: median ${share(all95, 0.5).toFixed(0)} ms, p95 ${share(all95, 0.95).toFixed(0)} ms, slowest ${all95.at(-1)!.toFixed(0)} ms (p95 wanted under ${WANTED_MS} ms)`); // prettier-ignore
  for (const [path, of] of grouped(took)) {
    const sorted = of.map(({ ms }) => ms).toSorted((a, b) => a - b);
    console.log(`  ${path}: ${of.length}, median ${share(sorted, 0.5).toFixed(0)} ms, p95 ${share(sorted, 0.95).toFixed(0)} ms`); // prettier-ignore
  }
} finally {
  await stopStack();
}

function grouped(took: readonly { path: string; ms: number }[]): Map<string, { path: string; ms: number }[]> {
  const groups = new Map<string, { path: string; ms: number }[]>();
  for (const one of took) groups.set(one.path, [...(groups.get(one.path) ?? []), one]);
  return groups;
}
