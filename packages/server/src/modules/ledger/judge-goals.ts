// Rule verdicts: a goal's newest exposures judged against their own kind; only what has changed is added to the history.
import type { FigureOutcome, GivenVerdict, JudgedExposure, JudgingRules } from '@meridiem/core';
import { DEFAULT_RULES, judgeSequence } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows.ts';

/** Exposures replayed to know what is usual, and the newest of them whose verdicts are given. */
const REPLAYED = 120;
const GIVEN = 60;

/** Why a rule rejects, in the words of hand verdicts where they fit. */
const REASONS: Readonly<Record<FigureOutcome['figure'], string>> = {
  starSize: 'focus',
  starCount: 'cloud',
  guiding: 'guiding',
  background: 'moonlight',
};

export interface JudgedRow extends JudgedExposure {
  readonly goalId: string;
  readonly projectId: string;
  readonly panelName: string;
  readonly filterLetter: string;
  readonly judging: boolean;
  readonly rules: JudgingRules;
  /** The newest rule verdict, where there is one. */
  readonly ruleVerdict: string | null;
  readonly ruleReason: string | null;
}

/** Judges the newest exposures of goals by the rules in force. Projects that have judging switched off keep what they have. */
export async function judgeGoals(queries: Queries, observatoryId: string, goalIds: readonly string[]): Promise<void> {
  for (const goalId of new Set(goalIds)) {
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
    await insertRows(
      queries,
      'verdicts',
      changed.map(({ row, given, reason }) => ({
        observatory_id: observatoryId,
        exposure_id: row.id,
        origin: 'rule',
        by_coordinator: false,
        verdict: given.verdict,
        reason,
        at: new Date().toISOString(),
      })),
    );
    const leveled = changed.findLast(({ given }) => given.isNewLevel);
    if (leveled) await alertOf(queries, observatoryId, leveled.row, leveled.given.worst!);
  }
}

/** The newest exposures of a goal with the verdict that rules would give them; nothing is written.
 * @param rules to try out; those in force where left out */
export async function judgedAgain(
  queries: Queries,
  goalId: string,
  rules?: JudgingRules,
): Promise<{ row: JudgedRow; given: GivenVerdict }[]> {
  const rows = await recentOf(queries, goalId);
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

const FIGURE_WORDS: Readonly<Record<FigureOutcome['figure'], string>> = {
  starSize: 'star size',
  starCount: 'star count',
  guiding: 'guiding',
  background: 'background',
};

async function alertOf(
  queries: Queries,
  observatoryId: string,
  row: JudgedRow,
  { figure, value, usual }: FigureOutcome,
): Promise<void> {
  const change = Math.round(100 * (value / usual - 1));
  await queries.rows(
    `INSERT INTO alerts (observatory_id, project_id, kind, words, exposure_id) VALUES ($1, $2, 'new_level', $3, $4) ON CONFLICT DO NOTHING`,
    [
      observatoryId,
      row.projectId,
      `${row.panelName}, ${row.filterLetter}: ${FIGURE_WORDS[figure]} has settled ${Math.abs(change)} % ${change > 0 ? 'higher' : 'lower'}; five exposures wait for a look`,
      row.id,
    ],
  );
}

/** The goal's newest exposures, oldest first, without those rejected by hand: they don't tell what is usual. */
const recentOf = (queries: Queries, goalId: string): Promise<JudgedRow[]> =>
  queries.rows(
    `SELECT * FROM (
       SELECT r.exposure_id AS id, r.goal_id AS "goalId", r.project_id AS "projectId", l.name AS "panelName", f.letter AS "filterLetter", p.judging, r.start_utc AS start,
         r.exposure_s AS "exposureSec", m.half_flux_radius_px AS "starSizePx", m.star_count AS "starCount", m.guiding_rms_arcsec AS "guidingArcsec", m.background_e AS "backgroundE",
         m.airmass, m.transparency, m.sky_ratio AS "skyRatio", j.verdict AS "ruleVerdict", j.reason AS "ruleReason", ${RULES_SQL} AS rules
       FROM ledger_rows r JOIN measurements m ON m.exposure_id = r.exposure_id JOIN projects p ON p.id = r.project_id JOIN panels l ON l.id = r.panel_id JOIN filters f ON f.id = r.filter_id
       LEFT JOIN LATERAL (SELECT * FROM rule_revisions x WHERE x.rig_id = p.rig_id ORDER BY seq DESC LIMIT 1) u ON true
       LEFT JOIN LATERAL (SELECT verdict, reason FROM verdicts v WHERE v.exposure_id = r.exposure_id AND v.origin = 'rule' ORDER BY seq DESC LIMIT 1) j ON true
       LEFT JOIN verdicts h ON h.seq = r.verdict_seq AND h.origin = 'hand'
       WHERE r.goal_id = $1 AND m.airmass IS NOT NULL AND m.half_flux_radius_px IS NOT NULL AND h.verdict IS DISTINCT FROM 'rejected'
       ORDER BY r.start_utc DESC LIMIT ${REPLAYED}) newest ORDER BY start, id`,
    [goalId],
  );

/** The rules of a joined row `u` of rule_revisions, or the core's own. */
export const RULES_SQL = `CASE WHEN u.id IS NULL THEN '${JSON.stringify(DEFAULT_RULES)}'::jsonb ELSE jsonb_build_object(
  'starSize', u.star_size_sigmas, 'starCount', u.star_count_sigmas, 'guiding', u.guiding_sigmas, 'background', u.background_sigmas) END`;
