// A night by devices behind a server that is silent, or has given the night to another runner.
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { AnyOperation } from '@meridiem/contract';
import { CLOSING_LONGEST_SEC } from '@meridiem/core';
import type { TestSite } from '../test/night-harness.ts';
import { openSite, step } from '../test/night-harness.ts';
import { carryOutByDevices } from './carry-out.ts';
import type { ServerLink } from './server-link.ts';
import { RefusedCall } from './server-link.ts';

let at: TestSite;
beforeEach(async () => void (at = await openSite()));
afterEach(() => at.close());

const nobody = (): Promise<never> => Promise.reject(new Error('nobody answers'));
const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const nameOf = ({ path }: AnyOperation): string => path.split('/').pop()!;
const roofOf = async (baseUrl: string): Promise<string> =>
  ((await (await fetch(`${baseUrl}/truth`)).json()) as { roof: string }).roof;

describe('a night by devices', () => {
  it('goes on to its closed end while the server is silent, and reports everything in order afterwards', async () => {
    const run = at.runOf([step(1), step(2)]);
    const calls: string[] = [];
    let isBack = false;
    const link: ServerLink = {
      once: nobody,
      async call(operation, _id, body) {
        // As the real link: a call is repeated until it is answered.
        while (!isBack) await sleep(20);
        const { actions, stepId } = body as { actions?: { kind: string; outcome: string | null }[]; stepId?: string };
        calls.push(
          ...(actions?.map(({ kind, outcome }) => `${kind} ${outcome ?? '…'}`) ?? [
            `${nameOf(operation)} ${stepId?.slice(-1) ?? ''}`.trim(),
          ]),
        );
        return { goOn: true, state: 'finished' } as never;
      },
    };
    const night = carryOutByDevices(run, { link, sleep, framesFolder: at.folder });
    while ((await roofOf(run.deviceRun!.baseUrl).catch(() => '')) !== 'open') await sleep(20);
    while ((await roofOf(run.deviceRun!.baseUrl)) !== 'closed') await sleep(20);
    expect(calls).toEqual([]);
    isBack = true;
    expect(await night).toBe('finished');
    expect(calls.filter((call) => /^(begin|finish) /.test(call))).toEqual([
      'begin 1',
      'finish 1',
      'begin 2',
      'finish 2',
    ]);
    expect(calls.indexOf('begin 1')).toBeLessThan(calls.indexOf('finish 1'));
    expect([calls[0], calls.at(-1)]).toEqual(['connect …', 'end']);
    expect(calls.filter((call) => call.endsWith('…')).length).toBe(
      calls.filter((call) => /(done|failed|interrupted)$/.test(call) && !call.startsWith('note')).length,
    );
  });

  it('closes while its lease lasts where it does not stand at the site and the server is silent', async () => {
    const run = { ...at.runOf([1, 2, 3, 4, 5, 6].map((seq) => step(seq))), leaseSec: CLOSING_LONGEST_SEC + 0.3 };
    const told: string[] = [];
    let isBack = false;
    const link: ServerLink = {
      once: nobody,
      async call(operation, _id, body) {
        while (!isBack) await sleep(20);
        if (nameOf(operation) === 'finish') told.push((body as { outcome: string }).outcome);
        return { goOn: true, state: 'finished' } as never;
      },
    };
    const night = carryOutByDevices(run, { link, sleep, framesFolder: at.folder });
    const { baseUrl } = run.deviceRun!;
    const isParking = async (): Promise<boolean> =>
      (await (await fetch(`${baseUrl}/truth`)).text()).includes('the mount is asked to park');
    while (!(await isParking().catch(() => false))) await sleep(20);
    while ((await roofOf(baseUrl)) !== 'closed') await sleep(20);
    isBack = true;
    expect([await night, await roofOf(baseUrl)]).toEqual(['closed early', 'closed']);
    expect(told).toHaveLength(6);
    expect(told.at(-1)).toBe('lost');
  });

  it('closes and lets go where another runner minds it now', async () => {
    const run = at.runOf([1, 2, 3, 4].map((seq) => step(seq)));
    const ended: string[] = [];
    const link: ServerLink = {
      once: nobody,
      async call(operation) {
        if (nameOf(operation) === 'begin')
          throw new RefusedCall({ code: 'LEASE_LOST', message: 'another runner has it' });
        ended.push(nameOf(operation));
        return { goOn: true, state: 'stopped' } as never;
      },
    };
    expect(await carryOutByDevices(run, { link, sleep, framesFolder: at.folder })).toBe('lease lost; stopped');
    expect(await roofOf(run.deviceRun!.baseUrl)).toBe('closed');
    expect(ended).not.toContain('end');
  });
});
