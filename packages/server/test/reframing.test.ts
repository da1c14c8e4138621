import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Project } from '@meridiem/contract';
import { editPanel, previewReframing, readProject, reframe, undoLast } from '@meridiem/contract';
import { fieldOf } from '@meridiem/core';
import { recountedDifferences, servedDifferences } from './recount.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let id: string;
let heightDeg: number;

beforeAll(async () => {
  test = await createTestApp({ exposures: 700 });
  // The project with the most exposures in one panel's goals.
  const most = await test.database.one<{ id: string; focal: number; pixel: number; w: number; h: number }>(
    `SELECT p.id, v.focal_length_mm AS focal, c.pixel_um AS pixel, c.width_px AS w, c.height_px AS h FROM projects p
     JOIN rig_revisions v ON v.rig_id = p.rig_id AND v.during @> now() JOIN cameras c ON c.id = v.camera_id
     JOIN attributions a ON a.project_id = p.id AND a.goal_id IS NOT NULL
     WHERE (SELECT count(*) FROM panels l WHERE l.project_id = p.id) = 1 GROUP BY 1, 2, 3, 4, 5 ORDER BY count(*) DESC LIMIT 1`,
  );
  id = most!.id;
  ({ heightDeg } = fieldOf({
    apertureMm: 100,
    focalLengthMm: most!.focal,
    pixelUm: most!.pixel,
    widthPx: most!.w,
    heightPx: most!.h,
  }));
}, 120_000);
afterAll(() => test.close());

const project = async (): Promise<Project> => (await test.call('ilse', readProject, { params: { id } })).body;
/** Sums of the same numbers may differ in their last digit by the order they were added in. */
const rounded = (tally: object): object =>
  Object.fromEntries(
    Object.entries(tally).map(([key, value]) => [key, typeof value === 'number' ? Number(value.toFixed(9)) : value]),
  );
const talliesOf = ({ panels }: Project) =>
  panels.map(({ name, raDeg, decDeg, positionAngleDeg, goals }) => ({
    name,
    raDeg,
    decDeg,
    positionAngleDeg,
    goals: goals.map(({ filterLetter, tally }) => ({ filterLetter, tally: rounded(tally) })),
  }));
/** The framing of a project, moved by a share of the field's height along the camera's upward side. */
const movedBy = ({ panels }: Project, share: number) =>
  panels.map(({ raDeg, decDeg, positionAngleDeg }) => {
    const turn = (positionAngleDeg * Math.PI) / 180;
    const by = share * heightDeg;
    return {
      raDeg: raDeg! + (by * Math.sin(turn)) / Math.cos((decDeg! * Math.PI) / 180),
      decDeg: decDeg! + by * Math.cos(turn),
      positionAngleDeg,
    };
  });
const acceptedIn = ({ panels }: Project): number =>
  panels.flatMap(({ goals }) => goals).reduce((sum, { tally }) => sum + tally.accepted + tally.undecided, 0);
const holds = async (): Promise<void> => {
  expect(await servedDifferences(test.database)).toEqual([]);
  expect(await recountedDifferences(test.database)).toEqual([]);
};

describe('a project reframed', () => {
  it('by less than a tenth keeps the credit of every exposure, and says so before', async () => {
    const before = await project();
    const panels = movedBy(before, 0.08);
    const told = (await test.call('ilse', previewReframing, { params: { id }, body: { panels } })).body;
    expect(told.keep.exposures).toBeGreaterThan(20);
    expect([told.ask.exposures, told.lose.exposures]).toEqual([0, 0]);
    expect(told.panels[0]).toMatchObject({ fate: 'moves', turnedDeg: 0 });
    expect(told.panels[0].movedArcmin).toBeCloseTo(4.8 * heightDeg, 1);
    expect(talliesOf(await project())).toEqual(talliesOf(before));

    await test.call('ilse', reframe, { params: { id }, body: { panels, doubtful: 'lose' } });
    const after = await project();
    expect(acceptedIn(after)).toBeCloseTo(acceptedIn(before), 9);
    expect(after.panels[0].decDeg).toBeCloseTo(panels[0].decDeg, 9);
    await test.call('ilse', undoLast);
    expect(talliesOf(await project())).toEqual(talliesOf(before));
    await holds();
  });

  it('by a third asks, and the answer holds either way', async () => {
    const before = await project();
    const panels = movedBy(before, 0.3);
    for (const doubtful of ['keep', 'lose'] as const) {
      const told = (await test.call('ilse', reframe, { params: { id }, body: { panels, doubtful } })).body;
      expect(told.ask.exposures).toBeGreaterThan(20);
      expect(acceptedIn(await project())).toBeCloseTo(doubtful === 'keep' ? acceptedIn(before) : 0, 9);
      await holds();
      await test.call('ilse', undoLast);
      expect(talliesOf(await project())).toEqual(talliesOf(before));
    }
  });

  it('by two thirds leaves the exposures in the ledger without credit, and undo restores every number', async () => {
    const before = await project();
    const inLedger = async () =>
      (await test.database.one<{ n: number }>(`SELECT count(*)::int AS n FROM ledger_rows WHERE project_id = $1`, [
        id,
      ]))!.n;
    const count = await inLedger();
    await test.call('ilse', reframe, { params: { id }, body: { panels: movedBy(before, 0.66), doubtful: 'keep' } });
    expect(acceptedIn(await project())).toBe(0);
    expect(await inLedger()).toBe(count);
    await test.call('ilse', undoLast);
    expect(talliesOf(await project())).toEqual(talliesOf(before));
    await holds();
  });

  it('with a panel more gets the goals of the first on it; with one fewer that panel rests with its exposures', async () => {
    const before = await project();
    const [own] = movedBy(before, 0);
    const beside = { ...own, decDeg: own.decDeg + 0.85 * heightDeg };
    await test.call('ilse', reframe, { params: { id }, body: { panels: [own, beside], doubtful: 'lose' } });
    const two = await project();
    expect(two.panels.map(({ goals }) => goals.length)).toEqual([
      before.panels[0].goals.length,
      before.panels[0].goals.length,
    ]);
    expect(acceptedIn(two)).toBeCloseTo(acceptedIn(before), 9);
    await test.call('ilse', reframe, { params: { id }, body: { panels: [beside], doubtful: 'lose' } });
    expect((await project()).panels.length).toBe(1);
    await holds();
    await test.call('ilse', undoLast);
    expect(talliesOf(await project())).toEqual(talliesOf(two));
    await test.call('ilse', undoLast);
    expect(talliesOf(await project())).toEqual(talliesOf(before));
    await holds();
  });

  it('can’t be taken back once it was framed anew again by somebody else', async () => {
    const before = await project();
    await test.call('ilse', reframe, { params: { id }, body: { panels: movedBy(before, 0.05), doubtful: 'lose' } });
    const owner = before.ownerName.startsWith('Ruan') ? 'ruan' : before.ownerName.split(' ')[0].toLowerCase();
    await test.call(owner, reframe, { params: { id }, body: { panels: movedBy(before, 0.02), doubtful: 'lose' } });
    const refusal = await test.call('ilse', undoLast);
    expect(refusal.status).toBe(409);
    await test.call(owner, undoLast);
    await test.call('ilse', undoLast);
    expect(talliesOf(await project())).toEqual(talliesOf(before));
  });

  it('by typed coordinates is refused where credit would be lost, in words that say what to do', async () => {
    const [panel] = (await project()).panels;
    const body = {
      raText: `${panel.raDeg}°`,
      decText: String(panel.decDeg! - 3),
      positionAngleDeg: panel.positionAngleDeg,
    };
    const refusal = await test.call('ilse', editPanel, { params: { id: panel.id }, body });
    expect(refusal.status).toBe(422);
    expect(JSON.stringify(refusal.body)).toMatch(/\d+ exposures would lose their credit here; reframe the project/);
  });

  it('belongs to its owner and the coordinator', async () => {
    const { ownerName } = await project();
    const other = ownerName.startsWith('Mirela') ? 'jonah' : 'mirela';
    const refusal = await test.call(other, previewReframing, {
      params: { id },
      body: { panels: movedBy(await project(), 0) },
    });
    expect(refusal.status).toBe(403);
  });
});
