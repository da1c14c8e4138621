// The sky turns unsafe at random moments of every step, at ten times the speed: how soon the mount is sent to its park position and
// the roof closed, by the simulated observatory's own clock and records.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { StepKind } from '@meridiem/core';
import { seededRandom } from '@meridiem/core';
import type { Played, TestSite } from '../../test/night-harness.ts';
import { open, openSite, step, violations } from '../../test/night-harness.ts';

/** Steps while which there is something open to close. */
const MOMENTS: readonly StepKind[] = ['open roof', 'unstow', 'slew', 'filter', 'focus', 'solve', 'rotate', 'centre', 'guide', 'settle', 'expose', 'download', 'dither']; // prettier-ignore
const IS_LONG = process.env.MERIDIEM_LONG === '1';
const EACH = IS_LONG ? 8 : 1;
const [SLOW, FAST] = [10, 600];
/** Safety is read every 5 s at the latest, and parking commanded within 2 s of its answer. */
const PARKED_WITHIN_SEC = 7;
const CLOSED_WITHIN_SEC = 5;
const UNSAFE_SEC = 30;

const random = seededRandom(Number(process.env.MERIDIEM_SEED ?? 1));
const all = MOMENTS.flatMap((during) =>
  Array.from({ length: EACH }, (_, i) => ({ during, i, afterMs: Math.round(300 * random()) })),
);
const cases = IS_LONG ? all : all.filter((_, i) => i % 13 === 10);

let at: TestSite;
beforeAll(async () => void (at = await openSite()));
afterAll(() => at.close());

const put = (address: string, body: object) =>
  fetch(address, { method: 'PUT', body: JSON.stringify(body), headers: { 'content-type': 'application/json' } });

const noteOf = ({ truth }: Played, what: string, fromUtcMs = 0): number | undefined =>
  truth.entries.find((entry) => entry.what === what && entry.utcMs >= fromUtcMs)?.utcMs;

describe('an unsafe sky', () => {
  it.each(cases)(
    'while "$during", $afterMs ms in, has the mount parked and the roof closed in time',
    async ({ during, i, afterMs }) => {
      let isBroken = false;
      const played = await at.play(
        [1, 2, 3].map((seq) => step(seq)),
        {
          speed: SLOW,
          rigName: `${during}-${i}`.replaceAll(' ', '-'),
          onReport: ({ kind, outcome }, baseUrl) => {
            if (kind === 'connect' && outcome === null) void put(`${baseUrl}/clock`, { speed: FAST });
            if (kind !== during || outcome !== null || isBroken) return;
            isBroken = true;
            void put(`${baseUrl}/clock`, { speed: SLOW })
              .then(() => new Promise((resolve) => setTimeout(resolve, afterMs)))
              .then(() => put(`${baseUrl}/faults`, { fault: 'unsafe', forSec: UNSAFE_SEC }))
              // The twenty minutes for which safe must hold are no part of what is measured.
              .then(() => new Promise((resolve) => setTimeout(resolve, (1000 * 1.2 * UNSAFE_SEC) / SLOW)))
              .then(() => put(`${baseUrl}/clock`, { speed: FAST }));
          },
        },
      );
      const unsafeUtcMs = noteOf(played, 'fault: unsafe')!;
      const askedUtcMs = noteOf(played, 'the mount is asked to park', unsafeUtcMs)!;
      expect((askedUtcMs - unsafeUtcMs) / 1000).toBeLessThanOrEqual(PARKED_WITHIN_SEC);
      // It may have been parked already, as while the roof opens.
      const parkedUtcMs = noteOf(played, 'the mount is parked', askedUtcMs) ?? askedUtcMs;
      const closingUtcMs = noteOf(played, 'the roof is asked to close', unsafeUtcMs)!;
      if (closingUtcMs >= parkedUtcMs)
        expect((closingUtcMs - parkedUtcMs) / 1000).toBeLessThanOrEqual(CLOSED_WITHIN_SEC);
      const light = played.truth.entries.filter(
        ({ what, utcMs }) => what.startsWith('light begun') && utcMs >= unsafeUtcMs && utcMs < closingUtcMs,
      );
      expect(light.map(({ utcMs }) => (utcMs - unsafeUtcMs) / 1000).filter((sec) => sec > PARKED_WITHIN_SEC)).toEqual(
        [],
      );
      expect(violations(played).filter((what) => what !== 'light was begun in danger')).toEqual([]);
      expect(open(played)).toEqual([]);
      expect([played.end, played.truth.roof]).toEqual(['finished', 'closed']);
    },
  );
});
