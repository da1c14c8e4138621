// A whole published night carried out by simulated devices, then judged: steps against ledger against files, each file by an
// independent reader, and what became of each stay. npm run night [-- SPEED]
import { execFileSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { DEMO_PASSWORD, emailOf } from '../demo/people.ts';
import { framesCopied, queryStack, startStack, stopStack } from '../e2e/stack.ts';

const NIGHT = '2026-10-14';
const SPEED = Number(process.argv[2] ?? 600);
const MOST_MIN = 6;
const LOOK_MS = 2000;

const problems: string[] = [];
const expect = (holds: boolean, words: string): void => {
  if (!holds) problems.push(words);
};

const state = await startStack();
const framesFolder = state.environment.MERIDIEM_FRAMES;
let cookie = '';

async function call<T>(method: string, path: string, body?: object): Promise<T> {
  const answer = await fetch(`${state.url}/api${path}`, {
    method,
    headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
    body: body ? JSON.stringify(body) : undefined,
  });
  if (path === '/session') cookie = String(answer.headers.get('set-cookie')).split(';')[0];
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
}

interface Night {
  readonly rigs: readonly {
    readonly rigId: string;
    readonly rigName: string;
    readonly run: { readonly state: string; readonly endedAs: string | null } | null;
  }[];
}
const wrenOf = ({ rigs }: Night) => rigs.find(({ rigName }) => rigName.startsWith('Wren'))!;

try {
  await call('POST', '/session', { email: emailOf({ key: 'ilse' }), password: DEMO_PASSWORD });
  const { rigId, rigName } = wrenOf(await call<Night>('GET', `/nights/${NIGHT}`));
  await call('PUT', `/rigs/${rigId}/devices`, { kind: 'simulated', url: null });
  await call('POST', `/nights/${NIGHT}/publish`, { rigId });
  const startedMs = performance.now();
  await call('POST', `/nights/${NIGHT}/play`, { rigId, speed: SPEED });
  let run = wrenOf(await call<Night>('GET', `/nights/${NIGHT}`)).run;
  while (run && !['finished', 'stopped'].includes(run.state) && performance.now() - startedMs < 30 * 60_000) {
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    run = wrenOf(await call<Night>('GET', `/nights/${NIGHT}`)).run;
  }
  const realSec = (performance.now() - startedMs) / 1000;
  await report(rigName, run?.endedAs ?? 'not ended', realSec);
} finally {
  await stopStack();
}
if (problems.length > 0) {
  console.log(`\n${problems.length} problems:\n${problems.map((words) => `- ${words}`).join('\n')}`);
  process.exit(1);
}
console.log('\nSteps, ledger and files agree.');

async function report(rigName: string, endedAs: string, realSec: number): Promise<void> {
  const [times] = await queryStack<{ from: Date; to: Date; actions: number; open: number }>(
    'SELECT min(started) AS from, max(ended) AS to, count(*)::int AS actions, (count(*) FILTER (WHERE outcome IS NULL))::int AS open FROM run_actions',
  );
  const nightSec = (times.to.getTime() - times.from.getTime()) / 1000;
  console.log(
    `${rigName}, ${NIGHT}: ${(nightSec / 3600).toFixed(1)} h in ${(realSec / 60).toFixed(1)} min, ${(nightSec / realSec).toFixed(0)}× in truth at ${SPEED}× asked; ended "${endedAs}"; ${times.actions} steps`,
  );
  expect(endedAs === 'finished', `the night ended as "${endedAs}"`);
  expect(realSec <= MOST_MIN * 60, `it took ${(realSec / 60).toFixed(1)} min, ${MOST_MIN} are allowed`);
  expect(times.open === 0, `${times.open} steps have no outcome`);
  const stays = await queryStack<{ panel: string; planned: number; taken: number; words: string | null }>(
    `SELECT l.name AS panel, count(*)::int AS planned, (count(*) FILTER (WHERE s.outcome = 'done'))::int AS taken,
       string_agg(DISTINCT CASE WHEN s.outcome = 'lost' THEN s.words END, '; ') AS words
     FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id WHERE s.outcome IS DISTINCT FROM 'replaced' GROUP BY l.name ORDER BY min(s.seq)`,
  );
  console.log('\n| stay | planned | taken | why not all |\n| --- | --- | --- | --- |');
  for (const { panel, planned, taken, words } of stays)
    console.log(`| ${panel} | ${planned} | ${taken} | ${words ?? ''} |`);
  const [{ done, undone, inLedger }] = await queryStack<{ done: number; undone: number; inLedger: number }>(
    `SELECT (count(*) FILTER (WHERE outcome = 'done'))::int AS done, (count(*) FILTER (WHERE outcome IS NULL))::int AS undone,
       (SELECT count(*)::int FROM exposures WHERE run_step_id IS NOT NULL) AS "inLedger" FROM run_steps`,
  );
  await framesCopied();
  const place = join(framesFolder, rigName.replace(/[^A-Za-z0-9]+/g, '-'), NIGHT);
  const files = readdirSync(place).filter((name) => name.endsWith('.fits'));
  console.log(`\n${done} exposures taken, ${inLedger} in the ledger, ${files.length} files`);
  expect(done > 0 && done === inLedger && done === files.length, 'steps, ledger and files differ in number');
  expect(undone === 0, `${undone} planned exposures have no outcome`);
  console.log(
    execFileSync('/usr/bin/python3', [join(import.meta.dirname, 'verify-frames.py'), place], {
      encoding: 'utf8',
    }).trim(),
  );
}
