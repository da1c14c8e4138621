// The night of all rigs in one picture: which curves are drawn, what they are called, and the night in a sentence.
import type { PlanBlock, RigPlan } from '@meridiem/contract';
import type { StripCurve } from '../../night-strip/NightStrip.tsx';
import { clock, percent } from '../../words/format.ts';
import { endWords } from './view-model.ts';

/** The block that is looked at. */
export interface MarkedBlock {
  readonly rigId: string;
  readonly panelId: string;
  readonly startUtcMs: number;
}

/** Letters of a name that fit over a curve. */
const LONGEST_NAME = 26;
const shortName = (name: string): string => (name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME - 1)}…` : name);

/** One curve a panel, however often it is visited; a project's name once. */
export function nightCurves(plans: readonly RigPlan[], marked: MarkedBlock | null): StripCurve[] {
  const panels = new Map<string, PlanBlock[]>();
  for (const block of plans.flatMap((plan) => plan.blocks))
    panels.set(block.panelId, [...(panels.get(block.panelId) ?? []), block]);
  const named = new Set<string>();
  return [...panels].map(([panelId, blocks]) => {
    const [{ projectName, altitudeDeg }] = blocks;
    const isFirst = !named.has(projectName);
    named.add(projectName);
    return {
      key: panelId,
      altitudeDeg,
      during: blocks,
      ...(isFirst ? { name: shortName(projectName) } : {}),
      isMarked: marked?.panelId === panelId,
    };
  });
}

interface Preparation {
  /** Before the first stay of the night. */
  readonly preparationMin: number;
  readonly nowUtcMs: number;
}

/** "Call time 20:06. Both plans start at 20:51; nothing published." The call time is said while it is ahead. */
export function plansSentence(
  plans: readonly RigPlan[],
  zone: string,
  { preparationMin, nowUtcMs }: Preparation,
): string {
  const planned = plans.filter(({ blocks }) => blocks.length > 0);
  if (planned.length === 0) return 'Nothing is planned.';
  const callUtcMs = Math.min(...planned.map(({ blocks }) => blocks[0].startUtcMs)) - preparationMin * 60_000;
  const call = preparationMin > 0 && callUtcMs > nowUtcMs ? `Call time ${clock(callUtcMs, zone)}. ` : '';
  return `${call}${startsWords(planned, plans.length, zone)}; ${publishedWords(planned)}.`;
}

const shortRig = (plan: RigPlan): string => plan.rigName.split(',')[0];

function startsWords(planned: readonly RigPlan[], rigs: number, zone: string): string {
  const starts = planned.map((plan) => clock(plan.blocks[0].startUtcMs, zone));
  if (planned.length === 1)
    return `${rigs === 1 ? 'The plan' : `Only ${shortRig(planned[0])} is planned and`} starts at ${starts[0]}`;
  if (new Set(starts).size === 1)
    return `${planned.length === 2 ? 'Both' : `All ${planned.length}`} plans start at ${starts[0]}`;
  return planned.map((plan, i) => `${shortRig(plan)} starts at ${starts[i]}`).join(', ');
}

function publishedWords(planned: readonly RigPlan[]): string {
  const out = planned.filter(({ versions }) => versions.length > 0);
  if (out.length === 0) return 'nothing published';
  if (out.length === planned.length) return planned.length === 1 ? 'published' : planned.length === 2 ? 'both published' : 'all published'; // prettier-ignore
  return `only ${out.map(shortRig).join(' and ')} published`;
}

/** What the block looked at will do, in a line. */
export function blockWords(plan: RigPlan, block: PlanBlock, zone: string): string {
  const counts = new Map<string, number>();
  for (const { filterLetter, exposureSec, count } of block.runs) {
    const key = `${filterLetter} % × ${exposureSec} s`;
    counts.set(key, (counts.get(key) ?? 0) + count);
  }
  const runs = [...counts].map(([key, count]) => key.replace('%', String(count)));
  const all = block.runs.reduce((sum, { count }) => sum + count, 0);
  const share = block.runs.reduce((sum, run) => sum + run.meanRateShare * run.count, 0) / Math.max(1, all);
  const flip = block.flipUtcMs === null ? '' : `; flips at ${clock(block.flipUtcMs, zone)}`;
  return `${shortRig(plan)}, ${block.panelName}: ${clock(block.startUtcMs, zone)} to ${endWords(block, plan, zone)}; ${runs.join(', ')}; signal rate ${percent(share)} of best${flip}`;
}

/** The block that is marked, where the plan still has it. */
export function markedBlock(
  plans: readonly RigPlan[],
  marked: MarkedBlock | null,
): { plan: RigPlan; block: PlanBlock } | null {
  const plan = plans.find(({ rigId }) => rigId === marked?.rigId);
  const own = plan?.blocks.filter(({ panelId }) => panelId === marked?.panelId) ?? [];
  const block = own.find(({ startUtcMs }) => startUtcMs === marked?.startUtcMs) ?? own[0];
  return plan && block ? { plan, block } : null;
}
