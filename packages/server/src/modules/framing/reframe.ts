// A project framed anew: its panels carried on, added or dropped, and each exposure's credit kept, asked about or lost.
import type { FramedPanel, Reframing } from '@meridiem/contract';
import { panelName } from '@meridiem/contract';
import type { CreditFate, Pointing } from '@meridiem/core';
import { angleApartDeg, angleBetweenDeg, carriedOn, creditAfter, fieldOf, unitVector } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { attribute, ledgerChanged } from '../ledger/index.ts';
import { copyGoals, insertPanel, insertPointing, panelsOf } from '../projects/index.ts';
import type { CreditedExposure } from './taken.ts';
import { creditedExposures } from './taken.ts';
import type { PanelPointing } from './repository.ts';
import { opticsOfRig, dropPanels, goalsOfPanels, withdrawAttributions } from './repository.ts';

export interface FramedProject {
  readonly id: string;
  readonly observatoryId: string;
  readonly name: string;
  readonly rigId: string;
}

type Existing = Awaited<ReturnType<typeof panelsOf>>[number];

export interface Intention {
  readonly existing: readonly Existing[];
  readonly wanted: readonly FramedPanel[];
  /** For each wanted panel the existing one it carries on. */
  readonly carried: readonly (number | null)[];
  readonly credits: readonly {
    readonly exposure: CreditedExposure;
    readonly fate: CreditFate;
    readonly to: number | null;
    readonly coverage: number;
  }[];
}

export async function intentionOf(
  queries: Queries,
  project: FramedProject,
  wanted: readonly FramedPanel[],
): Promise<Intention> {
  const existing = await panelsOf(queries, project.observatoryId, project.id);
  const sides = await sidesOf(queries, project.rigId);
  const pointings = wanted.map(pointingOf);
  const before = existing.map(({ raDeg, decDeg, positionAngleDeg }) =>
    raDeg === null || decDeg === null ? null : { centre: { raDeg, decDeg }, positionAngleDeg },
  );
  const carried = carriedOn(before, pointings, sides);
  const exposures = await creditedExposures(queries, project.id);
  const credits = exposures.map((exposure) => {
    // What nobody can place keeps its credit where its panel carries on.
    const own = carried.findIndex((from) => from !== null && existing[from].id === exposure.panelId);
    if (!exposure.field)
      return { exposure, fate: own < 0 ? ('lose' as const) : ('keep' as const), to: own < 0 ? null : own, coverage: 1 };
    const { fate, panel, coverage } = creditAfter(exposure.field, pointings, sides);
    return { exposure, fate, to: panel, coverage };
  });
  return { existing, wanted, carried, credits };
}

const pointingOf = ({ raDeg, decDeg, positionAngleDeg }: FramedPanel): Pointing => ({
  centre: { raDeg, decDeg },
  positionAngleDeg,
});

export async function sidesOf(queries: Queries, rigId: string): Promise<{ widthDeg: number; heightDeg: number }> {
  return fieldOf((await opticsOfRig(queries, rigId))!);
}

/** What an intention amounts to, in panels and hours. */
export function reframingOf({ existing, wanted, carried, credits }: Intention, project: FramedProject): Reframing {
  const names = namesOf({ existing, wanted, carried }, project);
  const creditOf = (fate: CreditFate) => {
    const own = credits.filter((credit) => credit.fate === fate);
    return { exposures: own.length, hours: own.reduce((sum, { exposure }) => sum + exposure.exposureSec, 0) / 3600 };
  };
  const dropped = existing.filter((_, i) => !carried.includes(i));
  return {
    panels: [
      ...wanted.map((panel, i): Reframing['panels'][number] => {
        const from = carried[i] === null ? null : existing[carried[i]];
        if (!from) return { panelId: null, name: names[i], fate: 'new', movedArcmin: null, turnedDeg: null };
        const turnedDeg = angleApartDeg(from.positionAngleDeg, panel.positionAngleDeg);
        const movedArcmin =
          from.raDeg === null || from.decDeg === null
            ? null
            : 60 * angleBetweenDeg(unitVector({ raDeg: from.raDeg, decDeg: from.decDeg }), unitVector(panel));
        const fate = movedArcmin !== null && movedArcmin < 0.01 && turnedDeg < 0.01 ? 'stays' : 'moves';
        return { panelId: from.id, name: names[i], fate, movedArcmin, turnedDeg };
      }),
      ...dropped.map(({ id, name }) => ({
        panelId: id,
        name,
        fate: 'dropped' as const,
        movedArcmin: null,
        turnedDeg: null,
      })),
    ],
    keep: creditOf('keep'),
    ask: creditOf('ask'),
    lose: creditOf('lose'),
  };
}

/** Panels that carry on keep their names; new ones take the next numbers. */
function namesOf(
  { existing, wanted, carried }: Pick<Intention, 'existing' | 'wanted' | 'carried'>,
  project: FramedProject,
): string[] {
  const used = new Set(existing.map(({ name }) => name));
  let number = 1;
  return wanted.map((_, i) => {
    const from = carried[i];
    if (from !== null) return existing[from].name;
    let name = panelName(project.name, number, wanted.length);
    while (used.has(name)) name = panelName(project.name, ++number, Infinity);
    used.add(name);
    return name;
  });
}

/** What undoing needs. */
export interface ReframingRecord {
  readonly pointings: readonly PanelPointing[];
  readonly added: readonly string[];
  readonly dropped: readonly string[];
  readonly withdrawn: readonly string[];
  readonly inserted: readonly string[];
}

/** Writes an intention. @returns the pointings that were, and what was done */
export async function writeReframing(
  queries: Queries,
  project: FramedProject,
  intention: Intention,
  doubtful: 'keep' | 'lose',
): Promise<{ before: Pick<ReframingRecord, 'pointings'>; after: ReframingRecord }> {
  const { existing, wanted, carried } = intention;
  const names = namesOf(intention, project);
  const panelIds: string[] = [];
  const added: string[] = [];
  for (const [i, panel] of wanted.entries()) {
    const from = carried[i] === null ? null : existing[carried[i]];
    if (from) {
      const isSame =
        from.raDeg === panel.raDeg && from.decDeg === panel.decDeg && from.positionAngleDeg === panel.positionAngleDeg;
      if (!isSame) await insertPointing(queries, { observatoryId: project.observatoryId, panelId: from.id, ...panel });
      panelIds.push(from.id);
      continue;
    }
    const id = await insertPanel(queries, {
      observatoryId: project.observatoryId,
      projectId: project.id,
      name: names[i],
      ...panel,
    });
    if (existing[0]) await copyGoals(queries, new Map([[existing[0].id, id]]));
    added.push(id);
    panelIds.push(id);
  }
  const dropped = existing.filter((_, i) => !carried.includes(i)).map(({ id }) => id);
  await dropPanels(queries, dropped, true);
  const credit = await moveCredit(queries, project, intention, panelIds, doubtful);
  return {
    before: {
      pointings: existing.map(({ id, raDeg, decDeg, positionAngleDeg }) => ({
        panelId: id,
        raDeg,
        decDeg,
        positionAngleDeg,
      })),
    },
    after: {
      pointings: wanted.map(({ raDeg, decDeg, positionAngleDeg }, i) => ({
        panelId: panelIds[i],
        raDeg,
        decDeg,
        positionAngleDeg,
      })),
      added,
      dropped,
      ...credit,
    },
  };
}

/** Credit that keeps its panel is left alone; the rest is withdrawn and given anew, to another panel's goal or to none. */
async function moveCredit(
  queries: Queries,
  project: FramedProject,
  { credits }: Intention,
  panelIds: readonly string[],
  doubtful: 'keep' | 'lose',
): Promise<{ withdrawn: string[]; inserted: string[] }> {
  const goals = await goalsOfPanels(queries, panelIds);
  const moved = credits.flatMap(({ exposure, fate, to, coverage }) => {
    const isKept = fate === 'keep' || (fate === 'ask' && doubtful === 'keep');
    const panelId = isKept && to !== null ? panelIds[to] : exposure.panelId;
    const goalId = !isKept
      ? null
      : panelId === exposure.panelId
        ? exposure.goalId
        : (goals.find((goal) => goal.panelId === panelId && goal.recipeId === exposure.recipeId)?.id ?? null);
    if (panelId === exposure.panelId && goalId === exposure.goalId) return [];
    return [{ exposure, panelId, goalId, coverage }];
  });
  const withdrawn = moved.map(({ exposure }) => exposure.attributionId);
  await withdrawAttributions(queries, withdrawn);
  const inserted = await attribute(
    queries,
    project.observatoryId,
    moved.map(({ exposure, panelId, goalId, coverage }) => ({
      exposureId: exposure.exposureId,
      projectId: project.id,
      panelId,
      goalId,
      creditShare: exposure.creditShare,
      chargeShare: exposure.chargeShare,
      coverage: Math.min(1, coverage),
      reason: `reframed: covers ${Math.round(100 * coverage)} % of ${goalId === null ? 'the nearest panel' : 'its panel'}`,
    })),
  );
  await ledgerChanged(
    queries,
    project.observatoryId,
    moved.flatMap(({ exposure, goalId }) => [exposure.goalId, goalId]),
  );
  return { withdrawn, inserted };
}
