// Shares as rows: agreed periods, what nights entitled members to, what was charged, gifts and swaps.
import type { Allotment, ShareGift, SharePeriod, ShareSwap } from '@meridiem/contract';
import type { SharedSky } from '@meridiem/core';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';

export async function periodsOf({ models }: Queries, observatoryId: string): Promise<SharePeriod[]> {
  const periods = await models.SharePeriod.findAll({
    where: { observatoryId, withdrawn: null },
    order: [['firstNight', 'DESC']],
  });
  const rows = await models.Allotment.findAll({ where: { observatoryId }, order: ['personId', 'rigId', 'skyClass'] });
  return periods.map(({ id, firstNight, lastNight }) => ({
    id,
    firstNight,
    lastNight,
    allotments: rows
      .filter(({ periodId }) => periodId === id)
      .map(({ personId, rigId, skyClass, share }) => ({ memberId: personId, rigId, skyClass, share })),
  }));
}

export async function replaceAllotments(
  { models }: Queries,
  observatoryId: string,
  periodId: string,
  allotments: readonly Allotment[],
): Promise<void> {
  await models.Allotment.destroy({ where: { periodId } });
  await models.Allotment.bulkCreate(
    allotments.map(({ memberId, ...rest }) => ({ observatoryId, periodId, personId: memberId, ...rest })),
  );
}

/** Agreed periods that share a night with a stretch, beside one that is left out. */
export const overlappingPeriods = (
  { models }: Queries,
  observatoryId: string,
  { firstNight, lastNight }: Pick<SharePeriod, 'firstNight' | 'lastNight'>,
  exceptId: string | null = null,
): Promise<{ firstNight: string }[]> =>
  models.SharePeriod.findAll({
    where: {
      observatoryId,
      withdrawn: null,
      ...(exceptId === null ? {} : { id: { [Op.ne]: exceptId } }),
      ...(lastNight === null ? {} : { firstNight: { [Op.lte]: lastNight } }),
      lastNight: { [Op.or]: [{ [Op.is]: null }, { [Op.gte]: firstNight }] },
    },
  });

export interface MemberRow {
  readonly memberId: string;
  readonly name: string;
}

/** Those who could own projects at a moment: no guests, nobody suspended. Nights before the observatory was founded here
 * count those who were there on its first day. */
export const membersAt = (queries: Queries, observatoryId: string, at: Date): Promise<MemberRow[]> =>
  queries.rows(
    `SELECT p.id AS "memberId", p.name FROM memberships m JOIN people p ON p.id = m.person_id
     CROSS JOIN LATERAL (SELECT min(lower(f.during)) + interval '1 day' AS until FROM memberships f WHERE f.observatory_id = m.observatory_id) first_day
     WHERE m.observatory_id = $1 AND lower(m.during) <= greatest($2::timestamptz, first_day.until) AND coalesce(upper(m.during) > $2::timestamptz, true)
       AND m.role <> 'guest' AND NOT m.suspended ORDER BY p.name, p.id`,
    [observatoryId, at.toISOString()],
  );

export interface HoursRow {
  readonly memberId: string;
  readonly rigId: string;
  readonly skyClass: SharedSky;
  readonly hours: number;
}

/** Sums of floating numbers depend on the order of their rows in the last digits, however they are rounded afterwards, and plans
 * are kept by what they were made from: so decimal numbers are added up, each rounded far below anything that counts. */
const SUM = (hours: string): string => `sum(round((${hours})::numeric, 9))`;
const STEADY = (exact: string): string => `round(${exact}, 6)::float8`;

/** Closed nights that entitled somebody to something, the newest of each rig: what standing looks back on. */
const COUNTED = `WITH newest AS (
    SELECT DISTINCT ON (c.rig_id, c.night_date) c.id, c.rig_id, c.night_date FROM night_closings c
    WHERE c.observatory_id = $1 ORDER BY c.rig_id, c.night_date, c.seq DESC),
  open_nights AS (
    SELECT n.*, row_number() OVER (PARTITION BY n.rig_id ORDER BY n.night_date DESC) AS place FROM newest n
    WHERE EXISTS (SELECT 1 FROM entitlements e WHERE e.closing_id = n.id)),
  counted AS (SELECT * FROM open_nights WHERE place <= $2)`;

export const entitledSums = (queries: Queries, observatoryId: string, nights: number): Promise<HoursRow[]> =>
  queries.rows(
    `${COUNTED} SELECT e.person_id AS "memberId", c.rig_id AS "rigId", e.sky_class AS "skyClass", ${STEADY(SUM('e.hours'))} AS hours
     FROM counted c JOIN entitlements e ON e.closing_id = c.id GROUP BY 1, 2, 3`,
    [observatoryId, nights],
  );

export const chargedSums = (queries: Queries, observatoryId: string, nights: number): Promise<HoursRow[]> =>
  queries.rows(
    `${COUNTED} SELECT t.member_id AS "memberId", c.rig_id AS "rigId", CASE t.sky_class WHEN 'dark' THEN 'dark' ELSE 'bright' END AS "skyClass", ${STEADY(SUM('t.charged_hours'))} AS hours
     FROM counted c JOIN time_account t ON t.rig_id = c.rig_id AND t.night_date = c.night_date
     WHERE t.member_id IS NOT NULL GROUP BY 1, 2, 3`,
    [observatoryId, nights],
  );

/** Hours got less hours given, on or after the first night that is counted of a rig. */
export const giftSums = (queries: Queries, observatoryId: string, nights: number): Promise<HoursRow[]> =>
  queries.rows(
    `${COUNTED}, first AS (SELECT rig_id, min(night_date) AS night_date FROM counted GROUP BY 1),
       moved AS (SELECT g.rig_id, g.sky_class, x.person_id, x.hours FROM share_gifts g
         CROSS JOIN LATERAL (VALUES (g.to_id, g.hours), (g.from_id, -g.hours)) AS x(person_id, hours)
         WHERE g.observatory_id = $1 AND g.withdrawn IS NULL
           AND g.night_date >= coalesce((SELECT f.night_date FROM first f WHERE f.rig_id = g.rig_id), g.night_date))
     SELECT person_id AS "memberId", rig_id AS "rigId", sky_class AS "skyClass", ${STEADY(SUM('hours'))} AS hours FROM moved GROUP BY 1, 2, 3`,
    [observatoryId, nights],
  );

export interface CountedRow {
  readonly rigId: string;
  readonly openNights: number;
  readonly firstNight: string | null;
  readonly lastNight: string | null;
  /** Weighted open hours of a mean night that is counted, by sky. */
  readonly darkHours: number;
  readonly brightHours: number;
  readonly lostHours: number;
}

export const countedNights = (queries: Queries, observatoryId: string, nights: number): Promise<CountedRow[]> =>
  queries.rows(
    `${COUNTED} SELECT r.id AS "rigId", count(c.id)::int AS "openNights", min(c.night_date)::text AS "firstNight", max(c.night_date)::text AS "lastNight",
       ${STEADY('coalesce(sum(h.dark) / nullif(count(c.id), 0), 0)')} AS "darkHours", ${STEADY('coalesce(sum(h.bright) / nullif(count(c.id), 0), 0)')} AS "brightHours",
       coalesce((SELECT sum(t.hours) FROM time_account t WHERE t.rig_id = r.id AND t.kind IN ('weather', 'fault', 'visit') AND t.sky_class <> 'day' AND t.night_date >= min(c.night_date)), 0)::float8 AS "lostHours"
     FROM rigs r LEFT JOIN counted c ON c.rig_id = r.id
     LEFT JOIN LATERAL (SELECT ${SUM('e.hours')} FILTER (WHERE e.sky_class = 'dark') AS dark, ${SUM('e.hours')} FILTER (WHERE e.sky_class = 'bright') AS bright FROM entitlements e WHERE e.closing_id = c.id) h ON true
     WHERE r.observatory_id = $1 GROUP BY r.id, r.position ORDER BY r.position`,
    [observatoryId, nights],
  );

/** Nights of each rig that have exposures and that nobody has closed. */
export const nightsToClose = (
  queries: Queries,
  observatoryId: string,
  before: string,
): Promise<{ rigId: string; nights: number }[]> =>
  queries.rows(
    `SELECT v.rig_id AS "rigId", count(DISTINCT e.night_date)::int AS nights FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id
     WHERE e.observatory_id = $1 AND e.night_date < $2 AND e.night_date > $2::date - 60
       AND NOT EXISTS (SELECT 1 FROM night_closings c WHERE c.rig_id = v.rig_id AND c.night_date = e.night_date) GROUP BY 1`,
    [observatoryId, before],
  );

export const monthSums = (
  queries: Queries,
  observatoryId: string,
): Promise<{ month: string; memberId: string; entitledHours: number; chargedHours: number }[]> =>
  queries.rows(
    `WITH newest AS (SELECT DISTINCT ON (c.rig_id, c.night_date) c.id, c.rig_id, c.night_date FROM night_closings c WHERE c.observatory_id = $1 ORDER BY c.rig_id, c.night_date, c.seq DESC),
       sums AS (
         SELECT n.night_date, e.person_id, e.hours AS entitled, 0 AS charged FROM newest n JOIN entitlements e ON e.closing_id = n.id
         UNION ALL SELECT t.night_date, t.member_id, 0, t.charged_hours FROM time_account t WHERE t.observatory_id = $1 AND t.member_id IS NOT NULL)
     SELECT to_char(night_date, 'YYYY-MM') AS month, person_id AS "memberId", sum(entitled)::float8 AS "entitledHours", sum(charged)::float8 AS "chargedHours"
     FROM sums GROUP BY 1, 2 ORDER BY 1, 2`,
    [observatoryId],
  );

export const giftsOf = (queries: Queries, observatoryId: string): Promise<ShareGift[]> =>
  queries.rows(
    `SELECT g.id, g.rig_id AS "rigId", g.from_id AS "fromId", a.name AS "fromName", g.to_id AS "toId", b.name AS "toName", g.sky_class AS "skyClass", g.hours, g.night_date::text AS "nightDate", g.words, g.swap_id IS NOT NULL AS "isOfSwap"
     FROM share_gifts g JOIN people a ON a.id = g.from_id JOIN people b ON b.id = g.to_id WHERE g.observatory_id = $1 AND g.withdrawn IS NULL ORDER BY g.created DESC LIMIT 50`,
    [observatoryId],
  );

export const openSwapsOf = (queries: Queries, observatoryId: string, personId: string): Promise<ShareSwap[]> =>
  queries.rows(
    `SELECT s.id, s.rig_id AS "rigId", s.from_id AS "fromId", a.name AS "fromName", s.to_id AS "toId", b.name AS "toName", s.gives_sky AS "givesSky", s.gives_hours AS "givesHours", s.gets_sky AS "getsSky", s.gets_hours AS "getsHours", s.words
     FROM share_swaps s JOIN people a ON a.id = s.from_id JOIN people b ON b.id = s.to_id WHERE s.observatory_id = $1 AND s.state = 'open' AND $2 IN (s.from_id, s.to_id) ORDER BY s.created`,
    [observatoryId, personId],
  );

export interface NewEntitlement extends Omit<HoursRow, 'rigId'> {
  readonly share: number;
}

export const insertEntitlements = (
  { models }: Queries,
  closingId: string,
  rows: readonly NewEntitlement[],
): Promise<unknown> =>
  models.Entitlement.bulkCreate(rows.map(({ memberId, ...row }) => ({ closingId, personId: memberId, ...row })));

export const withdrawGiftsOf = ({ models }: Queries, swapId: string): Promise<unknown> =>
  models.ShareGift.update({ withdrawn: NOW }, { where: { swapId } });

export interface GrantedHours {
  readonly projectId: string;
  readonly darkHours: number;
  readonly brightHours: number;
  readonly usedDarkHours: number;
  readonly usedBrightHours: number;
}

/** Charged hours that were granted to projects, and those charged since their first grant. A project without a grant has no row. */
export const grantedHours = (queries: Queries, projectIds: readonly string[]): Promise<GrantedHours[]> =>
  queries.rows(
    `SELECT g.project_id AS "projectId", g.dark AS "darkHours", g.bright AS "brightHours", ${STEADY('coalesce(u.dark, 0)')} AS "usedDarkHours", ${STEADY('coalesce(u.bright, 0)')} AS "usedBrightHours"
     FROM (SELECT project_id, sum(dark_hours)::float8 AS dark, sum(bright_hours)::float8 AS bright, min(created) AS since FROM grants WHERE project_id = ANY ($1::uuid[]) AND withdrawn IS NULL GROUP BY 1) g
     LEFT JOIN LATERAL (SELECT ${SUM('t.charged_hours')} FILTER (WHERE t.sky_class = 'dark') AS dark, ${SUM('t.charged_hours')} FILTER (WHERE t.sky_class <> 'dark') AS bright
       FROM time_account t WHERE t.project_id = g.project_id AND lower(t.during) >= g.since) u ON true`,
    [projectIds],
  );
