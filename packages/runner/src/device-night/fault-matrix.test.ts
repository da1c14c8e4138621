// Every fault in every step it can meet, judged by the simulated observatory's own records: one in forty in the usual tests, by a seed,
// all of them with --long, written to docs/night.md.
import { readFileSync, writeFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { StepKind } from '@meridiem/core';
import { NIGHT_END_KINDS, nightAccount, seededRandom } from '@meridiem/core';
import { FAULTS } from '@meridiem/simulator';
import type { Played, SiteFault, TestSite } from '../../test/night-harness.ts';
import { open, openSite, START, step, violations } from '../../test/night-harness.ts';

const MET: readonly StepKind[] = ['connect', 'wait', 'cool', 'open roof', 'unstow', 'slew', 'filter', 'focus', 'solve', 'rotate', 'centre', 'guide', 'settle', 'expose', 'download', 'dither', 'stow', 'close roof', 'warm up']; // prettier-ignore
/** Long enough to be met, short enough to be over before the plan is; each answer of a slow device costs real time. */
const lastsSec = (fault: SiteFault): number => (fault === 'slow answers' ? 40 : 400);
const IS_LONG = process.env.MERIDIEM_LONG === '1';
const SHARE = 0.025;
/** Some faults alone, by name, for whoever mends one. */
const ONLY = process.env.MERIDIEM_FAULTS;

/** Those of the devices, the sky and the lines, and of the disk that takes the frames. */
const ALL: readonly SiteFault[] = [...FAULTS, 'disk full'];
const cases = ALL.flatMap((fault) => MET.map((during) => ({ fault, during })));
const random = seededRandom(Number(process.env.MERIDIEM_SEED ?? 1));
const chosen = (IS_LONG ? cases : cases.filter(() => random() < SHARE)).filter(
  ({ fault }) => !ONLY || ONLY.split(',').includes(fault),
);

const results = new Map<string, string>();
let at: TestSite;
beforeAll(async () => void (at = await openSite()));
afterAll(async () => {
  await at.close();
  if (IS_LONG) writeTable();
});

/** Two exposures of one panel, then two of another sixteen minutes later. */
const plan = () => [
  step(1),
  step(2),
  step(3, { panelId: 'b', panelName: 'Veil, panel 2', plannedStartUtcMs: START + 960_000 }),
  step(4, { panelId: 'b', panelName: 'Veil, panel 2', plannedStartUtcMs: START + 1_035_000 }),
];

describe('a fault', () => {
  it.each(chosen)('"$fault" while "$during" breaks no rule of the site', async ({ fault, during }) => {
    const played = await at.play(plan(), {
      fault: { during, fault, forSec: lastsSec(fault) },
      rigName: `${fault} ${during}`.replaceAll(' ', '-'),
    });
    results.set(`${fault}|${during}`, resultOf(played));
    expect(violations(played)).toEqual([]);
    expect(open(played)).toEqual([]);
    expect([...played.outcomes.keys()].sort()).toEqual([1, 2, 3, 4]);
    expect(NIGHT_END_KINDS).toContain(played.end);
    expect(accountOf(played)).toEqual({ hours: NIGHT_HOURS, exposedSec: exposedSec(played) });
    // What could not be closed is a roof or a mount that did not move; everything else is shut, over a parked mount.
    if (played.end === 'not closed') expect(['roof stuck', 'mount stuck']).toContain(fault);
    else expect([played.truth.roof, played.truth.isParked || fault === 'power cut']).toEqual(['closed', true]);
  });
});

const NIGHT_HOURS = 7;
const taken = ({ outcomes }: Played) => [...outcomes.values()].flatMap(({ exposure }) => exposure ?? []);
const exposedSec = (played: Played): number => taken(played).reduce((sum, { exposureSec }) => sum + exposureSec, 0);

/** The time account of the night: its entries fill it without gap, and what was exposed is in it whole, once. */
function accountOf(played: Played): { hours: number; exposedSec: number } {
  const night = { startUtcMs: START - 3_600_000, endUtcMs: START + 6 * 3_600_000 };
  const exposures = taken(played).map(({ startUtcMs, exposureSec }, i) => ({
    id: String(i),
    kind: 'light' as const,
    panelId: 'a',
    owner: null,
    startUtcMs,
    endUtcMs: startUtcMs + 1000 * exposureSec,
  }));
  const entries = nightAccount({ night, exposures, lostFrames: [], remarks: [], sunUp: [], moonUp: [], arrivalSec: 120, downloadSec: 5 }); // prettier-ignore
  const sec = (of: typeof entries): number => of.reduce((sum, { startUtcMs, endUtcMs }) => sum + (endUtcMs - startUtcMs) / 1000, 0); // prettier-ignore
  return {
    hours: sec(entries) / 3600,
    exposedSec: Math.round(sec(entries.filter(({ kind }) => kind === 'exposing'))),
  };
}

const resultOf = ({ end, outcomes }: Played): string =>
  `${end}, ${[...outcomes.values()].filter(({ outcome }) => outcome === 'done').length} of ${plan().length}`;

function cellsOf(table: string): Map<string, string> {
  const [head, , ...rows] = table
    .trim()
    .split('\n')
    .map((line) => line.split('|').slice(1, -1).map((cell) => cell.trim())); // prettier-ignore
  return new Map(
    rows.flatMap(([during, ...cells]) => cells.map((cell, i) => [`${head[i + 1]}|${during}`, cell] as const)),
  );
}

/** A cell that was not played this time keeps what it says. */
function writeTable(): void {
  const row = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`;
  const path = 'docs/night.md';
  const [before, old, after] = readFileSync(path, 'utf8').split(/<!-- (?:matrix|end of matrix) -->/);
  const said = cellsOf(old);
  const table = [
    row(['while', ...ALL]),
    row(['---', ...ALL.map(() => '---')]),
    ...MET.map((during) =>
      row([during, ...ALL.map((fault) => results.get(`${fault}|${during}`) ?? said.get(`${fault}|${during}`) ?? '')]),
    ),
  ].join('\n');
  writeFileSync(path, `${before}<!-- matrix -->\n\n${table}\n\n<!-- end of matrix -->${after}`);
}
