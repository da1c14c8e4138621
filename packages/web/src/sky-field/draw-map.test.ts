import { describe, expect, it } from '@jest/globals';
import { unitVector } from '@meridiem/core';
import type { SkyContent } from './sky-map.ts';
import { drawMap } from './sky-map.ts';

const INKS = { ink: 'ink', outline: 'outline', line: 'line' };
const view = { centre: { raDeg: 120, decDeg: -30 }, widthDeg: 4, widthPx: 800, heightPx: 600 };

/** A canvas that writes down what is drawn on it. */
function recorder() {
  const calls: { what: string; at: number[]; text?: string }[] = [];
  const note =
    (what: string) =>
    (...at: (number | string | number[])[]): void => {
      const text = typeof at[0] === 'string' ? at[0] : undefined;
      calls.push({
        what,
        at: at.flat().filter((one): one is number => typeof one === 'number'),
        ...(text ? { text } : {}),
      });
    };
  const canvas = Object.fromEntries(
    ['fillRect', 'beginPath', 'arc', 'fill', 'stroke', 'fillText', 'moveTo', 'lineTo', 'setLineDash'].map((what) => [
      what,
      note(what),
    ]),
  );
  return {
    canvas: canvas as unknown as CanvasRenderingContext2D,
    of: (what: string) => calls.filter((call) => call.what === what),
  };
}
const drawn = (content: Partial<SkyContent>, wish = { names: false, grid: false }) => {
  const { canvas, of } = recorder();
  drawMap(canvas, view, { stars: [], objects: [], ...content }, wish, INKS);
  return of;
};
const star = (raDeg: number, decDeg: number, mag: number) => ({ direction: unitVector({ raDeg, decDeg }), mag });
const object = (raDeg: number, decDeg: number, radiusDeg: number, name = 'NGC 55') => ({
  direction: unitVector({ raDeg, decDeg }),
  radiusDeg,
  name,
});

describe('stars on the map', () => {
  it('stand where they are, the brighter the larger', () => {
    const of = drawn({ stars: [star(120, -30, 3), star(120, -30, 6)] });
    const [bright, faint] = of('arc').map(({ at }) => at);
    expect(bright.slice(0, 2)).toEqual([expect.closeTo(400, 6), expect.closeTo(300, 6)]);
    expect(bright[2]).toBeGreaterThan(faint[2]);
  });
  it('faint ones are small squares around their place', () => {
    const [{ at }] = drawn({ stars: [star(120, -30, 14)] })('fillRect');
    const [x, y, width, height] = at;
    expect([x + width / 2, y + height / 2]).toEqual([expect.closeTo(400, 6), expect.closeTo(300, 6)]);
    expect(width).toBe(height);
    expect(width).toBeGreaterThan(0);
  });
  it('outside the view, or behind one, are not drawn', () => {
    const of = drawn({ stars: [star(140, -30, 3), star(300, 30, 3)] });
    expect(of('arc')).toEqual([]);
  });
});

describe('objects on the map', () => {
  it('are dashed circles of their size', () => {
    const of = drawn({ objects: [object(120, -30, 0.5)] });
    const [{ at }] = of('arc');
    // 200 px a degree in the middle.
    expect(at[2]).toBeCloseTo(100, 0);
    expect(of('setLineDash').map((call) => call.at)).toEqual([[3, 3], []]);
  });
  it('too small to see or wider than the view carry none', () =>
    expect(drawn({ objects: [object(120, -30, 0.01), object(120, -30, 5)] })('arc')).toEqual([]));
  it('that reach into the view from outside are drawn', () =>
    expect(drawn({ objects: [object(122.8, -30, 0.6)] })('arc')).toHaveLength(1));
  it('are named on demand, and never more than can be read', () => {
    const many = Array.from({ length: 40 }, (_, i) => object(119 + i * 0.05, -30, 0.1, `NGC ${i}`));
    expect(drawn({ objects: many })('fillText')).toEqual([]);
    const of = drawn({ objects: many }, { names: true, grid: false });
    expect(of('arc')).toHaveLength(40);
    expect(of('fillText').length).toBeGreaterThan(5);
    expect(of('fillText').length).toBeLessThan(20);
    expect(of('fillText')[0].text).toBe('NGC 0');
  });
});

describe('the grid on the map', () => {
  it('is drawn in whole lines, each labelled once inside the view', () => {
    const of = drawn({}, { names: false, grid: true });
    const labels = of('fillText');
    expect(of('stroke').length).toBeGreaterThanOrEqual(labels.length);
    expect(labels.length).toBeGreaterThan(4);
    for (const { at, text } of labels) {
      expect(text).toMatch(/^[+−\d]/);
      expect(at[0]).toBeGreaterThan(0);
      expect(at[0]).toBeLessThan(view.widthPx);
      expect(at[1]).toBeGreaterThan(0);
      expect(at[1]).toBeLessThan(view.heightPx);
    }
    expect(new Set(labels.map(({ text }) => text)).size).toBe(labels.length);
  });
  it('is left out where nobody wants it', () => expect(drawn({})('lineTo')).toEqual([]));
});
