// What the time account is worked out from and written to: frames, remarks, closings and their entries.
import type { AccountedNight, ChargeRow, ChargingRule } from '@meridiem/contract';
import type { Interval, ObservingNight, TimeEntry, TimeKind } from '@meridiem/core';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows-repository.ts';
import { rangeOf } from '../../database/models/date-range.ts';
import type { TimeRemark } from '../../database/models/time-remark.ts';
import { NOW } from '../../database/now.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';

/** Whole milliseconds since 1970, so that one entry ends exactly where the next begins. */
const MS = (moment: string): string => `round(extract(epoch FROM ${moment}) * 1000)::float8`;

/** Whose project it was at a moment: hours are charged to whoever owned it then. */
const ownerAt = (moment: string): string =>
  `coalesce((SELECT o.person_id FROM project_owners o WHERE o.project_id = p.id AND o.during @> ${moment}), p.owner_id)`;

export interface StoredFrame {
  readonly startUtcMs: number;
  readonly endUtcMs: number;
  readonly panelId: string | null;
  readonly projectId: string | null;
  readonly memberId: string | null;
}

const bound = (rigId: string, { startUtcMs, endUtcMs }: Interval): unknown[] => [
  rigId,
  new Date(startUtcMs).toISOString(),
  new Date(endUtcMs).toISOString(),
];

/** Exposures of a rig; one that joined projects share is several spans, one after the other, as long as their shares. */
export const storedFrames = (
  queries: Queries,
  rigId: string,
  span: Interval,
): Promise<(StoredFrame & { id: string; kind: string })[]> =>
  queries.rows(
    `SELECT e.id, e.kind, ${MS("e.start_utc + coalesce(a.before / a.whole, 0) * e.exposure_s * interval '1 second'")} AS "startUtcMs",
         ${MS("e.start_utc + coalesce((a.before + a.charge_share) / a.whole, 1) * e.exposure_s * interval '1 second'")} AS "endUtcMs",
         a.first_panel AS "panelId", a.project_id AS "projectId", ${ownerAt('e.start_utc')} AS "memberId"
       FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id
       LEFT JOIN LATERAL (SELECT x.project_id, x.charge_share, row_number() OVER first AS place, first_value(x.panel_id) OVER first AS first_panel,
           sum(x.charge_share) OVER () AS whole, sum(x.charge_share) OVER (ORDER BY x.id) - x.charge_share AS before
         FROM attributions x WHERE x.exposure_id = e.id AND x.withdrawn IS NULL
         WINDOW first AS (ORDER BY x.charge_share IS NULL, x.goal_id IS NULL, x.id)) a ON a.place = 1 OR a.charge_share IS NOT NULL
       LEFT JOIN projects p ON p.id = a.project_id
       WHERE v.rig_id = $1 AND e.start_utc >= $2 AND e.start_utc < $3 AND e.exposure_s > 0
         AND coalesce((SELECT y.present FROM exposure_presence y WHERE y.exposure_id = e.id ORDER BY y.seq DESC LIMIT 1), true)`,
    bound(rigId, span),
  );

/** Exposures that a night planned and lost. */
export const lostFrames = (queries: Queries, rigId: string, span: Interval): Promise<StoredFrame[]> =>
  queries.rows(
    `SELECT ${MS('s.planned_start')} AS "startUtcMs", ${MS("s.planned_start + s.exposure_s * interval '1 second'")} AS "endUtcMs",
         l.id AS "panelId", p.id AS "projectId", ${ownerAt('s.planned_start')} AS "memberId"
       FROM run_steps s JOIN night_runs n ON n.id = s.run_id JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
       WHERE n.rig_id = $1 AND n.kind = 'night' AND s.outcome = 'lost' AND s.planned_start >= $2 AND s.planned_start < $3`,
    bound(rigId, span),
  );

export interface RemarkRow {
  readonly id: string;
  readonly kind: TimeKind;
  readonly startUtcMs: number;
  readonly endUtcMs: number;
  readonly words: string;
  readonly who: string;
}

export const remarksOf = (queries: Queries, rigId: string, span: Interval): Promise<RemarkRow[]> =>
  queries.rows(
    `SELECT r.id, r.kind, ${MS('lower(r.during)')} AS "startUtcMs", ${MS('upper(r.during)')} AS "endUtcMs", r.words, p.name AS who
       FROM time_remarks r JOIN people p ON p.id = r.person_id WHERE r.rig_id = $1 AND r.during && tstzrange($2, $3) AND r.withdrawn IS NULL ORDER BY lower(r.during)`,
    bound(rigId, span),
  );

/** A remark of a rig that holds for some of a stretch, beside one that is left out. */
export const overlappingRemark = (
  { models }: Queries,
  rigId: string,
  span: Interval,
  exceptId: string | null = null,
): Promise<TimeRemark | null> =>
  models.TimeRemark.findOne({
    where: {
      rigId,
      withdrawn: null,
      during: { [Op.overlap]: [new Date(span.startUtcMs), new Date(span.endUtcMs)] },
      ...(exceptId === null ? {} : { id: { [Op.ne]: exceptId } }),
    },
  });

export const setWithdrawn = ({ models }: Queries, id: string, isWithdrawn: boolean): Promise<unknown> =>
  models.TimeRemark.update({ withdrawn: isWithdrawn ? NOW : null }, { where: { id } });

/** Nights that have been recorded already, as they were then. */
export const storedNights = (
  queries: Queries,
  observatoryId: string,
  dates: readonly string[],
): Promise<ObservingNight[]> =>
  queries.rows(
    `SELECT night_date::text AS "nightDate", ${MS('start_utc')} AS "startUtcMs", ${MS('end_utc')} AS "endUtcMs" FROM nights WHERE observatory_id = $1 AND night_date = ANY ($2::date[])`,
    [observatoryId, dates],
  );

export interface Closing {
  readonly nightDate: string;
  readonly seq: number;
  readonly closedUtcMs: number;
  readonly closedBy: string;
  readonly changedSince: boolean;
}

/** The closing in force of each night, and whether anything was recorded, remarked or taken back after it. */
export const newestClosings = (
  queries: Queries,
  rigId: string,
  nights: readonly ObservingNight[],
): Promise<Closing[]> =>
  queries.rows(
    `SELECT DISTINCT ON (c.night_date) c.night_date::text AS "nightDate", c.seq, (extract(epoch FROM c.closed) * 1000)::float8 AS "closedUtcMs", p.name AS "closedBy",
       EXISTS (SELECT 1 FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id AND v.rig_id = c.rig_id
         WHERE e.observatory_id = c.observatory_id AND e.start_utc >= lower(c.night) AND e.start_utc < upper(c.night)
           AND (e.recorded > c.closed OR EXISTS (SELECT 1 FROM exposure_presence x WHERE x.exposure_id = e.id AND x.at > c.closed)))
       OR EXISTS (SELECT 1 FROM time_remarks m WHERE m.rig_id = c.rig_id AND m.during && c.night AND (m.at > c.closed OR m.withdrawn > c.closed)) AS "changedSince"
     FROM night_closings c JOIN people p ON p.id = c.closed_by WHERE c.rig_id = $1 AND c.night_date = ANY ($2::date[]) ORDER BY c.night_date, c.seq DESC`,
    [rigId, nights.map(({ nightDate }) => nightDate)],
  );

export const spentByNight = (
  queries: Queries,
  rigId: string,
  nights: readonly ObservingNight[],
): Promise<(AccountedNight['spent'][number] & { nightDate: string })[]> =>
  queries.rows(
    `SELECT night_date::text AS "nightDate", kind, sky_class AS "skyClass", sum(hours) AS hours FROM time_account
     WHERE rig_id = $1 AND night_date = ANY ($2::date[]) GROUP BY 1, 2, 3 ORDER BY 1, 2, 3`,
    [rigId, nights.map(({ nightDate }) => nightDate)],
  );

export type WrittenEntry = Pick<TimeEntry, 'kind' | 'skyClass' | 'startUtcMs' | 'endUtcMs'> & {
  readonly projectId: string | null;
};

export const writtenEntries = (queries: Queries, rigId: string, nightDate: string): Promise<WrittenEntry[]> =>
  queries.rows(
    `SELECT kind, sky_class AS "skyClass", project_id AS "projectId", round(extract(epoch FROM lower(during)) * 1000)::float8 AS "startUtcMs", round(extract(epoch FROM upper(during)) * 1000)::float8 AS "endUtcMs"
     FROM time_account WHERE rig_id = $1 AND night_date = $2 ORDER BY lower(during)`,
    [rigId, nightDate],
  );

export const chargedBetween = (
  queries: Queries,
  observatoryId: string,
  from: string,
  to: string,
): Promise<ChargeRow[]> =>
  queries.rows(
    `SELECT m.id AS "memberId", m.name AS "memberName", r.id AS "rigId", r.name AS "rigName", t.sky_class AS "skyClass", sum(t.hours) AS "clockHours", sum(t.charged_hours) AS "chargedHours"
     FROM time_account t JOIN people m ON m.id = t.member_id JOIN rigs r ON r.id = t.rig_id
     WHERE t.observatory_id = $1 AND t.night_date BETWEEN $2 AND $3 GROUP BY m.id, r.id, t.sky_class ORDER BY m.name, r.position, t.sky_class DESC`,
    [observatoryId, from, to],
  );

export interface NewClosing {
  readonly rigId: string;
  readonly night: ObservingNight;
  readonly seq: number;
  readonly rule: ChargingRule;
  readonly entries: readonly TimeEntry[];
}

/** A night's account, written whole.
 * @returns the closing's id */
export async function insertClosing(
  queries: Queries,
  { observatoryId, personId }: Viewer,
  { rigId, night, seq, rule, entries }: NewClosing,
): Promise<{ id: string }> {
  const { startUtcMs, endUtcMs } = night;
  const closing = await queries.models.NightClosing.create({
    observatoryId,
    rigId,
    nightDate: String(night.nightDate),
    seq,
    night: rangeOf(startUtcMs, endUtcMs),
    chargeDark: rule.dark,
    chargeBright: rule.bright,
    closedBy: personId,
  });
  await insertRows(
    queries,
    'time_entries',
    entries.map((entry) => ({
      observatory_id: observatoryId,
      closing_id: closing.id,
      night: rangeText(night),
      during: rangeText(entry),
      kind: entry.kind,
      sky_class: entry.skyClass,
      project_id: entry.owner?.projectId ?? null,
      member_id: entry.owner?.memberId ?? null,
      exposure_id: entry.exposureId,
      remark_id: entry.remarkId,
    })),
  );
  return { id: closing.id };
}

const rangeText = ({ startUtcMs, endUtcMs }: Interval): string =>
  `[${new Date(startUtcMs).toISOString()},${new Date(endUtcMs).toISOString()})`;

export const projectNames = (
  queries: Queries,
  viewer: Viewer,
): Promise<{ id: string; name: string; seen: boolean }[]> =>
  queries.rows(
    `SELECT p.id, p.name, ${maySee('p', '$2', viewer.role)} AS seen FROM projects p WHERE p.observatory_id = $1`,
    [viewer.observatoryId, viewer.personId],
  );

/** The rig of a project that the viewer may see. */
export const seenRig = (queries: Queries, viewer: Viewer, projectId: string): Promise<{ rigId: string } | null> =>
  queries.one(
    `SELECT p.rig_id AS "rigId" FROM projects p WHERE p.id = $1 AND p.observatory_id = $2 AND ${maySee('p', '$3', viewer.role)}`,
    [projectId, viewer.observatoryId, viewer.personId],
  );

export const integrationOf = (
  queries: Queries,
  projectId: string,
): Promise<{ accepted: number; undecided: number; effective: number } | null> =>
  queries.one(
    `SELECT coalesce(sum(t.accepted_s), 0) / 3600 AS accepted, coalesce(sum(t.undecided_s), 0) / 3600 AS undecided, coalesce(sum(t.effective_s), 0) / 3600 AS effective
           FROM goal_totals t JOIN goals g ON g.id = t.goal_id JOIN panels l ON l.id = g.panel_id WHERE l.project_id = $1`,
    [projectId],
  );

export const rejectedHours = (queries: Queries, projectId: string): Promise<{ reason: string; hours: number }[]> =>
  queries.rows(
    `SELECT j.reason, sum(r.exposure_s) / 3600 AS hours FROM ledger_rows r JOIN verdicts j ON j.seq = r.verdict_seq
           WHERE r.project_id = $1 AND r.verdict = 'rejected' GROUP BY j.reason ORDER BY 2 DESC`,
    [projectId],
  );

export const spentOfProject = (
  queries: Queries,
  projectId: string,
): Promise<{ overhead: number; fault: number; charged: number } | null> =>
  queries.one(
    `SELECT coalesce(sum(hours) FILTER (WHERE kind = 'overhead'), 0) AS overhead, coalesce(sum(hours) FILTER (WHERE kind = 'fault'), 0) AS fault, coalesce(sum(charged_hours), 0) AS charged
           FROM time_account WHERE project_id = $1`,
    [projectId],
  );

export const closingsOfProject = (
  queries: Queries,
  projectId: string,
  rigId: string,
): Promise<{ closed: number; open: number } | null> =>
  queries.one(
    `SELECT count(*) FILTER (WHERE closed)::int AS closed, count(*) FILTER (WHERE NOT closed)::int AS open
           FROM (SELECT EXISTS (SELECT 1 FROM night_closings c WHERE c.rig_id = $2 AND c.night_date = n.night_date) AS closed
             FROM (SELECT DISTINCT night_date FROM ledger_tallies WHERE project_id = $1 AND exposures > 0) n) x`,
    [projectId, rigId],
  );
