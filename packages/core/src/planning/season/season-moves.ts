// Moves of a season's search: each changes one lane or some, and says whether it changed anything.
import { pickBelow } from '../../random.ts';
import type { BlockList, LanePlan } from './lane-plan.ts';
import { rebuildStretch } from './rebuild-stretch.ts';
import type { SeasonSearch } from './season-search.ts';
import { CLOSED } from './season-tables.ts';

export type SeasonMove = (search: SeasonSearch) => boolean;

/** How often each move is made. Found by trying on the cases of the benchmark. */
export const SEASON_MOVES: readonly (readonly [SeasonMove, number])[] = [
  [resize, 0.22],
  [shift, 0.08],
  [insertAtTime, 0.12],
  [placeGoal, 0.08],
  [retarget, 0.06],
  [replaceStay, 0.14],
  [swapStays, 0.08],
  [exchangeNights, 0.08],
  [consolidate, 0.08],
  [relevel, 0.08],
  [swapGoals, 0.04],
  [swapAcross, 0.08],
  [relocate, 0.06],
  [delay, 0.05],
  [rebuild, 0.05],
  [carry, 0.04],
  [remove, 0.03],
  [gather, 0.03],
  [finish, 0.05],
];
const TOTAL = SEASON_MOVES.reduce((sum, [, share]) => sum + share, 0);

/** Makes one move; whether anything was changed. */
export function moveOnce(search: SeasonSearch): boolean {
  let roll = search.random() * TOTAL;
  for (const [move, share] of SEASON_MOVES) {
    roll -= share;
    if (roll > 0) continue;
    search.next.clear();
    search.other.clear();
    const isChanged = move(search);
    search.forgetFreed();
    return isChanged;
  }
  return false;
}

const MINUTES = 60;
/** Stays of up to three hours, short ones more often. */
const drawnStaySec = ({ random }: SeasonSearch): number => (5 + 175 * random() ** 1.5) * MINUTES;

/** One block longer or shorter; half the time a neighbour gives or takes the time. */
function resize(search: SeasonSearch): boolean {
  const { state, tables, next, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  if (plan.length === 0) return false;
  const b = pickBelow(random, plan.length);
  const goal = plan.goal[b];
  const most = Math.max(1, Math.ceil((90 * MINUTES) / tables.cycleSec[goal]));
  const by = (random() < 0.5 ? 1 : -1) * (random() < 0.1 ? 1e6 : Math.ceil(random() ** 2 * most));
  const count = Math.max(0, Math.min(plan.count[b] + state.left(goal, tables.lanes[lane]), plan.count[b] + by));
  if (count === plan.count[b]) return false;
  const neighbour = random() < 0.5 ? (random() < 0.5 ? b - 1 : b + 1) : -1;
  const spareSec = (plan.count[b] - count) * tables.cycleSec[goal];
  for (let i = 0; i < plan.length; i++) {
    if (i === b) next.push(goal, count, plan.notBeforeSec[i]);
    else if (i === neighbour)
      next.push(
        plan.goal[i],
        plan.count[i] + Math.round(spareSec / tables.cycleSec[plan.goal[i]]),
        plan.notBeforeSec[i],
      );
    else next.push(plan.goal[i], plan.count[i], plan.notBeforeSec[i]);
  }
  state.change(lane, next);
  return true;
}

/** A stay, or a block of one, begins not before another moment, or whenever it can. */
function shift(search: SeasonSearch): boolean {
  const { state, next, random, tables } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  const stays = search.stays(plan);
  if (stays === 0) return false;
  const b = random() < 0.6 ? search.stayFrom[pickBelow(random, stays)] : pickBelow(random, plan.length);
  const reachSec = Math.min(60 * MINUTES, tables.lanes[lane].lengthSec / 2);
  let moment = plan.notBeforeSec[b] > 0 && random() < 0.5 ? 0 : plan.startSec[b] + (2 * random() - 0.9) * reachSec;
  if (random() < 0.5) moment = Math.round(moment / tables.slotSec) * tables.slotSec;
  const before = random() < 0.2 ? pickBelow(random, plan.count[b]) : 0;
  next.append(plan, 0, b);
  if (before > 0) next.push(plan.goal[b], before, plan.notBeforeSec[b]);
  next.push(plan.goal[b], plan.count[b] - before, Math.max(0, moment));
  next.append(plan, b + 1, plan.length);
  state.change(lane, next);
  return true;
}

/** Appends blocks from a moment on, those before it cut off. */
function appendFrom({ tables }: SeasonSearch, plan: LanePlan, fromSec: number, first: number, out: BlockList): void {
  for (let b = first; b < plan.length; b++) {
    const cut = Math.max(0, Math.ceil((fromSec - plan.startSec[b]) / tables.cycleSec[plan.goal[b]]));
    out.push(plan.goal[b], plan.count[b] - cut, cut > 0 ? 0 : plan.notBeforeSec[b]);
  }
}

/** Appends what a lane does before a moment. */
function appendUntil({ tables, state }: SeasonSearch, lane: number, untilSec: number, out: BlockList): void {
  const plan = state.lanes[lane];
  for (let b = 0; b < plan.length && plan.startSec[b] < untilSec; b++) {
    const fits = Math.floor(1e-6 + (untilSec - plan.startSec[b]) / tables.cycleSec[plan.goal[b]]);
    out.push(plan.goal[b], Math.min(plan.count[b], fits), plan.notBeforeSec[b]);
  }
}

/** How often what is put in at a moment waits for it. */
const HELD = 0.3;

/** A moment of a lane, half the time at a slot's edge, where rates change. */
function drawnMoment({ tables, random }: SeasonSearch, lane: number): number {
  const { lengthSec, slots } = tables.lanes[lane];
  return random() < 0.5 ? random() * lengthSec : pickBelow(random, slots) * tables.slotSec;
}

/** A stay put in at a moment, in place of what stands there or before it. */
function putIn(search: SeasonSearch, lane: number, atSec: number, panel: number, lengthSec: number): boolean {
  const { state, next, random } = search;
  next.clear();
  appendUntil(search, lane, random() < 0.5 ? atSec : atSec - search.travelSec, next);
  const before = next.length;
  const usedSec = search.fill(lane, panel, atSec, lengthSec, next, random() < HELD ? atSec : 0);
  if (next.length === before && usedSec === 0) return false;
  const resumeSec = random() < 0.85 ? atSec + usedSec + search.travelSec : atSec;
  appendFrom(search, state.lanes[lane], resumeSec, 0, next);
  state.change(lane, next);
  return true;
}

function insertAtTime(search: SeasonSearch): boolean {
  const lane = search.lane();
  const atSec = drawnMoment(search, lane);
  const panel = search.panelAt(lane, atSec);
  return panel >= 0 && putIn(search, lane, atSec, panel, drawnStaySec(search));
}

/** Exposures of one goal put in where it is open, in place of what stands there. */
function placeGoal(search: SeasonSearch): boolean {
  const { state, tables, random } = search;
  const lane = search.lane();
  const goal = pickBelow(random, tables.goals);
  const left = state.left(goal, tables.lanes[lane]);
  if (left < 1) return false;
  const most = Math.min(left, Math.ceil(drawnStaySec(search) / tables.cycleSec[goal]));
  return putGoal(search, lane, goal, random() < 0.5 ? most : 1 + pickBelow(random, most));
}

function putGoal(search: SeasonSearch, lane: number, goal: number, count: number): boolean {
  const { state, next, tables, random } = search;
  const atSec = openMoment(search, lane, goal);
  if (atSec < 0) return false;
  next.clear();
  appendUntil(search, lane, random() < 0.5 ? atSec : atSec - search.travelSec, next);
  next.push(goal, count, random() < 0.5 ? atSec : 0);
  const endSec = atSec + count * tables.cycleSec[goal];
  appendFrom(search, state.lanes[lane], random() < 0.85 ? endSec + search.travelSec : endSec, 0, next);
  state.change(lane, next);
  return true;
}

/** Exposures of a block become another goal's. */
function retarget(search: SeasonSearch): boolean {
  const { state, next, tables, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  if (plan.length === 0) return false;
  const b = pickBelow(random, plan.length);
  const goal = pickBelow(random, tables.goals);
  const left = state.left(goal, tables.lanes[lane]);
  if (left < 1 || goal === plan.goal[b]) return false;
  const count = random() < 0.5 ? plan.count[b] : 1 + pickBelow(random, plan.count[b]);
  const sec = count * tables.cycleSec[plan.goal[b]];
  const isFirst = random() < 0.5;
  const instead = Math.min(left, Math.max(1, Math.floor(sec / tables.cycleSec[goal])));
  next.append(plan, 0, b);
  if (isFirst) next.push(goal, instead, plan.notBeforeSec[b]);
  next.push(plan.goal[b], plan.count[b] - count, isFirst ? 0 : plan.notBeforeSec[b]);
  if (!isFirst) next.push(goal, instead);
  next.append(plan, b + 1, plan.length);
  state.change(lane, next);
  return true;
}

/** A slot's edge at which a goal is open in a lane, looked for from a random one on; −1 where there is none. */
function openMoment({ tables, random }: SeasonSearch, lane: number, goal: number): number {
  const { slots, runs } = tables.lanes[lane];
  const row = tables.rowOf[goal] * slots;
  const drawn = pickBelow(random, slots);
  if (runs[row + drawn] >= 0) return drawn * tables.slotSec;
  const opens = runs[row + drawn] === CLOSED ? runs[row] : runs[row + drawn];
  if (opens === CLOSED) return -1;
  return (opens < 0 ? -opens - 1 : 0) * tables.slotSec;
}

/** From the first exposure of a stay to where the next one would have to be left for. */
function staySpanSec(
  { state, stayFrom, tables, travelSec }: SeasonSearch,
  lane: number,
  stay: number,
  stays: number,
): number {
  const plan = state.lanes[lane];
  const endSec = stay + 1 < stays ? plan.startSec[stayFrom[stay + 1]] - travelSec : tables.lanes[lane].lengthSec;
  return Math.max(plan.endSec[stayFrom[stay + 1] - 1], endSec) - plan.startSec[stayFrom[stay]];
}

function replaceStay(search: SeasonSearch): boolean {
  const { state, next, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  const stays = search.stays(plan);
  if (stays === 0) return false;
  const stay = pickBelow(random, stays);
  const [from, to] = [stayFrom[stay], stayFrom[stay + 1]];
  const panel = search.panelAt(lane, plan.startSec[from]);
  if (panel < 0) return false;
  search.free(lane, from, to);
  next.append(plan, 0, from);
  search.fill(lane, panel, plan.startSec[from], staySpanSec(search, lane, stay, stays));
  next.append(plan, to, plan.length);
  state.change(lane, next);
  return true;
}

function swapStays(search: SeasonSearch): boolean {
  const { state, next, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  const stays = search.stays(plan);
  if (stays < 2) return false;
  const a = pickBelow(random, stays - 1);
  const b = random() < 0.7 ? a + 1 : a + 1 + pickBelow(random, stays - 1 - a);
  next.append(plan, 0, stayFrom[a]);
  for (let i = stayFrom[b]; i < stayFrom[b + 1]; i++) next.push(plan.goal[i], plan.count[i]);
  next.append(plan, stayFrom[a + 1], stayFrom[b]);
  for (let i = stayFrom[a]; i < stayFrom[a + 1]; i++) next.push(plan.goal[i], plan.count[i]);
  next.append(plan, stayFrom[b + 1], plan.length);
  state.change(lane, next);
  return true;
}

/** Two stays of two lanes give each other their time. */
function exchangeNights(search: SeasonSearch): boolean {
  const { state, next, other, tables, stayFrom, random } = search;
  const [laneA, laneB] = [search.lane(), search.lane()];
  if (laneA === laneB) return false;
  const [planA, planB] = [state.lanes[laneA], state.lanes[laneB]];
  const staysA = search.stays(planA);
  if (staysA === 0) return false;
  const a = pickBelow(random, staysA);
  const spanA = { from: stayFrom[a], to: stayFrom[a + 1], sec: staySpanSec(search, laneA, a, staysA) };
  const staysB = search.stays(planB);
  if (staysB === 0) return false;
  const b = pickBelow(random, staysB);
  const spanB = { from: stayFrom[b], to: stayFrom[b + 1], sec: staySpanSec(search, laneB, b, staysB) };
  const [panelA, panelB] = [tables.panelOf[planA.goal[spanA.from]], tables.panelOf[planB.goal[spanB.from]]];
  const [startA, startB] = [planA.startSec[spanA.from], planB.startSec[spanB.from]];
  if (panelA === panelB || search.score(laneA, panelB, startA) <= 0) return false;
  cutOff(search, laneA, spanA.from);
  cutOff(search, laneB, spanB.from);
  next.append(planA, 0, spanA.from);
  search.fill(laneA, panelB, startA, spanA.sec);
  next.append(planA, spanA.to, planA.length);
  state.change(laneA, next);
  other.append(planB, 0, spanB.from);
  search.fill(laneB, panelA, startB, spanB.sec, other);
  other.append(planB, spanB.to, planB.length);
  state.change(laneB, other);
  return true;
}

/** Takes away what a lane does from a block on, so that other lanes may have it. */
function cutOff({ state, next }: SeasonSearch, lane: number, from: number): void {
  next.clear();
  next.append(state.lanes[lane], 0, from);
  state.change(lane, next);
  next.clear();
}

/** A stay's time moves to another night's stay of the same panel; what followed there comes here. */
function consolidate(search: SeasonSearch): boolean {
  const { state, next, other, tables, stayFrom, random } = search;
  const laneA = search.lane();
  const planA = state.lanes[laneA];
  const staysA = search.stays(planA);
  if (staysA === 0) return false;
  const a = pickBelow(random, staysA);
  const [fromA, toA] = [stayFrom[a], stayFrom[a + 1]];
  const spanA = staySpanSec(search, laneA, a, staysA);
  const panel = tables.panelOf[planA.goal[fromA]];
  const found = stayElsewhere(search, laneA, panel);
  if (!found) return false;
  const { lane: laneB, stay: b, stays: staysB } = found;
  const planB = state.lanes[laneB];
  const [fromB, toB] = [stayFrom[b], stayFrom[b + 1]];
  const startB = planB.startSec[fromB];
  const longer = planB.endSec[toB - 1] - startB + spanA;
  const neighbour =
    b + 1 < staysB ? tables.panelOf[planB.goal[toB]] : b > 0 ? tables.panelOf[planB.goal[fromB - 1]] : -1;
  cutOff(search, laneA, fromA);
  cutOff(search, laneB, fromB);
  other.append(planB, 0, fromB);
  const usedSec = search.fill(laneB, panel, startB, longer, other, planB.notBeforeSec[fromB]);
  if (random() < 0.7) appendFrom(search, planB, startB + usedSec + search.travelSec, toB, other);
  else other.append(planB, toB, planB.length);
  state.change(laneB, other);
  next.append(planA, 0, fromA);
  if (neighbour >= 0 && random() < 0.8) search.fill(laneA, neighbour, planA.startSec[fromA], spanA);
  next.append(planA, toA, planA.length);
  state.change(laneA, next);
  return true;
}

/** Another lane's stay of a panel, looked for from a random lane on. */
function stayElsewhere(search: SeasonSearch, not: number, panel: number) {
  const { state, tables, stayFrom } = search;
  const lanes = state.lanes.length;
  const first = search.lane();
  for (let i = 0; i < lanes; i++) {
    const lane = (first + i) % lanes;
    if (lane === not) continue;
    const plan = state.lanes[lane];
    if (!has(plan, panel, tables.panelOf)) continue;
    const stays = search.stays(plan);
    for (let stay = 0; stay < stays; stay++)
      if (tables.panelOf[plan.goal[stayFrom[stay]]] === panel) return { lane, stay, stays };
  }
  return null;
}

function has(plan: BlockList, panel: number, panelOf: Int32Array): boolean {
  for (let b = 0; b < plan.length; b++) if (panelOf[plan.goal[b]] === panel) return true;
  return false;
}

/** A stay filled anew in its own time. */
function relevel(search: SeasonSearch): boolean {
  const { state, next, tables, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  const stays = search.stays(plan);
  if (stays === 0) return false;
  const stay = pickBelow(random, stays);
  const [from, to] = [stayFrom[stay], stayFrom[stay + 1]];
  const stretch = random() < 0.5 ? 1 : 0.6 + 0.9 * random();
  search.free(lane, from, to);
  next.append(plan, 0, from);
  const span = staySpanSec(search, lane, stay, stays) * stretch;
  search.fill(lane, tables.panelOf[plan.goal[from]], plan.startSec[from], span, next, plan.notBeforeSec[from]);
  next.append(plan, to, plan.length);
  state.change(lane, next);
  return true;
}

/** Two blocks of a stay change places. */
function swapGoals(search: SeasonSearch): boolean {
  const { state, next, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  const stays = search.stays(plan);
  if (stays === 0) return false;
  const stay = pickBelow(random, stays);
  const [from, to] = [stayFrom[stay], stayFrom[stay + 1]];
  if (to - from < 2) return false;
  const a = from + pickBelow(random, to - from - 1);
  const b = a + 1 + pickBelow(random, to - a - 1);
  for (let i = 0; i < plan.length; i++) {
    const which = i === a ? b : i === b ? a : i;
    next.push(plan.goal[which], plan.count[which], plan.notBeforeSec[i]);
  }
  state.change(lane, next);
  return true;
}

/** Two nights of one panel trade goals: some exposures here become another goal's, and there as long of this one's. */
function swapAcross(search: SeasonSearch): boolean {
  const { state, next, other, tables, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  if (plan.length === 0) return false;
  const a = pickBelow(random, plan.length);
  const goalA = plan.goal[a];
  const found = stayElsewhere(search, lane, tables.panelOf[goalA]);
  if (!found) return false;
  const there = state.lanes[found.lane];
  const [from, to] = [stayFrom[found.stay], stayFrom[found.stay + 1]];
  const b = from + pickBelow(random, to - from);
  const goalB = there.goal[b];
  if (goalA === goalB) return false;
  const sec =
    Math.min(plan.count[a] * tables.cycleSec[goalA], there.count[b] * tables.cycleSec[goalB]) *
    (random() < 0.4 ? 1 : random());
  const [countA, countB] = [Math.round(sec / tables.cycleSec[goalA]), Math.round(sec / tables.cycleSec[goalB])];
  if (countA === 0 || countB === 0) return false;
  cutOff(search, lane, a);
  cutOff(search, found.lane, b);
  tradeBlock(plan, a, { taken: countA, goal: goalB, given: countB }, random() < 0.5, next);
  state.change(lane, next);
  tradeBlock(there, b, { taken: countB, goal: goalA, given: countA }, random() < 0.5, other);
  state.change(found.lane, other);
  return true;
}

/** Writes a lane in which some exposures of a block are another goal's, before or after the rest of it. */
function tradeBlock(
  plan: LanePlan,
  at: number,
  { taken, goal, given }: { taken: number; goal: number; given: number },
  isBefore: boolean,
  out: BlockList,
): void {
  out.append(plan, 0, at);
  if (isBefore) out.push(goal, given, plan.notBeforeSec[at]);
  out.push(plan.goal[at], plan.count[at] - taken, isBefore ? 0 : plan.notBeforeSec[at]);
  if (!isBefore) out.push(goal, given);
  out.append(plan, at + 1, plan.length);
}

/** A stay leaves its place and is put in elsewhere, in the same lane or another. */
function relocate(search: SeasonSearch): boolean {
  const { state, next, other, tables, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  const stays = search.stays(plan);
  if (stays === 0) return false;
  const stay = pickBelow(random, stays);
  const [from, to] = [stayFrom[stay], stayFrom[stay + 1]];
  const [panel, lengthSec] = [tables.panelOf[plan.goal[from]], plan.endSec[to - 1] - plan.startSec[from]];
  const target = random() < 0.3 ? lane : search.lane();
  const atSec = drawnMoment(search, target);
  if (search.score(target, panel, atSec) <= 0 && tables.lanes[target].slots > 0 && random() < 0.9) return false;
  next.append(plan, 0, from);
  next.append(plan, to, plan.length);
  state.change(lane, next);
  other.clear();
  appendUntil(search, target, random() < 0.5 ? atSec : atSec - search.travelSec, other);
  const usedSec = search.fill(target, panel, atSec, lengthSec, other, random() < HELD ? atSec : 0);
  appendFrom(search, state.lanes[target], random() < 0.85 ? atSec + usedSec + search.travelSec : atSec, 0, other);
  state.change(target, other);
  return true;
}

/** A stay begins later; the one before it lasts longer. */
function delay(search: SeasonSearch): boolean {
  const { state, next, tables, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  const stays = search.stays(plan);
  if (stays < 2) return false;
  const stay = 1 + pickBelow(random, stays - 1);
  const [before, from] = [stayFrom[stay - 1], stayFrom[stay]];
  const bySec = random() ** 2 * 90 * MINUTES;
  search.free(lane, before, from);
  next.append(plan, 0, before);
  const lengthSec = plan.startSec[from] - search.travelSec - plan.startSec[before] + bySec;
  search.fill(
    lane,
    tables.panelOf[plan.goal[before]],
    plan.startSec[before],
    lengthSec,
    next,
    plan.notBeforeSec[before],
  );
  if (random() < 0.5) appendFrom(search, plan, plan.startSec[from] + bySec, from, next);
  else {
    next.push(plan.goal[from], plan.count[from], random() < 0.5 ? plan.startSec[from] + bySec : 0);
    next.append(plan, from + 1, plan.length);
  }
  state.change(lane, next);
  return true;
}

function rebuild(search: SeasonSearch): boolean {
  const { tables, random } = search;
  const lane = search.lane();
  const { lengthSec } = tables.lanes[lane];
  const spanSec = (0.5 + 5 * random() ** 1.5) * 3600;
  const fromSec = random() * (lengthSec + spanSec) - spanSec;
  return rebuildStretch(search, lane, Math.max(0, fromSec), Math.min(lengthSec, fromSec + spanSec), 0.25);
}

/** Exposures of a goal go to another night's stay on the same panel, or to wherever they are put. */
function carry(search: SeasonSearch): boolean {
  const { state, next, other, tables, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  if (plan.length === 0) return false;
  const b = pickBelow(random, plan.length);
  const goal = plan.goal[b];
  const moved = random() < 0.3 ? plan.count[b] : 1 + pickBelow(random, plan.count[b]);
  const found = random() < 0.5 ? stayElsewhere(search, lane, tables.panelOf[goal]) : null;
  next.append(plan, 0, b);
  next.push(goal, plan.count[b] - moved, plan.notBeforeSec[b]);
  next.append(plan, b + 1, plan.length);
  state.change(lane, next);
  if (!found) return putGoal(search, search.lane(), goal, moved);
  const end = stayFrom[found.stay + 1];
  const target = state.lanes[found.lane];
  other.append(target, 0, end);
  other.push(goal, moved);
  const endSec = target.endSec[end - 1] + moved * tables.cycleSec[goal] + search.travelSec;
  if (random() < 0.5) appendFrom(search, target, endSec, end, other);
  else other.append(target, end, target.length);
  state.change(found.lane, other);
  return true;
}

/** A stay or a block goes. */
function remove(search: SeasonSearch): boolean {
  const { state, next, stayFrom, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  const stays = search.stays(plan);
  if (stays === 0) return false;
  let [from, to] = [pickBelow(random, plan.length), 0];
  to = from + 1;
  if (random() < 0.7) {
    const stay = pickBelow(random, stays);
    [from, to] = [stayFrom[stay], stayFrom[stay + 1]];
  }
  next.append(plan, 0, from);
  next.append(plan, to, plan.length);
  state.change(lane, next);
  return true;
}

/** All stays of a panel in a night become one. */
function gather(search: SeasonSearch): boolean {
  const { state, next, tables, random } = search;
  const lane = search.lane();
  const plan = state.lanes[lane];
  if (plan.length === 0) return false;
  const at = pickBelow(random, plan.length);
  const panel = tables.panelOf[plan.goal[at]];
  let others = 0;
  for (let b = 0; b < plan.length; b++) {
    if (b === at)
      for (let i = 0; i < plan.length; i++) {
        if (tables.panelOf[plan.goal[i]] === panel) next.push(plan.goal[i], plan.count[i]);
      }
    else if (tables.panelOf[plan.goal[b]] !== panel) {
      next.push(plan.goal[b], plan.count[b], plan.notBeforeSec[b]);
    } else others += 1;
  }
  if (others === 0) return false;
  state.change(lane, next);
  return true;
}

/** Longest work that is put in at once to finish a project, and how often a place is looked for a goal. */
const FINISHED_AT_ONCE_SEC = 5 * 3600;
const TRIES = 4;

/** Everything that a project still lacks is put in somewhere: completion pays only for all of it. */
function finish(search: SeasonSearch): boolean {
  const { state, tables, random } = search;
  const project = pickBelow(random, tables.projects);
  const leftSec = state.leftSec[project];
  if (state.openPanels[project] === 0 || tables.bonus[project] <= 0 || leftSec > FINISHED_AT_ONCE_SEC) return false;
  let isChanged = false;
  const first = tables.goalsFrom[tables.panelsFrom[project]];
  const end = tables.goalsFrom[tables.panelsFrom[project + 1]];
  for (let goal = first; goal < end; goal++)
    for (let i = 0; i < TRIES; i++) {
      const lane = search.lane();
      const left = state.left(goal, tables.lanes[lane]);
      if (left < 1) break;
      const most = Math.max(1, Math.ceil((90 * MINUTES) / tables.cycleSec[goal]));
      if (putGoal(search, lane, goal, Math.min(left, most))) isChanged = true;
    }
  return isChanged;
}
