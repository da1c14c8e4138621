// What a change of a rig touches, told before it is saved: framings, goals, flats, plans, and what becomes of each.
import type { RigEffect, RigWish } from '@meridiem/contract';
import { angleServes, fieldOf, leastShared } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { RigRecord } from './repository.ts';
import type { OpenProject } from './effects-repository.ts';
import { countExposures, lettersOf, openProjects, publishedNights } from './effects-repository.ts';

const OPTICS = ['focalLengthMm', 'apertureMm', 'pixelUm', 'widthPx', 'heightPx'] as const;
const FRAMING = ['focalLengthMm', 'pixelUm', 'widthPx', 'heightPx'] as const;
const CAMERA = ['pixelUm', 'widthPx', 'heightPx'] as const;
const TURNING = ['skyAngleDeg', 'rotatorKind', 'angleToleranceDeg'] as const;

export async function rigEffects(
  queries: Queries,
  rig: RigRecord,
  wish: RigWish,
  tonight: string,
): Promise<RigEffect[]> {
  const next = { ...rig, ...wish };
  const differs = (keys: readonly (keyof RigRecord)[]): boolean => keys.some((key) => next[key] !== rig[key]);
  const projects = await openProjects(queries, rig.id);
  const effects = [
    ...(differs(FRAMING) ? framingEffects(projects, rig, next) : []),
    ...(differs(OPTICS) ? runningEffects(projects) : []),
    ...(differs(CAMERA) ? cameraEffects(projects) : []),
    ...(differs(TURNING) ? angleEffects(projects, rig, next) : []),
    ...(wish.slots ? await wheelEffects(queries, projects, rig, wish.slots) : []),
    ...(differs([...OPTICS, 'skyAngleDeg']) || wish.slots ? await flatEffects(queries, rig.id) : []),
  ];
  if (effects.length === 0) return [];
  return [...effects, ...(await planEffects(queries, rig.id, tonight)), ...(await exposureEffects(queries, rig))];
}

const ofProject = ({ id, name }: OpenProject) => ({ projectId: id, projectName: name, asksForGoals: 0 });
const OF_ALL = { projectId: null, projectName: null, asksForGoals: 0 };
const percent = (share: number): string => `${Math.round(100 * share)} %`;
const plural = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

function framingEffects(projects: readonly OpenProject[], rig: RigRecord, next: RigRecord): RigEffect[] {
  const side = (of: RigRecord): string => {
    const { widthDeg, heightDeg } = fieldOf(of);
    return `${widthDeg.toFixed(2)}° × ${heightDeg.toFixed(2)}°`;
  };
  return projects
    .filter(({ panels }) => panels.length > 0)
    .map((project): RigEffect => {
      const framed = project.panels.map(({ raDeg, decDeg, positionAngleDeg }) => ({
        position: { raDeg, decDeg },
        positionAngleDeg,
      }));
      const [before, after] = [leastShared(framed, rig), leastShared(framed, next)];
      if (before === null || after === null)
        return {
          about: 'framings',
          ...ofProject(project),
          words: `Centre and angle stay; the field is ${side(next)} instead of ${side(rig)}.`,
          isLoss: false,
        };
      const shared = `Centres and angles stay; neighbours share at least ${percent(after)} instead of ${percent(before)}.`;
      return {
        about: 'framings',
        ...ofProject(project),
        words: after < 0.005 ? `${shared} Gaps open between panels: reframe it.` : shared,
        isLoss: after < before,
      };
    });
}

const runningEffects = (projects: readonly OpenProject[]): RigEffect[] =>
  projects
    .filter(({ runningGoals }) => runningGoals > 0)
    .map((project) => ({
      about: 'goals',
      ...ofProject(project),
      words: `${plural(project.runningGoals, 'goal is', 'goals are')} under way with exposures of the rig as it is.`,
      isLoss: false,
      asksForGoals: project.runningGoals,
    }));

const cameraEffects = (projects: readonly OpenProject[]): RigEffect[] =>
  projects
    .filter(({ exposedGoals }) => exposedGoals > 0)
    .map((project) => ({
      about: 'goals',
      ...ofProject(project),
      words: `${plural(project.exposedGoals, 'goal has', 'goals have')} exposures of the present camera; new ones beside them will be flagged as mixed.`,
      isLoss: true,
    }));

function angleEffects(projects: readonly OpenProject[], rig: RigRecord, next: RigRecord): RigEffect[] {
  return projects.flatMap((project): RigEffect[] => {
    const count = (from: RigRecord, to: RigRecord): number =>
      project.panels.filter(
        ({ positionAngleDeg }) => angleServes(from, positionAngleDeg) && !angleServes(to, positionAngleDeg),
      ).length;
    const [lost, gained] = [count(rig, next), count(next, rig)];
    const effect = (words: string, isLoss: boolean): RigEffect => ({
      about: 'goals',
      ...ofProject(project),
      words,
      isLoss,
    });
    return [
      ...(lost > 0
        ? [effect(`${plural(lost, 'panel')} out of the camera’s tolerance: not planned until it is turned back.`, true)]
        : []),
      ...(gained > 0
        ? [
            effect(
              `${plural(gained, 'panel')} come${gained === 1 ? 's' : ''} within the camera’s tolerance and can be planned.`,
              false,
            ),
          ]
        : []),
    ];
  });
}

type Slots = NonNullable<RigWish['slots']>;

async function wheelEffects(
  queries: Queries,
  projects: readonly OpenProject[],
  rig: RigRecord,
  slots: Slots,
): Promise<RigEffect[]> {
  const isFitted = (list: Slots, filterId: string): boolean => list.some((slot) => slot.filterId === filterId);
  const letters = await lettersOf(
    queries,
    [...rig.slots, ...slots].map(({ filterId }) => filterId),
  );
  const letterOf = (id: string): string => letters.get(id) ?? '?';
  const goals = projects.flatMap((project): RigEffect[] => {
    const touched = (from: Slots, to: Slots): string[] => [
      ...new Set(
        project.goals
          .filter(({ filterId }) => isFitted(from, filterId) && !isFitted(to, filterId))
          .map(({ letter }) => letter),
      ),
    ];
    const [lost, gained] = [touched(rig.slots, slots), touched(slots, rig.slots)];
    const effect = (words: string, isLoss: boolean): RigEffect => ({
      about: 'goals',
      ...ofProject(project),
      words,
      isLoss,
    });
    return [
      ...(lost.length > 0
        ? [effect(`Goals through ${lost.join(', ')} wait until the filter is fitted again.`, true)]
        : []),
      ...(gained.length > 0 ? [effect(`Goals through ${gained.join(', ')} can be exposed.`, false)] : []),
    ];
  });
  const offsets = slots.flatMap(({ filterId, focusOffsetSteps }): RigEffect[] => {
    const before = rig.slots.find((slot) => slot.filterId === filterId);
    if (!before || (before.focusOffsetSteps === null) === (focusOffsetSteps === null)) return [];
    const words =
      focusOffsetSteps === null
        ? `Each change to ${letterOf(filterId)} refocuses: its focus offset is not measured.`
        : `Changes to ${letterOf(filterId)} need no refocusing any more.`;
    return [{ about: 'plans', ...OF_ALL, words, isLoss: focusOffsetSteps === null }];
  });
  return [...goals, ...offsets];
}

async function flatEffects(queries: Queries, rigId: string): Promise<RigEffect[]> {
  const count = await countExposures(queries, rigId, 'flat');
  const words =
    count === 0
      ? 'No flats of this rig are in the ledger; lights from now on need flats of the changed rig.'
      : `${plural(count, 'flat')} stay valid for lights taken so far; lights from now on need new ones.`;
  return [{ about: 'flats', ...OF_ALL, words, isLoss: count > 0 }];
}

async function planEffects(queries: Queries, rigId: string, tonight: string): Promise<RigEffect[]> {
  const nights = await publishedNights(queries, rigId, tonight);
  return nights.map((nightDate) => ({
    about: 'plans',
    ...OF_ALL,
    words: `The published plan of ${nightDate} stays as it is and is marked as changed since.`,
    isLoss: true,
  }));
}

async function exposureEffects(queries: Queries, rig: RigRecord): Promise<RigEffect[]> {
  const count = await countExposures(queries, rig.id);
  if (count === 0) return [];
  const words = `${plural(count, 'exposure')} keep${count === 1 ? 's' : ''} the revision taken with, and ${count === 1 ? 'its' : 'their'} credit.`;
  return [{ about: 'exposures', ...OF_ALL, words, isLoss: false }];
}
