import { describe, expect, it } from '@jest/globals';
import { angleBetweenDeg, directionOf, toDate, unitVector } from '@meridiem/core';
import { observatoryClock } from './clock.ts';
import { SimulatedMount } from './mount.ts';
import { RoofRefusal, SimulatedRoof } from './roof.ts';
import type { RigFacts } from './rig-facts.ts';
import { SlowAxis } from './slow-axis.ts';
import { SteppedTime } from './stepped-time.ts';
import { weatherAt } from './weather.ts';

const START = Date.parse('2026-12-08T20:30Z');
const facts: RigFacts = {
  site: { latitudeDeg: -30, longitudeDeg: 20, elevationM: 1000 },
  apertureMm: 106, focalLengthMm: 530, pixelUm: 9, widthPx: 500, heightPx: 400, readNoiseE: 3, ePerAdu: 1, coolingBelowC: 40,
  slewDegPerSec: 3, mountLimitAfterSec: 900, park: { altitudeDeg: 10, azimuthDeg: 180 }, roofClears: false,
  filters: [{ name: 'L', widthNm: 260, focusOffsetSteps: 0 }], hasRotator: true, skyAngleDeg: 0,
}; // prettier-ignore
const target = { raDeg: 70, decDeg: -35 };
const apartArcsec = (a: typeof target, b: typeof target): number =>
  3600 * angleBetweenDeg(unitVector(a), unitVector(b));

describe('the simulated clock', () => {
  it('runs at its speed, stands while held, and is set', () => {
    let real = 0;
    const clock = observatoryClock(() => real, 1000);
    clock.set({ speed: 60 });
    real = 10;
    expect(clock.nowUtcMs()).toBe(1600);
    const release = clock.hold();
    real = 500;
    expect(clock.nowUtcMs()).toBe(1600);
    release();
    release();
    real = 501;
    expect(clock.nowUtcMs()).toBe(1660);
    clock.set({ utcMs: 9000 });
    expect(clock.nowUtcMs()).toBe(9000);
  });

  it('goes on by just what is waited for, two waiters each at their own moment, however late the machine is', async () => {
    let real = 0;
    const clock = observatoryClock(() => real, 0);
    clock.set({ speed: 1000 });
    const time = new SteppedTime(clock);
    const woken: number[] = [];
    const both = [3, 1].map((sec) => time.run(sec).then(() => woken.push(clock.nowUtcMs())));
    real += 99_999;
    await Promise.all(both);
    expect(woken).toEqual([1000, 3000]);
    real += 99_999;
    expect(clock.nowUtcMs()).toBe(3000);
  });
});

describe('the simulated mount', () => {
  const mount = () => {
    const made = new SimulatedMount(facts, 7, START);
    made.unpark(START);
    return made;
  };

  it('slews at its rate, lands off by its error, and after a sync where it is sent', () => {
    const at = mount();
    at.slew(toDate(target, START), START);
    expect(at.isSlewing(START + 1000)).toBe(true);
    const landed = START + 120_000;
    expect([at.isSlewing(landed), at.isTracking(landed)]).toEqual([false, true]);
    const off = apartArcsec(at.pointing(landed), target);
    expect(off).toBeGreaterThan(60);
    expect(off).toBeLessThan(0.6 * 3600);
    at.sync(toDate(at.pointing(landed), landed), landed);
    at.slew(toDate(target, landed), landed);
    expect(apartArcsec(at.pointing(landed + 60_000), target)).toBeLessThan(60);
  });

  it('parks where it is told to, takes no slew parked, and stays where it is when stuck', () => {
    const at = mount();
    at.slew(toDate(target, START), START);
    at.park(START + 120_000);
    expect(at.isParked).toBe(false);
    at.isSlewing(START + 300_000);
    expect([at.isParked, at.direction(START + 300_000)]).toEqual([true, facts.park]);
    expect(() => at.slew(target, START + 301_000)).toThrow('parked');
    const stuck = mount();
    stuck.stick(true, START);
    stuck.park(START);
    expect([stuck.isSlewing(START + 600_000), stuck.isParked]).toEqual([false, false]);
  });

  it('stops by itself past its limit after the meridian, from the western side of its pier', () => {
    const at = mount();
    at.slew(toDate(target, START), START);
    expect(at.isTracking(START + 60_000)).toBe(true);
    expect(directionOf(facts.site, target, START).altitudeDeg).toBeGreaterThan(45);
    const isTrackingAfter = (hours: number): boolean => at.isTracking(START + hours * 3_600_000);
    expect([0.5, 6].map(isTrackingAfter)).toEqual([true, false]);
  });
});

describe('the simulated roof', () => {
  it('takes forty seconds, and does not move over what is in its way', () => {
    const roof = new SimulatedRoof(0);
    roof.move(1, 0, { isClear: true, isStuck: false });
    expect([roof.state(20_000), roof.state(40_000)]).toEqual(['opening', 'open']);
    expect(() => roof.move(-1, 50_000, { isClear: false, isStuck: false })).toThrow(RoofRefusal);
    expect(roof.state(90_000)).toBe('open');
    roof.move(-1, 100_000, { isClear: true, isStuck: true });
    expect(roof.state(200_000)).toBe('open');
    roof.move(-1, 200_000, { isClear: true, isStuck: false });
    roof.halt(220_000);
    expect([roof.state(300_000), roof.openShare(300_000)]).toEqual(['error', 0.5]);
  });
});

it('an axis moves at its pace, stops where it is halted', () => {
  const axis = new SlowAxis(0, 0, 10);
  axis.move(100, 0);
  expect([axis.at(5000), axis.isMoving(5000), axis.at(10_000), axis.isMoving(10_000)]).toEqual([50, true, 100, false]);
  axis.move(0, 10_000);
  axis.halt(12_000);
  expect([axis.at(60_000), axis.isMoving(60_000)]).toEqual([80, false]);
});

it('weather is its seed’s own, mostly clear, and stays for a while', () => {
  const hours = Array.from({ length: 2000 }, (_, i) => weatherAt(5, START + i * 3_600_000).cloudShare);
  const clear = hours.filter((share) => share < 0.1).length / hours.length;
  expect(clear).toBeGreaterThan(0.6);
  expect(clear).toBeLessThan(0.95);
  const stays = hours.filter((share, i) => i > 0 && share < 0.1 === hours[i - 1] < 0.1).length / hours.length;
  expect(stays).toBeGreaterThan(0.8);
  expect(weatherAt(5, START)).toEqual(weatherAt(5, START));
});
