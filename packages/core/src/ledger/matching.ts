// Which rig, filter, panel and goal a frame from outside belongs to, and why: by place, angle, filter and name.
import type { FrameFacts } from '../formats/frame-facts.ts';
import { angleApartDeg } from '../framing/angle.ts';
import { coverageOf } from '../framing/coverage.ts';
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import type { SkyPosition } from '../sky/site.ts';
import { wrap360 } from '../units.ts';
import { creditShare } from './progress.ts';

export interface MatchRig {
  readonly id: string;
  readonly name: string;
  readonly cameraName: string;
  readonly widthDeg: number;
  readonly heightDeg: number;
}

export interface MatchFilter {
  readonly id: string;
  readonly letter: string;
  readonly name: string;
}

export interface MatchGoal {
  readonly id: string;
  readonly filterId: string;
  readonly exposureSec: number;
  readonly gain: number;
  readonly binning: number;
}

export interface MatchPanel {
  readonly id: string;
  readonly name: string;
  readonly projectId: string;
  readonly projectName: string;
  readonly targetName: string;
  readonly rigId: string;
  readonly centre: SkyPosition | null;
  readonly positionAngleDeg: number;
  readonly goals: readonly MatchGoal[];
}

export interface MatchContext {
  readonly rigs: readonly MatchRig[];
  readonly filters: readonly MatchFilter[];
  readonly panels: readonly MatchPanel[];
  /** Where the rigs stand. */
  readonly site?: { readonly latitudeDeg: number; readonly longitudeDeg: number };
  /** What this observatory has been taught: a name as headers write it, and the filter it is. */
  readonly aliases?: readonly FilterAlias[];
}

export interface FilterAlias {
  readonly name: string;
  readonly filterId: string;
}

export interface FrameMatch {
  readonly rigId: string | null;
  readonly filterId: string | null;
  readonly panelId: string | null;
  readonly goalId: string | null;
  /** Of the panel's field; null where the frame's place is unknown. */
  readonly coverage: number | null;
  /** Goal counts this frame is worth; 0 without a goal. */
  readonly creditShare: number;
  /** sure: imported as it is; ask: a person looks first; none: no panel, kept without credit. */
  readonly certainty: 'sure' | 'ask' | 'none';
  /** Why, in words, the deciding ones first. */
  readonly reasons: readonly string[];
}

/** Coverage from which credit is given without asking, and below which none is given. */
export const COVERAGE_SURE = 0.9;
export const COVERAGE_ASK = 0.5;
/** Framing angles compare modulo a half turn; a solved frame turned further than this is looked at first. */
export const ASK_ABOVE_TURN_DEG = 10;
/** A header written at another observatory, or on another's coordinates. */
const ELSEWHERE_KM = 100;
const KM_A_DEGREE = 111.2;

/** @param byHand what a person has chosen; it stands over what would be found */
export function matchFrame(
  facts: FrameFacts,
  context: MatchContext,
  byHand: { rigId?: string; filterId?: string; panelId?: string | null } = {},
): FrameMatch {
  const reasons: string[] = [];
  const rig = byHand.rigId
    ? context.rigs.find(({ id }) => id === byHand.rigId)
    : isElsewhere(facts, context)
      ? undefined
      : rigOf(facts, context.rigs);
  const filter = byHand.filterId
    ? context.filters.find(({ id }) => id === byHand.filterId)
    : filterOf(facts.filterName, context.filters, context.aliases);
  const farKm = distanceKm(facts, context);
  if (isElsewhere(facts, context)) reasons.push(`taken ${Math.round(farKm)} km from here, says the header`);
  else if (!rig)
    reasons.push(
      `no rig has the camera "${facts.cameraName ?? 'unnamed'}" or the name "${facts.telescopeName ?? 'unnamed'}"`,
    );
  if (!filter)
    reasons.push(facts.filterName ? `no filter is called "${facts.filterName}"` : 'the header names no filter');
  const none = {
    rigId: rig?.id ?? null,
    filterId: filter?.id ?? null,
    panelId: null,
    goalId: null,
    coverage: null,
    creditShare: 0,
  };
  if (facts.kind !== 'light')
    return { ...none, certainty: 'none', reasons: [`a ${facts.kind}: kept for calibration`, ...reasons] };
  if (byHand.panelId === null)
    return { ...none, certainty: 'none', reasons: ['without a project, chosen by hand', ...reasons] };
  if (!rig || !filter) return { ...none, certainty: 'none', reasons };
  const candidates = context.panels
    .filter((panel) => (byHand.panelId ? panel.id === byHand.panelId : panel.rigId === rig.id))
    .map((panel) => weigh(facts, rig, panel));
  const best = candidates.sort((a, b) => b.weight - a.weight)[0];
  if (!best || (best.weight <= 0 && !byHand.panelId)) {
    const near = best?.coverage ? ` (the nearest, ${best.panel.name}, is covered ${percent(best.coverage)})` : '';
    return { ...none, certainty: 'none', reasons: [`no panel lies here and no project has this name${near}`] };
  }
  const goal = goalOf(facts, best.panel, filter.id);
  const isTurned = (best.turnedDeg ?? 0) > ASK_ABOVE_TURN_DEG;
  const isSure = byHand.panelId !== undefined || ((best.coverage ?? 0) >= COVERAGE_SURE && !isTurned);
  return {
    ...none,
    panelId: best.panel.id,
    goalId: goal?.id ?? null,
    coverage: best.coverage,
    creditShare: goal ? creditShare(facts.exposureSec ?? 0, goal.exposureSec) : 0,
    certainty: isSure ? 'sure' : 'ask',
    reasons: [
      ...(byHand.panelId ? ['chosen by hand'] : []),
      ...best.reasons,
      ...goalReasons(facts, best.panel, filter, goal),
    ],
  };
}

interface Weighed {
  readonly panel: MatchPanel;
  readonly coverage: number | null;
  readonly weight: number;
  readonly turnedDeg: number | null;
  readonly reasons: readonly string[];
}

/** Place decides; a name decides where there is no place. Coverage under a half is no match at all. */
function weigh(facts: FrameFacts, rig: MatchRig, panel: MatchPanel): Weighed {
  const named = sharesName(facts.objectName, [panel.name, panel.targetName, panel.projectName]);
  const nameReason = named ? [`OBJECT "${facts.objectName}" is its name`] : [];
  if (!facts.centre || !panel.centre) {
    const missing = facts.centre ? 'the panel has no place' : 'the header has no place';
    return {
      panel,
      coverage: null,
      weight: named ? 0.4 : 0,
      turnedDeg: null,
      reasons: [`by name only: ${missing}`, ...nameReason],
    };
  }
  const angle = facts.positionAngleDeg ?? panel.positionAngleDeg;
  const { widthDeg, heightDeg } = rig;
  const wanted = { centre: panel.centre, positionAngleDeg: panel.positionAngleDeg, widthDeg, heightDeg };
  const coverage = coverageOf(wanted, { centre: facts.centre, positionAngleDeg: angle, widthDeg, heightDeg });
  const turned = facts.positionAngleDeg === null ? null : angleApartDeg(facts.positionAngleDeg, panel.positionAngleDeg);
  const reasons = [
    `covers ${percent(coverage)} of ${panel.name}`,
    turned === null ? 'its angle is not known' : `turned ${turned.toFixed(1)}° against it`,
    ...nameReason,
  ];
  const weight = coverage < COVERAGE_ASK ? 0 : coverage + (named ? 0.05 : 0);
  return { panel, coverage, weight, turnedDeg: turned, reasons };
}

/** The goal with this filter and binning whose length is nearest. */
function goalOf(facts: FrameFacts, panel: MatchPanel, filterId: string): MatchGoal | null {
  const fitting = panel.goals.filter((goal) => goal.filterId === filterId && goal.binning === facts.binning);
  const apart = (goal: MatchGoal): number => Math.abs(Math.log((facts.exposureSec || 1e-3) / goal.exposureSec));
  const gainApart = (goal: MatchGoal): number => (facts.gain === null || facts.gain === goal.gain ? 0 : 1);
  return [...fitting].sort((a, b) => gainApart(a) - gainApart(b) || apart(a) - apart(b))[0] ?? null;
}

function goalReasons(facts: FrameFacts, panel: MatchPanel, filter: MatchFilter, goal: MatchGoal | null): string[] {
  if (!goal) {
    const has = panel.goals.some(({ filterId }) => filterId === filter.id);
    return [has ? `no goal has binning ${facts.binning}` : `no goal wants ${filter.letter}: kept without credit`];
  }
  const reasons: string[] = [];
  const share = creditShare(facts.exposureSec ?? 0, goal.exposureSec);
  if (share !== 1) reasons.push(`${facts.exposureSec} s count ${share.toFixed(2)} of the goal's ${goal.exposureSec} s`);
  if (facts.gain !== null && facts.gain !== goal.gain)
    reasons.push(`gain ${facts.gain} mixes with the goal's ${goal.gain}`);
  return reasons;
}

/** How far from the observatory the header says it was written; 0 where it doesn't. */
function distanceKm({ site }: FrameFacts, context: MatchContext): number {
  if (!site || !context.site) return 0;
  const toPoint = ({ latitudeDeg, longitudeDeg }: { latitudeDeg: number; longitudeDeg: number }) => ({
    raDeg: wrap360(longitudeDeg),
    decDeg: latitudeDeg,
  });
  return angleBetweenDeg(unitVector(toPoint(site)), unitVector(toPoint(context.site))) * KM_A_DEGREE;
}

const isElsewhere = (facts: FrameFacts, context: MatchContext): boolean => distanceKm(facts, context) > ELSEWHERE_KM;

function rigOf(facts: FrameFacts, rigs: readonly MatchRig[]): MatchRig | undefined {
  const named = rigs.filter(
    (rig) => sharesName(facts.telescopeName, [rig.name]) || sharesName(facts.cameraName, [rig.cameraName, rig.name]),
  );
  return named.length === 1 ? named[0] : rigs.length === 1 ? rigs[0] : undefined;
}

/** What filters are called besides their letter. */
const FILTER_WORDS: readonly (readonly [RegExp, string])[] = [
  [/^(l|lum|luminance|clear)$/, 'L'],
  [/^(r|red)$/, 'R'],
  [/^(g|green)$/, 'G'],
  [/^(b|blue)$/, 'B'],
  [/^(v|visual)$/, 'V'],
  [/^(h|ha|halpha|hα|h_?alpha)(\d+nm)?$/, 'Ha'],
  [/^(o|o3|oiii)(\d+nm)?$/, 'OIII'],
  [/^(s|s2|sii)(\d+nm)?$/, 'SII'],
];

export function filterOf(
  name: string | null,
  filters: readonly MatchFilter[],
  aliases: readonly FilterAlias[] = [],
): MatchFilter | undefined {
  if (name === null) return undefined;
  const plain = plainName(name);
  const taught = aliases.find((alias) => plainName(alias.name) === plain);
  if (taught) return filters.find(({ id }) => id === taught.filterId);
  const exact = filters.find((filter) => plainName(filter.letter) === plain || plainName(filter.name) === plain);
  const letter = FILTER_WORDS.find(([pattern]) => pattern.test(plain))?.[1];
  return exact ?? filters.find((filter) => filter.letter === letter);
}

function sharesName(name: string | null, others: readonly string[]): boolean {
  const plain = plainName(name ?? '');
  return plain.length > 1 && others.some((other) => plainName(other) === plain || plainName(other).startsWith(plain));
}

const plainName = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
const percent = (share: number): string => `${Math.round(share * 100)} %`;
