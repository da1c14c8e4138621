// Simulated time passes only while the night waits: against the simulated observatory's own clock, over HTTP.
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { TestSite } from '../../test/night-harness.ts';
import { deviceRun, openSite } from '../../test/night-harness.ts';
import type { NightClock } from './night-clock.ts';
import { realClock, simulatedClock } from './night-clock.ts';

const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const SPEED = 3000;
let at: TestSite;
let clock: NightClock;
beforeEach(async () => {
  at = await openSite();
  const { baseUrl } = at.runOf([]).deviceRun!;
  const { site, optics, wheel, park } = deviceRun(baseUrl);
  const facts = {
    site, ...optics, readNoiseE: 3, ePerAdu: 1, coolingBelowC: 40, slewDegPerSec: 3, mountLimitAfterSec: 1800, park, roofClears: false,
    filters: wheel.map(({ letter, widthNm }) => ({ name: letter, widthNm, focusOffsetSteps: 0 })), hasRotator: true, skyAngleDeg: 0,
  }; // prettier-ignore
  const put = (path: string, body: object) =>
    fetch(`${baseUrl}${path}`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }); // prettier-ignore
  await put('', facts);
  await put('/clock', { speed: SPEED });
  clock = simulatedClock(baseUrl, SPEED);
});
afterEach(() => at.close());

describe('simulated time', () => {
  it('passes by what the night waits for, and not while it works, however long that takes', async () => {
    await clock.wait(1);
    const before = await clock.nowUtcMs();
    await sleep(120);
    expect(await clock.nowUtcMs()).toBe(before);
    await clock.wait(40);
    expect((await clock.nowUtcMs()) - before).toBe(40_000);
  });

  it('does not pass for those who wait beside the night, who are woken at their time', async () => {
    await clock.wait(1);
    const before = await clock.nowUtcMs();
    const beside = clock.beside();
    let woken = 0;
    const looking = beside.wait(5).then(() => void (woken += 1));
    await sleep(120);
    expect([woken, await clock.nowUtcMs()]).toEqual([0, before]);
    await clock.wait(6);
    await looking;
    expect((await clock.nowUtcMs()) - before).toBe(6_000);
    beside.end();
  });

  it('stands while something beside the night is at work, and does not wait for what has ended', async () => {
    await clock.wait(1);
    const before = await clock.nowUtcMs();
    const beside = clock.beside();
    let hasPassed = false;
    const night = clock.wait(3).then(() => void (hasPassed = true));
    await sleep(120);
    expect([hasPassed, await clock.nowUtcMs()]).toEqual([false, before]);
    beside.end();
    await night;
    expect((await clock.nowUtcMs()) - before).toBe(3_000);
    await beside.wait(3600);
  });

  it('is cut short where the night is woken', async () => {
    await clock.wait(1);
    const before = await clock.nowUtcMs();
    setTimeout(() => clock.wake(), 60);
    await clock.poll(3600);
    expect((await clock.nowUtcMs()) - before).toBeLessThan(3_600_000);
  });

  it('is not begun where the night was woken just before, and passes after that', async () => {
    await clock.wait(1);
    const before = await clock.nowUtcMs();
    clock.wake();
    await clock.poll(60);
    expect(await clock.nowUtcMs()).toBe(before);
    await clock.poll(60);
    expect((await clock.nowUtcMs()) - before).toBe(60_000);
  });
});

describe('a real clock', () => {
  it('looks once a second, and waits for nobody beside it', async () => {
    const slept: number[] = [];
    const real = realClock(
      async (ms) => void slept.push(ms),
      () => 7,
    );
    await real.poll(300);
    await real.wait(4);
    const beside = real.beside();
    await beside.wait(2);
    beside.end();
    expect([slept, await real.nowUtcMs()]).toEqual([[1000, 4000, 2000], 7]);
  });
});
