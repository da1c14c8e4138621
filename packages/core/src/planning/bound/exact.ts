// Small nights solved exactly: labels (time, value) over every vector of counts, the dominated ones dropped.
import type { Decoder } from '../night/decoder.ts';
import { Collective, meanRate } from '../objective.ts';
import type { NightSolution, Placement } from '../problem.ts';

/** Past this many (counts, last goal) states the search takes over. */
const MAX_STATES = 60_000;
const MAX_LABELS = 400_000;

interface Label {
  readonly timeSec: number;
  readonly value: number;
  readonly goal: number;
  readonly startSec: number;
  readonly parent: Label | null;
}

/** The best plan of a problem with few goals and counts whose rates are constant inside each window; null where it is not such a problem. */
export function exactNight(decoder: Decoder): NightSolution | null {
  const { problem, goals } = decoder;
  if (problem.pinned?.length || problem.kept) return null;
  const open = goals.flatMap((goal, g) => (goal.count > 0 && goal.fromSec.length > 0 ? [g] : []));
  const caps = open.map((g) => Math.min(goals[g].count, mostThatFit(decoder, g)));
  const vectors = caps.reduce((product, cap) => product * (cap + 1), 1);
  if (
    problem.minStayOfPanelSec.some((sec) => sec > 0) ||
    vectors * open.length > MAX_STATES ||
    !open.every((g) => hasFlatWindows(decoder, g))
  )
    return null;
  const collectives = new Collective(problem);
  const strides = caps.map((_, i) => caps.slice(0, i).reduce((product, cap) => product * (cap + 1), 1));
  const states: (Label[] | undefined)[] = new Array(vectors * Math.max(1, open.length));
  let best: { label: Label | null; value: number } = {
    label: null,
    value: collectives.value(new Int32Array(goals.length)),
  };
  let labels = 0;
  for (let vector = 0; vector < vectors; vector++) {
    const placed = new Int32Array(goals.length);
    open.forEach((g, i) => (placed[g] = Math.floor(vector / strides[i]) % (caps[i] + 1)));
    const collective = collectives.value(placed);
    for (let last = 0; last < Math.max(1, open.length); last++) {
      const here: readonly (Label | null)[] =
        vector === 0 ? (last === 0 ? [null] : []) : (states[vector * open.length + last] ?? []);
      for (const label of here) {
        if (label && label.value + collective > best.value + 1e-12) best = { label, value: label.value + collective };
        for (let i = 0; i < open.length; i++) {
          if (placed[open[i]] >= caps[i]) continue;
          labels += extend(decoder, states, { label, goal: open[i], state: (vector + strides[i]) * open.length + i });
          if (labels > MAX_LABELS) return null;
        }
      }
    }
  }
  return { placements: placementsOf(best.label), value: best.value };
}

/** Adds the exposure of a goal in each of its windows; returns the number of labels kept. */
function extend(
  decoder: Decoder,
  states: (Label[] | undefined)[],
  to: { label: Label | null; goal: number; state: number },
): number {
  const { problem, goals } = decoder;
  const goal = goals[to.goal];
  const last = to.label ? to.label.goal : -1;
  const panel = last < 0 ? -1 : goals[last].panel;
  const changeSec =
    goal.panel !== panel
      ? problem.panelChangeSec[panel + 1][goal.panel]
      : last === to.goal
        ? 0
        : problem.goalChangeSec(last, to.goal);
  const readySec = (to.label?.timeSec ?? 0) + changeSec;
  let kept = 0;
  for (let w = 0; w < goal.fromSec.length; w++) {
    const startSec = Math.max(readySec, goal.fromSec[w]);
    if (startSec + goal.exposureSec > goal.toSec[w] + 1e-6) continue;
    const value = (to.label?.value ?? 0) + goal.value * meanRate(goal, startSec);
    const label = { timeSec: startSec + goal.cycleSec, value, goal: to.goal, startSec, parent: to.label };
    if (keepUndominated((states[to.state] ??= []), label)) kept += 1;
  }
  return kept;
}

function keepUndominated(labels: Label[], label: Label): boolean {
  for (const other of labels)
    if (other.timeSec <= label.timeSec + 1e-9 && other.value >= label.value - 1e-12) return false;
  let write = 0;
  for (const other of labels)
    if (!(label.timeSec <= other.timeSec && label.value >= other.value)) labels[write++] = other;
  labels.length = write;
  labels.push(label);
  return true;
}

function mostThatFit({ goals }: Decoder, g: number): number {
  const goal = goals[g];
  let fits = 0;
  for (let w = 0; w < goal.fromSec.length; w++) {
    fits += Math.max(0, Math.floor((goal.toSec[w] - goal.fromSec[w] - goal.exposureSec + 1e-6) / goal.cycleSec) + 1);
  }
  return fits;
}

function hasFlatWindows({ goals, problem }: Decoder, g: number): boolean {
  const { values, stepSec } = problem.goals[g].rate;
  return Array.from(goals[g].fromSec).every((fromSec, w) => {
    const first = Math.floor(fromSec / stepSec + 1e-9);
    const last = Math.min(values.length, Math.ceil(goals[g].toSec[w] / stepSec - 1e-9));
    for (let i = first + 1; i < last; i++) if (values[i] !== values[first]) return false;
    return true;
  });
}

function placementsOf(label: Label | null): Placement[] {
  const runs: { goal: number; startsSec: number[] }[] = [];
  for (let at = label; at; at = at.parent) {
    const first = runs[0];
    if (first?.goal === at.goal) first.startsSec.unshift(at.startSec);
    else runs.unshift({ goal: at.goal, startsSec: [at.startSec] });
  }
  return runs;
}
