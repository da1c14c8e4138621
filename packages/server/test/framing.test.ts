import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { addProject, catalogueAround, readObservatory, readProject } from '@meridiem/contract';
import { angleBetweenDeg, unitVector } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
}, 60_000);
afterAll(() => test.close());

describe('what stands around a place', () => {
  it.each([
    [83.82, -5.39, 2],
    [0.01, -89.9, 3],
    [359.99, 20, 5],
  ])(
    '%d, %d: everything inside the radius, brightest stars and largest objects first',
    async (raDeg, decDeg, radiusDeg) => {
      const { stars, objects } = (await test.call('sam', catalogueAround, { query: { raDeg, decDeg, radiusDeg } }))
        .body;
      expect(stars.length).toBeGreaterThan(20);
      const middle = unitVector({ raDeg, decDeg });
      for (const [ra, dec] of stars)
        expect(angleBetweenDeg(middle, unitVector({ raDeg: ra, decDeg: dec }))).toBeLessThanOrEqual(radiusDeg);
      expect(stars.map(([, , mag]) => mag)).toEqual(stars.map(([, , mag]) => mag).toSorted((a, b) => a - b));
      const sizes = objects.map(({ sizeArcmin }) => sizeArcmin ?? 0);
      expect(sizes).toEqual(sizes.toSorted((a, b) => b - a));
    },
  );

  it('knows the belt stars and the sword where they are', async () => {
    const { stars, starNames, objects } = (
      await test.call('sam', catalogueAround, { query: { raDeg: 84.05, decDeg: -1.2, radiusDeg: 1 } })
    ).body;
    expect(stars[0][2]).toBeCloseTo(1.69, 1);
    expect(starNames.map(([, , name]) => name)).toContain('Alnilam');
    const sword = (await test.call('sam', catalogueAround, { query: { raDeg: 83.82, decDeg: -5.39, radiusDeg: 1 } }))
      .body;
    expect(sword.objects.map(({ designation }) => designation).join()).toMatch(/NGC ?1976|M ?42/);
    expect(objects.length).toBeGreaterThan(0);
  });
});

describe('a composition sent to a project', () => {
  it('becomes its panels, numbered, each with its own centre and angle', async () => {
    const { rigs } = (await test.call('ruan', readObservatory)).body;
    const panels = [0, 1, 2].map((i) => ({ raDeg: 10 + i, decDeg: -25, positionAngleDeg: 12 + i }));
    const made = await test.call('ruan', addProject, {
      body: {
        name: 'Framed',
        rigId: rigs[0].id,
        targetName: 'NGC 253',
        raText: '11.888°',
        decText: '-25.288',
        positionAngleDeg: 12,
        panels,
      },
    });
    const project = (await test.call('ruan', readProject, { params: { id: made.body.id } })).body;
    expect(
      project.panels.map(({ name, raDeg, decDeg, positionAngleDeg }) => [name, raDeg, decDeg, positionAngleDeg]),
    ).toEqual([
      ['Framed, panel 1', 10, -25, 12],
      ['Framed, panel 2', 11, -25, 13],
      ['Framed, panel 3', 12, -25, 14],
    ]);
  });
});
