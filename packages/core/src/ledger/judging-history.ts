// A goal's exposures judged one after the other: the reference that grows, the new level that restarts it, the early ones judged again.
import type { Figure, JudgedExposure, JudgingRules, RuleVerdict, TypicalFigures } from './judging.ts';
import {
  isNewLevel,
  judgeExposure,
  NEW_LEVEL_RUN,
  REFERENCE_LEAST,
  REFERENCE_MOST,
  sizeAgainst,
  usualSizeOf,
} from './judging.ts';

/** What judging the next exposure of a goal needs of the earlier ones, oldest first. */
export interface JudgedHistory {
  /** Held against, since the last new level; the newest 30 suffice. */
  readonly reference: readonly JudgedExposure[];
  /** The rule rejections that directly precede the next exposure. */
  readonly rejectedInARow: readonly JudgedExposure[];
  /** What was usual before the newest level, and the exposures that were taken for that level: it may prove to be a bad stretch. */
  readonly doubted: { readonly reference: readonly JudgedExposure[]; readonly given: readonly GivenVerdict[] } | null;
}

export interface GivenVerdict extends RuleVerdict {
  readonly id: string;
  /** Part of a new level: whoever looks after the rig should know. */
  readonly isNewLevel: boolean;
}

export interface JudgedStep {
  readonly history: JudgedHistory;
  /** Verdicts to give now; a later one for the same exposure replaces an earlier one. */
  readonly given: readonly GivenVerdict[];
}

export const EMPTY_HISTORY: JudgedHistory = { reference: [], rejectedInARow: [], doubted: null };

/** Lost light and lost guiding spoil a frame without telling what is usual; they don't join the reference. */
const NEVER_USUAL: readonly Figure[] = ['starCount', 'guiding', 'background', 'elongation', 'starlight'];

/** Judges exposures of one goal in the order they were taken.
 * @param exposures without those rejected by hand, or for cloud or trail
 * @returns each exposure's last verdict, by id */
export function judgeSequence(
  exposures: readonly JudgedExposure[],
  rules: JudgingRules,
  typical: TypicalFigures = {},
): Map<string, GivenVerdict> {
  const verdicts = new Map<string, GivenVerdict>();
  let history = EMPTY_HISTORY;
  for (const exposure of exposures) {
    const step = judgeNext(history, exposure, rules, typical);
    for (const verdict of step.given) verdicts.set(verdict.id, verdict);
    history = step.history;
  }
  for (const soft of softOfTheirNight(exposures, verdicts, rules)) verdicts.set(soft.id, soft);
  return verdicts;
}

/** Seeing is a night's own, and other nights say little about it: once eight of a night are accepted, each is held against all of
 * them. */
function softOfTheirNight(
  exposures: readonly JudgedExposure[],
  verdicts: ReadonlyMap<string, GivenVerdict>,
  rules: JudgingRules,
): GivenVerdict[] {
  const limit = rules.starSize;
  if (limit === null) return [];
  const accepted = exposures.filter(
    ({ id, nightDate }) => nightDate !== null && verdicts.get(id)?.verdict === 'accepted',
  );
  return [...new Set(accepted.map(({ nightDate }) => nightDate))].flatMap((night) => {
    const ofNight = accepted.filter(({ nightDate }) => nightDate === night);
    const usual = usualSizeOf(ofNight);
    return ofNight.flatMap((exposure) => {
      const worst = sizeAgainst(exposure, usual);
      if (!worst || worst.sigmas <= limit) return [];
      return [{ ...verdicts.get(exposure.id)!, verdict: 'rejected' as const, worst, held: ofNight.length }];
    });
  });
}

/** Judges the next exposure. The eighth of a goal, or of a new level, brings verdicts for the seven before it. */
export function judgeNext(
  history: JudgedHistory,
  exposure: JudgedExposure,
  rules: JudgingRules,
  typical: TypicalFigures = {},
): JudgedStep {
  const back = backAtOldLevel(history, exposure, rules);
  if (back) return back;
  const { reference, rejectedInARow, doubted } = history;
  const verdict = judgeExposure(exposure, reference, rules, typical);
  if (verdict.verdict === 'rejected') return afterRejection(history, exposure, verdict);
  const next = joined(reference, exposure);
  if (verdict.held === REFERENCE_LEAST - 1) return firstVerdicts(next, rules);
  return {
    history: { reference: next, rejectedInARow: verdict.verdict === 'accepted' ? [] : rejectedInARow, doubted },
    given: [{ ...verdict, id: exposure.id, isNewLevel: false }],
  };
}

function afterRejection(history: JudgedHistory, exposure: JudgedExposure, verdict: RuleVerdict): JudgedStep {
  const { figure } = verdict.worst!;
  const given: GivenVerdict = { ...verdict, id: exposure.id, isNewLevel: false };
  const inARow = [...history.rejectedInARow, exposure].slice(-NEW_LEVEL_RUN);
  if (isNewLevel(inARow, figure)) {
    const rejected = inARow.map(({ id }) => ({ ...given, id }));
    return {
      history: { reference: inARow, rejectedInARow: [], doubted: { reference: history.reference, given: rejected } },
      given: rejected.map((one) => ({ ...one, verdict: 'undecided' as const, isNewLevel: true })),
    };
  }
  const reference = NEVER_USUAL.includes(figure) ? history.reference : joined(history.reference, exposure);
  return { history: { ...history, reference, rejectedInARow: inARow }, given: [given] };
}

/** While a new level still gathers its eight: an exposure as good as before it shows that the level was a bad stretch. */
function backAtOldLevel({ doubted }: JudgedHistory, exposure: JudgedExposure, rules: JudgingRules): JudgedStep | null {
  if (!doubted) return null;
  const verdict = judgeExposure(exposure, doubted.reference, rules);
  if (verdict.verdict !== 'accepted') return null;
  return {
    history: { reference: joined(doubted.reference, exposure), rejectedInARow: [], doubted: null },
    given: [...doubted.given, { ...verdict, id: exposure.id, isNewLevel: false }],
  };
}

/** With eight gathered each is held against all of them, itself included: a median bears a few bad ones. */
function firstVerdicts(gathered: readonly JudgedExposure[], rules: JudgingRules): JudgedStep {
  const given = gathered.map((exposure) => ({
    ...judgeExposure(exposure, gathered, rules),
    id: exposure.id,
    isNewLevel: false,
  }));
  const reference = gathered.filter((_, i) => given[i].verdict !== 'rejected');
  return { history: { reference, rejectedInARow: [], doubted: null }, given };
}

const joined = (reference: readonly JudgedExposure[], exposure: JudgedExposure): JudgedExposure[] =>
  [...reference, exposure].slice(-REFERENCE_MOST);
