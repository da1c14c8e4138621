// Stored rows and tonight's survey to what the project pages show.
import type { Chance, EarlierSettings, Goal, LimitRow, Panel, Project, ProjectRow, Tally } from '@meridiem/contract';
import type { CountingPolicy, SensorSides, StepCosts } from '@meridiem/core';
import {
  doneCount,
  doneShare,
  exposureCycleSec,
  shareRead,
  exposuresToPlan,
  goalTime,
  isGoalDone,
  countingInForce,
  LIMIT_KEYS,
  limitsInForce,
  panelShare,
} from '@meridiem/core';
import type { Viewer } from '../../plugins/sessions.ts';
import { differenceWords } from './earlier.ts';
import type { GoalRecord, PanelRecord, ProjectRecord } from './repository.ts';

export interface ProjectParts {
  readonly project: ProjectRecord;
  readonly panels: readonly PanelRecord[];
  readonly goals: readonly GoalRecord[];
  /** null where the project isn't surveyed (retired). */
  readonly chances: ReadonlyMap<string, Chance>;
  readonly acceptanceRate: number;
}

export interface ScopedLimitRow extends LimitRow {
  readonly projectId: string | null;
  readonly goalId: string | null;
}

const countingOf = (
  { counting, judging, hasRules }: Pick<ProjectRecord, 'counting' | 'judging' | 'hasRules'>,
  { wanted }: GoalRecord,
): CountingPolicy => countingInForce(counting, { judging, hasRules, wanted });

export function tallyOf(goal: GoalRecord, counting: CountingPolicy, rate: number): Tally {
  const hours = (sec: number): number => sec / 3600;
  return {
    accepted: goal.accepted,
    undecided: goal.undecided,
    rejected: goal.rejected,
    wanted: goal.wanted,
    acceptedHours: hours(goal.acceptedSec),
    undecidedHours: hours(goal.undecidedSec),
    rejectedHours: hours(goal.rejectedSec),
    wantedHours: goal.wanted === null ? null : hours(goal.wanted * goal.exposureSec),
    effectiveHours: hours(goal.effectiveSec),
    done: doneCount(goal, counting),
    toPlan: goal.wanted === null ? null : exposuresToPlan(goal, counting, rate),
  };
}

/** How far a panel is. */
const sharesOf = ({ project, panels, goals }: ProjectParts): number[] =>
  panels.map((panel) =>
    panelShare(
      goals
        .filter((goal) => goal.enabled && goal.panelId === panel.id)
        .map((goal) => doneShare(goal, countingOf(project, goal))),
    ),
  );

/** Panels nearer to each other than this are behind together. */
const CLOSE_SHARE = 0.005;

/** The one panel of a mosaic that is behind all others. */
export function heldBackBy(parts: ProjectParts): string | null {
  const order = sharesOf(parts)
    .map((share, i) => ({ share, name: parts.panels[i].name }))
    .toSorted((a, b) => a.share - b.share);
  return order.length > 1 && order[1].share - order[0].share >= CLOSE_SHARE ? order[0].name : null;
}

function summary(parts: ProjectParts, viewer: Viewer) {
  const { orbit, hasRules, ...project } = parts.project;
  const policyOf = (goal: GoalRecord): CountingPolicy => countingOf({ ...project, hasRules }, goal);
  const active = parts.goals.filter((goal) => goal.enabled);
  return {
    ...project,
    moves: orbit !== null,
    complete: active.length > 0 && active.every((goal) => isGoalDone(goal, policyOf(goal))),
    share: active.length === 0 ? 0 : Math.min(1, ...sharesOf(parts)),
    mayEdit: mayEdit(project, viewer),
  };
}

export const mayEdit = (project: Pick<ProjectRecord, 'ownerId'>, viewer: Viewer): boolean =>
  viewer.role === 'coordinator' || (viewer.role !== 'guest' && project.ownerId === viewer.personId);

export function projectRow(parts: ProjectParts, viewer: Viewer): ProjectRow {
  const letters = [...new Set(parts.goals.filter((goal) => goal.enabled).map((goal) => goal.filterLetter))];
  const chances = parts.goals.flatMap((goal) => parts.chances.get(goal.id) ?? []);
  const planned = chances.reduce((sum, chance) => sum + chance.planned, 0);
  return {
    ...summary(parts, viewer),
    panelCount: parts.panels.length,
    heldBackBy: heldBackBy(parts),
    filters: letters.map((letter) => {
      const own = parts.goals.filter((goal) => goal.filterLetter === letter && goal.enabled);
      return {
        filterLetter: letter,
        filterClass: own[0].filterClass,
        tally: summed(own.map((goal) => tallyOf(goal, countingOf(parts.project, goal), parts.acceptanceRate))),
      };
    }),
    tonight: {
      planned,
      usableHours: Math.max(0, ...chances.map((chance) => chance.usableHours)),
      windows: widest(chances),
      reason:
        planned > 0
          ? null
          : (chances.find((chance) => chance.reason && chance.reason.code !== 'COMPLETE')?.reason ??
            chances[0]?.reason ??
            null),
    },
  };
}

/** The windows of the goal that could use the night longest. */
const widest = (chances: readonly Chance[]): Chance['windows'] =>
  chances.reduce<Chance | null>(
    (best, chance) => (best && best.usableHours >= chance.usableHours ? best : chance),
    null,
  )?.windows ?? [];

function summed(tallies: readonly Tally[]): Tally {
  const total = (key: keyof Tally): number => tallies.reduce((sum, tally) => sum + (tally[key] ?? 0), 0);
  const endless = tallies.some((tally) => tally.wanted === null);
  return {
    accepted: total('accepted'),
    undecided: total('undecided'),
    rejected: total('rejected'),
    wanted: endless ? null : total('wanted'),
    acceptedHours: total('acceptedHours'),
    undecidedHours: total('undecidedHours'),
    rejectedHours: total('rejectedHours'),
    wantedHours: endless ? null : total('wantedHours'),
    effectiveHours: total('effectiveHours'),
    done: total('done'),
    toPlan: endless ? null : total('toPlan'),
  };
}

export interface ProjectSurroundings {
  readonly costs: StepCosts;
  readonly sensor: SensorSides | null;
  readonly limits: readonly ScopedLimitRow[];
  readonly night: { startUtcMs: number; endUtcMs: number };
  /** Words about goals whose exposures mix what should not be mixed. */
  readonly mixes: ReadonlyMap<string, string>;
  readonly earlier: readonly EarlierSettings[];
}

export function projectPage(parts: ProjectParts, viewer: Viewer, around: ProjectSurroundings): Project {
  const plain = ({ class: ofClass, key, value }: ScopedLimitRow): LimitRow => ({ class: ofClass, key, value });
  const ofProject = around.limits.filter((limit) => limit.projectId === parts.project.id);
  const ofObservatory = around.limits.filter((limit) => limit.projectId === null && limit.goalId === null);
  const panels = parts.panels.map((panel): Panel => {
    const goals = parts.goals.filter((goal) => goal.panelId === panel.id);
    const shares = goals.filter((goal) => goal.enabled).map((goal) => doneShare(goal, countingOf(parts.project, goal)));
    const { id, name, raDeg, decDeg, positionAngleDeg } = panel;
    return {
      id,
      name,
      raDeg,
      decDeg,
      positionAngleDeg,
      share: shares.length === 0 ? 0 : panelShare(shares),
      goals: goals.map((goal) => goalPage(parts, goal, around)),
    };
  });
  return {
    ...summary(parts, viewer),
    panels,
    limits: ofProject.map(plain),
    observatoryLimits: ofObservatory.map(plain),
    night: around.night,
    acceptanceRate: parts.acceptanceRate,
    earlier: [...around.earlier],
  };
}

function goalPage(parts: ProjectParts, goal: GoalRecord, surroundings: ProjectSurroundings): Goal {
  const { costs, sensor, limits, mixes, earlier } = surroundings;
  const settings = { ...goal, shareRead: sensor ? shareRead(sensor, goal.region) : 1 };
  const own = limits.filter((limit) => limit.goalId === goal.id);
  const tally = tallyOf(goal, countingOf(parts.project, goal), parts.acceptanceRate);
  const left = tally.toPlan === null ? null : goalTime(costs, settings, tally.toPlan);
  const inForce = limitsInForce(
    limits
      .filter(
        (limit) =>
          limit.goalId === goal.id ||
          limit.projectId === parts.project.id ||
          (limit.goalId === null && limit.projectId === null),
      )
      .map((limit) => ({ ...limit, scope: limit.goalId ? 'goal' : limit.projectId ? 'project' : 'observatory' })),
    goal.filterClass,
  );
  return {
    ...picked(goal, SHOWN_OF_GOAL),
    newerRevisionSeq: goal.newestRevisionSeq > goal.recipeRevisionSeq ? goal.newestRevisionSeq : null,
    tally,
    leftExposingSec: left?.exposingSec ?? null,
    leftOverheadSec: left?.overheadSec ?? null,
    limits: LIMIT_KEYS.map((key) => ({ key, ...inForce[key] })),
    ownLimits: own.map(({ class: ofClass, key, value }) => ({ class: ofClass, key, value })),
    tonight: parts.chances.get(goal.id) ?? null,
    mixed: mixes.get(goal.id) ?? null,
    differs: differenceWords(earlier, goal),
    cycleSec: exposureCycleSec(costs, settings),
  };
}

/** What a page shows of a goal's row as it is stored. */
const SHOWN_OF_GOAL = [
  ...([
    'id',
    'panelId',
    'recipeId',
    'recipeName',
    'recipeRevisionSeq',
    'filterId',
    'filterLetter',
    'filterClass',
  ] as const),
  ...([
    'exposureSec',
    'gain',
    'offset',
    'binning',
    'ditherEvery',
    'ditherPx',
    'region',
    'wanted',
    'enabled',
    'why',
    'version',
  ] as const),
] as const;

const picked = <T, K extends keyof T>(row: T, keys: readonly K[]): Pick<T, K> =>
  Object.fromEntries(keys.map((key) => [key, row[key]])) as Pick<T, K>;
