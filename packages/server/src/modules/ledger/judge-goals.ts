// Rule verdicts: a goal's newest exposures judged against their own kind; only what has changed is added to the history.
import type { FigureOutcome, GivenVerdict, JudgingRules } from '@meridiem/core';
import { judgeSequence } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { recordVerdicts } from './recording.ts';
import type { JudgedRow } from './repository.ts';
import { exposuresToJudge, insertAlert, unmeasuredExposures } from './repository.ts';

const GIVEN = 60;

/** Why a rule rejects, in the words of hand verdicts where they fit. */
const REASONS: Readonly<Record<FigureOutcome['figure'], string>> = {
  starSize: 'focus',
  starCount: 'cloud',
  guiding: 'guiding',
  background: 'moonlight',
  elongation: 'guiding',
  starlight: 'cloud',
};

const FIGURE_WORDS: Readonly<Record<FigureOutcome['figure'], string>> = {
  starSize: 'star size',
  starCount: 'star count',
  guiding: 'guiding',
  background: 'background',
  elongation: 'elongation',
  starlight: 'starlight',
};

/** Judges the newest exposures of goals by the rules in force. Projects that have judging switched off keep what they have. */
export async function judgeGoals(queries: Queries, observatoryId: string, goalIds: readonly string[]): Promise<void> {
  for (const goalId of new Set(goalIds)) {
    await letUnmeasuredCount(queries, observatoryId, goalId);
    const judged = await judgedAgain(queries, goalId);
    if (!judged[0]?.row.judging) continue;
    const changed = judged.flatMap(({ row, given }) => {
      const reason = reasonOf(given);
      // No rule verdict means undecided already, unless there is a new level to tell of.
      const isKnown =
        row.ruleVerdict === null
          ? given.verdict === 'undecided' && !given.isNewLevel
          : given.verdict === row.ruleVerdict && reason === row.ruleReason;
      return isKnown ? [] : [{ row, given, reason }];
    });
    await recordVerdicts(
      queries,
      observatoryId,
      changed.map(({ row, given, reason }) => ({
        exposureId: row.id,
        origin: 'rule',
        byCoordinator: false,
        personId: null,
        verdict: given.verdict,
        reason,
      })),
    );
    const leveled = changed.findLast(({ given }) => given.isNewLevel);
    if (leveled) await alertOf(queries, observatoryId, leveled.row, leveled.given.worst!);
  }
}

/** What nobody has measured can't be held against anything: rules let it count, a person may still reject it. */
async function letUnmeasuredCount(queries: Queries, observatoryId: string, goalId: string): Promise<void> {
  const exposureIds = await unmeasuredExposures(queries, goalId);
  const given = { origin: 'rule', byCoordinator: false, personId: null, verdict: 'accepted' } as const;
  await recordVerdicts(
    queries,
    observatoryId,
    exposureIds.map((exposureId) => ({ exposureId, ...given, reason: 'nothing measured' })),
  );
}

/** The newest exposures of a goal with the verdict that rules would give them; nothing is written.
 * @param rules to try out; those in force where left out */
export async function judgedAgain(
  queries: Queries,
  goalId: string,
  rules?: JudgingRules,
): Promise<{ row: JudgedRow; given: GivenVerdict }[]> {
  const rows = await exposuresToJudge(queries, goalId);
  if (rows.length === 0) return [];
  const verdicts = judgeSequence(rows, rules ?? rows[0].rules);
  return rows.slice(-GIVEN).map((row) => ({ row, given: verdicts.get(row.id)! }));
}

/** The reason as a person would give it; what is within limits says just that. */
function reasonOf({ verdict, worst, isNewLevel }: GivenVerdict): string {
  if (isNewLevel) return 'new level';
  if (verdict !== 'rejected' || !worst) return verdict === 'accepted' ? 'within limits' : 'too few to compare';
  return REASONS[worst.figure];
}

async function alertOf(
  queries: Queries,
  observatoryId: string,
  row: JudgedRow,
  { figure, value, usual }: FigureOutcome,
): Promise<void> {
  const change = Math.round(100 * (value / usual - 1));
  await insertAlert(queries, {
    observatoryId,
    projectId: row.projectId,
    kind: 'new_level',
    words: `${row.panelName}, ${row.filterLetter}: ${FIGURE_WORDS[figure]} has settled ${Math.abs(change)} % ${change > 0 ? 'higher' : 'lower'}; five exposures wait for a look`,
    exposureId: row.id,
  });
}
