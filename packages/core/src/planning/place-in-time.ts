// Changes of a night at given times: exposures put where they fit, in place of what stands there, so that the rest of the night stays where it is.
import type { Random } from '../random.ts';
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
  let blocks: Block[] = timed.map(({ goal, placed, earliestSec }) => ({ goal, count: placed, earliestSec }));
  const lastFirst = [...runs].sort((a, b) => b.atSec - a.atSec);
  for (const run of lastFirst) blocks = putOneIn(decoder, timed, blocks, run, isProtected);
  return blocks;
}

/** `timed` tells the times of the blocks before the place, which runs put in later in the night have not changed. */
function putOneIn(
  decoder: Decoder,
  timed: readonly TimedBlock[],
  blocks: readonly Block[],
  { goal, count, atSec }: PutIn,
  isProtected: (goal: number) => boolean,
): Block[] {
  const { goals, problem } = decoder;
  let at = timed.findIndex(({ endSec }) => endSec > atSec);
  const added = { goal, count, earliestSec: 0 };
  if (at < 0 || at >= blocks.length) return [...blocks, added];
  const host = timed[at];
  const next = blocks.map((block) => ({ ...block }));
  const before = Math.floor((atSec - host.startSec) / goals[host.goal].cycleSec);
  if (before > 0 && before < host.placed && next[at].goal === host.goal) {
    next.splice(
      at,
      1,
      { ...next[at], count: before },
      { ...next[at], count: Math.max(1, next[at].count - before), earliestSec: 0 },
    );
    at += 1;
  } else if (before >= host.placed) at += 1;
  const [own, other] = [goals[goal].panel, goals[host.goal].panel];
  const changes =
    own === other
      ? problem.goalChangeSec(host.goal, goal) + problem.goalChangeSec(goal, host.goal)
      : problem.panelChangeSec[other + 1][own] + problem.panelChangeSec[own + 1][other];
  next.splice(at, 0, added);
  eat(decoder, next, at + 1, count * goals[goal].cycleSec + changes, isProtected);
  return next;
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
