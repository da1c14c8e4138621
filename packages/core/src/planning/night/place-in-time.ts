// Changes of a night at given times: exposures put where they fit, in place of what stands there, so that the rest of the night stays where it is.
import type { Random } from '../../random.ts';
import { pickBelow } from '../../random.ts';
import type { Block, Decoder, TimedBlock } from './decoder.ts';

export interface PutIn {
  readonly goal: number;
  readonly count: number;
  readonly atSec: number;
}

/** Puts runs in at their times, the last first, each in place of what takes as long there; protected goals are not cut. */
export function putIn(
  decoder: Decoder,
  timed: readonly TimedBlock[],
  runs: readonly PutIn[],
  isProtected: (goal: number) => boolean,
): Block[] {
  const blocks: Block[] = timed.map(({ goal, placed, earliestSec }) => ({ goal, count: placed, earliestSec }));
  const lastFirst = runs.length > 1 ? [...runs].sort((a, b) => b.atSec - a.atSec) : runs;
  for (const run of lastFirst) putOneIn(decoder, timed, blocks, run, isProtected);
  return blocks;
}

/** `timed` tells the times of the blocks before the place, which runs put in later in the night have not changed. */
function putOneIn(
  decoder: Decoder,
  timed: readonly TimedBlock[],
  blocks: Block[],
  { goal, count, atSec }: PutIn,
  isProtected: (goal: number) => boolean,
): void {
  const { goals } = decoder;
  let at = timed.findIndex(({ endSec }) => endSec > atSec);
  const added = { goal, count, earliestSec: 0 };
  if (at < 0 || at >= blocks.length) {
    blocks.push(added);
    return;
  }
  const host = timed[at];
  const before = Math.floor((atSec - host.startSec) / goals[host.goal].cycleSec);
  if (before > 0 && before < host.placed && blocks[at].goal === host.goal) {
    blocks.splice(
      at,
      1,
      { ...blocks[at], count: before },
      { ...blocks[at], count: Math.max(1, blocks[at].count - before), earliestSec: 0 },
    );
    at += 1;
  } else if (before >= host.placed) at += 1;
  const changes = decoder.changeSec(host.goal, goal) + decoder.changeSec(goal, host.goal);
  blocks.splice(at, 0, added);
  eat(decoder, blocks, at + 1, count * goals[goal].cycleSec + changes, isProtected);
}

/** Takes exposures away from a place on, until as many seconds are free. */
function eat(
  decoder: Decoder,
  blocks: Block[],
  from: number,
  sec: number,
  isProtected: (goal: number) => boolean,
): void {
  let leftSec = sec;
  for (let i = from; i < blocks.length && leftSec > 0; i++) {
    const { cycleSec } = decoder.goals[blocks[i].goal];
    if (isProtected(blocks[i].goal)) continue;
    const taken = Math.min(blocks[i].count, Math.ceil(leftSec / cycleSec));
    leftSec -= taken * cycleSec;
    blocks[i].count -= taken;
  }
  for (let i = blocks.length - 1; i >= from; i--) if (blocks[i].count <= 0) blocks.splice(i, 1);
}

/** A moment at which exposures of a goal can begin and end in one window; null where none is long enough. */
export function momentFor(decoder: Decoder, goal: number, count: number, random: Random): number | null {
  const { fromSec, toSec, cycleSec } = decoder.goals[goal];
  const lengthSec = count * cycleSec;
  let roomSec = 0;
  for (let w = 0; w < fromSec.length; w++) roomSec += Math.max(0, toSec[w] - fromSec[w] - lengthSec);
  if (roomSec <= 0) return fromSec.length > 0 && toSec[0] - fromSec[0] > 0.9 * lengthSec ? fromSec[0] : null;
  let place = random() * roomSec;
  for (let w = 0; w < fromSec.length; w++) {
    const room = Math.max(0, toSec[w] - fromSec[w] - lengthSec);
    if (place <= room) return fromSec[w] + place;
    place -= room;
  }
  return null;
}

/** Puts all that a project still lacks where it fits, in place of what stands there. */
export function finished(
  decoder: Decoder,
  current: readonly TimedBlock[],
  finishable: readonly (readonly number[])[],
  random: Random,
): Block[] {
  const own = finishable[pickBelow(random, finishable.length)];
  const placed = placedOf(decoder, current);
  const runs = own.flatMap((goal): PutIn[] => {
    const count = decoder.goals[goal].count - placed[goal];
    const atSec = count > 0 ? momentFor(decoder, goal, count, random) : null;
    return atSec === null ? [] : [{ goal, count, atSec }];
  });
  return putIn(decoder, current, runs, spared(decoder, placed, own[0], random));
}

/** Puts some exposures of a goal where they fit, in place of what stands there. */
export function servedInTime(
  decoder: Decoder,
  current: readonly TimedBlock[],
  movable: readonly number[],
  random: Random,
): Block[] {
  const placed = placedOf(decoder, current);
  const goal = movable[pickBelow(random, movable.length)];
  const left = decoder.goals[goal].count - placed[goal];
  if (left <= 0) return [...current];
  const count = random() < 0.3 ? left : 1 + pickBelow(random, Math.min(left, 20));
  const atSec = momentFor(decoder, goal, count, random);
  return atSec === null
    ? [...current]
    : putIn(decoder, current, [{ goal, count, atSec }], spared(decoder, placed, goal, random));
}

/** What is not cut to make room: the goal's own project and, mostly, every project that is finished as the plan stands. */
function spared(
  { goals, problem }: Decoder,
  placed: Int32Array,
  goal: number,
  random: Random,
): (other: number) => boolean {
  const { project } = goals[goal];
  if (random() < 0.2) return (other) => goals[other].project === project;
  const isOpen = new Uint8Array(problem.projectBonus.length);
  for (let g = 0; g < goals.length; g++) if (placed[g] < goals[g].count) isOpen[goals[g].project] = 1;
  return (other) => goals[other].project === project || isOpen[goals[other].project] === 0;
}

function placedOf({ goals, problem }: Decoder, timed: readonly TimedBlock[]): Int32Array {
  const placed = new Int32Array(goals.length);
  for (const { goal, startsSec } of problem.pinned ?? []) placed[goal] += startsSec.length;
  for (const block of timed) placed[block.goal] += block.placed;
  return placed;
}

/** Goals of each project that pays for being finished and whose every goal can still be exposed. */
export function finishableProjects({ problem, goals }: Decoder): number[][] {
  return problem.projectBonus.flatMap((bonus, project) => {
    const own = goals.flatMap((goal, g) => (goal.project === project && goal.count > 0 ? [g] : []));
    const isOpen = own.every((g) => goals[g].fromSec.length > 0);
    return bonus > 0 && own.length > 0 && isOpen ? [own] : [];
  });
}
