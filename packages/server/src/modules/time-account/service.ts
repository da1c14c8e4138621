// Where nights went: worked out from what was recorded while a night is open, written whole when somebody closes it.
import type {
  AccountedNight,
  BodyOf,
  ChargeRow,
  ChargingRule,
  NightState,
  ParamsOf,
  ResponseOf,
  addTimeRemark,
  closeNights,
  readAccountedNight,
  readProjectTime,
  readTimeAccount,
} from '@meridiem/contract';
import type { ObservingNight, TimeEntry } from '@meridiem/core';
import {
  clockTimeInNight,
  DEFAULT_CHARGE_WEIGHTS,
  HOUR_MS,
  nightAccount,
  nightDatePlus,
  writeCsv,
} from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { Database, Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee, RESERVED } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { recordNight } from '../nights/index.ts';
import type { RigRecord, SiteRecord } from '../observatory/index.ts';
import { rigsOf, siteOf } from '../observatory/index.ts';
import type { Recorded } from './facts.ts';
import { factsOf, nightsFrom, recordedOf } from './facts.ts';
import { takeBackRemark, takeBackSetting } from './take-back.ts';

/** Nights that one page or one closing may span. */
const MOST_NIGHTS = 400;
const NO_DUES: ChargingRule = {
  dark: DEFAULT_CHARGE_WEIGHTS.dark,
  bright: DEFAULT_CHARGE_WEIGHTS.bright,
  duesPerHour: null,
  currency: '',
};

const DUES_COLUMNS = [
  { name: 'member', unit: '', words: 'Member' },
  { name: 'rig', unit: '', words: 'Rig' },
  { name: 'sky_class', unit: '', words: 'Sky: dark without moon, bright with it' },
  { name: 'clock_hours', unit: 'h', words: 'Hours on the clock' },
  { name: 'charged_hours', unit: 'h', words: 'Hours charged' },
  { name: 'dues', unit: '', words: 'Dues' },
  { name: 'currency', unit: '', words: 'Currency of the dues' },
] as const;

export type TimeAccountService = ReturnType<typeof createTimeAccountService>;

interface Parts {
  readonly database: Database;
  readonly clock: Clock;
  readonly changes: ChangeService;
}

interface Closing {
  readonly nightDate: string;
  readonly seq: number;
  readonly closedUtcMs: number;
  readonly closedBy: string;
  readonly changedSince: boolean;
}

export function createTimeAccountService({ database, clock, changes }: Parts) {
  changes.register('time_remarks', {
    by: 'helper',
    takeBack: (queries, _viewer, change) => takeBackRemark(queries, change),
  });
  changes.register('charging', {
    by: 'coordinator',
    takeBack: (queries, _viewer, change) => takeBackSetting(queries, change),
  });
  async function rigNamed(queries: Queries, viewer: Viewer, rigId: string): Promise<[SiteRecord, RigRecord]> {
    const site = await siteOf(queries, viewer.observatoryId);
    const rig = (await rigsOf(queries, viewer.observatoryId)).find((candidate) => candidate.id === rigId);
    if (!rig) throw notFound('rig');
    return [site, rig];
  }

  const stateOf = (night: ObservingNight, closing: Closing | undefined): NightState =>
    night.endUtcMs > clock.nowUtcMs() ? 'ahead' : !closing ? 'open' : closing.changedSince ? 'changed' : 'closed';

  async function nightsOfRig(site: SiteRecord, rig: RigRecord, nights: readonly ObservingNight[]) {
    const span = { startUtcMs: nights[0].startUtcMs, endUtcMs: nights.at(-1)!.endUtcMs };
    const [recorded, closings, written] = await Promise.all([
      recordedOf(database, rig.id, span),
      closingsOf(database, rig.id, nights),
      writtenSums(database, rig.id, nights),
    ]);
    return nights.map((night): AccountedNight => {
      const closing = closings.get(night.nightDate);
      const state = stateOf(night, closing);
      return {
        nightDate: night.nightDate,
        state,
        closedUtcMs: closing?.closedUtcMs ?? null,
        closedBy: closing?.closedBy ?? null,
        spent: closing
          ? (written.get(night.nightDate) ?? [])
          : sumsOf(nightAccount(factsOf(site, rig, night, recorded))),
      };
    });
  }

  return {
    async read(viewer: Viewer, from: string, to: string): Promise<ResponseOf<typeof readTimeAccount>> {
      const dates = datesBetween(from, to);
      const site = await siteOf(database, viewer.observatoryId);
      const nights = await nightsFrom(database, viewer.observatoryId, site.timeZone, dates);
      const rigs = await rigsOf(database, viewer.observatoryId);
      const accounts = await Promise.all(rigs.map((rig) => nightsOfRig(site, rig, nights)));
      return {
        rigs: rigs.map((rig, i) => ({ rigId: rig.id, rigName: rig.name, nights: accounts[i] })),
        charged: await chargedBetween(database, viewer.observatoryId, from, to),
        rule: await ruleOf(database, viewer.observatoryId),
      };
    },

    async readNight(
      viewer: Viewer,
      { id, nightDate }: ParamsOf<typeof readAccountedNight>,
    ): Promise<ResponseOf<typeof readAccountedNight>> {
      const [site, rig] = await rigNamed(database, viewer, id);
      const [night] = await nightsFrom(
        database,
        viewer.observatoryId,
        site.timeZone,
        datesBetween(nightDate, nightDate),
      );
      const [recorded, closings, projects] = await Promise.all([
        recordedOf(database, rig.id, night),
        closingsOf(database, rig.id, [night]),
        database.rows<{ id: string; name: string; seen: boolean }>(
          `SELECT p.id, p.name, ${maySee('p', '$2', viewer.role)} AS seen FROM projects p WHERE p.observatory_id = $1`,
          [viewer.observatoryId, viewer.personId],
        ),
      ]);
      const closing = closings.get(night.nightDate);
      const nameOf = new Map(projects.map((project) => [project.id, project]));
      const entries = closing
        ? await writtenEntries(database, rig.id, night.nightDate)
        : nightAccount(factsOf(site, rig, night, recorded)).map(({ owner, ...entry }) => ({
            ...entry,
            projectId: owner?.projectId ?? null,
          }));
      return {
        rigName: rig.name,
        startUtcMs: night.startUtcMs,
        endUtcMs: night.endUtcMs,
        state: stateOf(night, closing),
        stretches: joined(entries).map(({ projectId, kind, skyClass, startUtcMs, endUtcMs }) => {
          const project = projectId === null ? undefined : nameOf.get(projectId);
          const projectName = project ? (project.seen ? project.name : RESERVED) : null;
          return { kind, skyClass, startUtcMs, endUtcMs, projectId: project?.seen ? project.id : null, projectName };
        }),
        remarks: [...recorded.remarks],
      };
    },

    close: (viewer: Viewer, rigId: string, { from, to }: BodyOf<typeof closeNights>): Promise<{ closed: number }> =>
      database.transaction(async (queries) => {
        const [site, rig] = await rigNamed(queries, viewer, rigId);
        await queries.rows('SELECT 1 FROM rigs WHERE id = $1 FOR UPDATE', [rigId]);
        const nights = await nightsFrom(queries, viewer.observatoryId, site.timeZone, datesBetween(from, to));
        const closings = await closingsOf(queries, rigId, nights);
        const due = nights.filter((night) =>
          ['open', 'changed'].includes(stateOf(night, closings.get(night.nightDate))),
        );
        if (due.length === 0) {
          const ahead = nights.every((night) => stateOf(night, undefined) === 'ahead');
          throw new ServiceError(
            'NOT_POSSIBLE',
            ahead
              ? 'A night can be closed once its noon has come'
              : 'These nights are closed already, and nothing has changed since',
          );
        }
        const recorded = await recordedOf(queries, rigId, {
          startUtcMs: due[0].startUtcMs,
          endUtcMs: due.at(-1)!.endUtcMs,
        });
        const rule = await ruleOf(queries, viewer.observatoryId);
        for (const night of due) {
          const seq = (closings.get(night.nightDate)?.seq ?? 0) + 1;
          await writeClosing(queries, viewer, { site, rig, night, seq, recorded, rule });
        }
        await announce(queries, viewer.observatoryId, 'ledger');
        return { closed: due.length };
      }),

    async remark(
      viewer: Viewer,
      { id, nightDate }: ParamsOf<typeof addTimeRemark>,
      { kind, from, to, words }: BodyOf<typeof addTimeRemark>,
    ): Promise<{ ok: true }> {
      const [site, rig] = await rigNamed(database, viewer, id);
      const [night] = await nightsFrom(
        database,
        viewer.observatoryId,
        site.timeZone,
        datesBetween(nightDate, nightDate),
      );
      const startUtcMs = clockTime('from', from, night, site.timeZone);
      const endUtcMs = clockTime('to', to, night, site.timeZone);
      if (endUtcMs <= startUtcMs)
        throw refused('to', `The night runs from noon to noon: ${to} lies before ${from} in it`);
      const range = `[${new Date(startUtcMs).toISOString()},${new Date(endUtcMs).toISOString()})`;
      await database.transaction(async (queries) => {
        await queries.rows('SELECT 1 FROM rigs WHERE id = $1 FOR UPDATE', [id]);
        const other = await queries.one<{ kind: string }>(
          'SELECT kind FROM time_remarks WHERE rig_id = $1 AND withdrawn IS NULL AND during && $2::tstzrange',
          [id, range],
        );
        if (other)
          throw refused(
            'from',
            `Part of this time has been said to be ${other.kind} already; take that remark back first`,
          );
        const stored = await queries.one<{ id: string }>(
          'INSERT INTO time_remarks (observatory_id, rig_id, during, kind, words, person_id) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id',
          [viewer.observatoryId, rig.id, range, kind, words.trim(), viewer.personId],
        );
        await changes.record(queries, viewer, {
          entity: 'time_remarks',
          entityId: stored!.id,
          projectId: null,
          words: `${kind} from ${from} to ${to} in the night of ${nightDate}`,
          before: { withdrawn: true },
          after: { withdrawn: false },
        });
        await announce(queries, viewer.observatoryId, 'ledger');
      });
      return { ok: true };
    },

    async withdraw(viewer: Viewer, remarkId: string): Promise<{ ok: true }> {
      await database.transaction(async (queries) => {
        const remark = await queries.one<{ kind: string }>(
          'UPDATE time_remarks SET withdrawn = now() WHERE id = $1 AND observatory_id = $2 AND withdrawn IS NULL RETURNING kind',
          [remarkId, viewer.observatoryId],
        );
        if (!remark) throw notFound('remark');
        await changes.record(queries, viewer, {
          entity: 'time_remarks',
          entityId: remarkId,
          projectId: null,
          words: `a remark of ${remark.kind} taken back`,
          before: { withdrawn: false },
          after: { withdrawn: true },
        });
        await announce(queries, viewer.observatoryId, 'ledger');
      });
      return { ok: true };
    },

    editRule: (viewer: Viewer, rule: ChargingRule): Promise<ChargingRule> =>
      database.transaction(async (queries) => {
        const before = await ruleOf(queries, viewer.observatoryId);
        const next = { ...rule, currency: rule.currency.trim() };
        if (next.duesPerHour !== null && next.currency === '')
          throw refused('currency', 'Say in what the dues are counted');
        await queries.rows(
          `INSERT INTO settings (observatory_id, key, value) VALUES ($1, 'charging', $2) ON CONFLICT (observatory_id, key) DO UPDATE SET value = excluded.value`,
          [viewer.observatoryId, JSON.stringify(next)],
        );
        await changes.record(queries, viewer, {
          entity: 'charging',
          entityId: viewer.observatoryId,
          projectId: null,
          words: 'how hours are charged',
          before: { ...before },
          after: { ...next },
        });
        await announce(queries, viewer.observatoryId, 'ledger');
        return next;
      }),

    async dues(viewer: Viewer, from: string, to: string): Promise<string> {
      datesBetween(from, to);
      const rule = await ruleOf(database, viewer.observatoryId);
      const rows = await chargedBetween(database, viewer.observatoryId, from, to);
      return writeCsv(
        DUES_COLUMNS,
        rows.map((row) => ({
          member: row.memberName,
          rig: row.rigName,
          sky_class: row.skyClass,
          clock_hours: row.clockHours.toFixed(4),
          charged_hours: row.chargedHours.toFixed(4),
          dues: rule.duesPerHour === null ? '' : (row.chargedHours * rule.duesPerHour).toFixed(2),
          currency: rule.duesPerHour === null ? '' : rule.currency,
        })),
      );
    },

    async ofProject(viewer: Viewer, projectId: string): Promise<ResponseOf<typeof readProjectTime>> {
      const project = await database.one<{ rigId: string }>(
        `SELECT p.rig_id AS "rigId" FROM projects p WHERE p.id = $1 AND p.observatory_id = $2 AND ${maySee('p', '$3', viewer.role)}`,
        [projectId, viewer.observatoryId, viewer.personId],
      );
      if (!project) throw notFound('project');
      const [ledger, rejected, account, nights] = await Promise.all([
        database.one<{ accepted: number; undecided: number; effective: number }>(
          `SELECT coalesce(sum(t.accepted_s), 0) / 3600 AS accepted, coalesce(sum(t.undecided_s), 0) / 3600 AS undecided, coalesce(sum(t.effective_s), 0) / 3600 AS effective
           FROM goal_totals t JOIN goals g ON g.id = t.goal_id JOIN panels l ON l.id = g.panel_id WHERE l.project_id = $1`,
          [projectId],
        ),
        database.rows<{ reason: string; hours: number }>(
          `SELECT j.reason, sum(r.exposure_s) / 3600 AS hours FROM ledger_rows r JOIN verdicts j ON j.seq = r.verdict_seq
           WHERE r.project_id = $1 AND r.verdict = 'rejected' GROUP BY j.reason ORDER BY 2 DESC`,
          [projectId],
        ),
        database.one<{ overhead: number; fault: number; charged: number }>(
          `SELECT coalesce(sum(hours) FILTER (WHERE kind = 'overhead'), 0) AS overhead, coalesce(sum(hours) FILTER (WHERE kind = 'fault'), 0) AS fault, coalesce(sum(charged_hours), 0) AS charged
           FROM time_account WHERE project_id = $1`,
          [projectId],
        ),
        database.one<{ closed: number; open: number }>(
          `SELECT count(*) FILTER (WHERE closed)::int AS closed, count(*) FILTER (WHERE NOT closed)::int AS open
           FROM (SELECT EXISTS (SELECT 1 FROM night_closings c WHERE c.rig_id = $2 AND c.night_date = n.night_date) AS closed
             FROM (SELECT DISTINCT night_date FROM ledger_tallies WHERE project_id = $1 AND exposures > 0) n) x`,
          [projectId, project.rigId],
        ),
      ]);
      return {
        acceptedHours: ledger!.accepted,
        undecidedHours: ledger!.undecided,
        effectiveHours: ledger!.effective,
        rejected,
        overheadHours: account!.overhead,
        faultHours: account!.fault,
        chargedHours: account!.charged,
        closedNights: nights!.closed,
        openNights: nights!.open,
      };
    },
  };
}

function datesBetween(from: string, to: string): string[] {
  const days = (Date.parse(to) - Date.parse(from)) / (24 * HOUR_MS);
  if (Number.isNaN(days)) throw refused('from', 'Write nights as dates like 2026-11-23');
  if (days < 0) throw refused('to', 'The last night lies before the first');
  if (days >= MOST_NIGHTS) throw refused('to', `Choose at most ${MOST_NIGHTS} nights`);
  return Array.from({ length: days + 1 }, (_, i) => nightDatePlus(from, i));
}

function clockTime(field: 'from' | 'to', text: string, night: ObservingNight, timeZone: string): number {
  const read = /^(\d{1,2})[:.]?(\d{2})$/.exec(text.trim());
  const minutes = read ? Number(read[1]) * 60 + Number(read[2]) : Number.NaN;
  if (!read || Number(read[1]) > 23 || Number(read[2]) > 59)
    throw refused(field, `"${text}" is no clock time; write one like 23:10`);
  // Noon is both ends of a night: it begins one as "from" and ends it as "to".
  if (minutes === 720) return field === 'from' ? night.startUtcMs : night.endUtcMs;
  return clockTimeInNight(night, minutes, timeZone);
}

async function ruleOf(queries: Queries, observatoryId: string): Promise<ChargingRule> {
  const stored = await queries.one<{ value: ChargingRule }>(
    `SELECT value FROM settings WHERE observatory_id = $1 AND key = 'charging'`,
    [observatoryId],
  );
  return { ...NO_DUES, ...stored?.value };
}

/** The closing in force of each night, and whether anything was recorded, remarked or taken back after it. */
async function closingsOf(
  queries: Queries,
  rigId: string,
  nights: readonly ObservingNight[],
): Promise<Map<string, Closing>> {
  const rows = await queries.rows<Closing>(
    `SELECT DISTINCT ON (c.night_date) c.night_date::text AS "nightDate", c.seq, (extract(epoch FROM c.closed) * 1000)::float8 AS "closedUtcMs", p.name AS "closedBy",
       EXISTS (SELECT 1 FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id AND v.rig_id = c.rig_id
         WHERE e.observatory_id = c.observatory_id AND e.start_utc >= lower(c.night) AND e.start_utc < upper(c.night)
           AND (e.recorded > c.closed OR EXISTS (SELECT 1 FROM exposure_presence x WHERE x.exposure_id = e.id AND x.at > c.closed)))
       OR EXISTS (SELECT 1 FROM time_remarks m WHERE m.rig_id = c.rig_id AND m.during && c.night AND (m.at > c.closed OR m.withdrawn > c.closed)) AS "changedSince"
     FROM night_closings c JOIN people p ON p.id = c.closed_by WHERE c.rig_id = $1 AND c.night_date = ANY ($2::date[]) ORDER BY c.night_date, c.seq DESC`,
    [rigId, nights.map(({ nightDate }) => nightDate)],
  );
  return new Map(rows.map((row) => [row.nightDate, row]));
}

async function writtenSums(
  queries: Queries,
  rigId: string,
  nights: readonly ObservingNight[],
): Promise<Map<string, AccountedNight['spent']>> {
  const rows = await queries.rows<AccountedNight['spent'][number] & { nightDate: string }>(
    `SELECT night_date::text AS "nightDate", kind, sky_class AS "skyClass", sum(hours) AS hours FROM time_account
     WHERE rig_id = $1 AND night_date = ANY ($2::date[]) GROUP BY 1, 2, 3 ORDER BY 1, 2, 3`,
    [rigId, nights.map(({ nightDate }) => nightDate)],
  );
  const byNight = new Map<string, AccountedNight['spent']>();
  for (const { nightDate, ...spent } of rows) {
    const sums = byNight.get(nightDate) ?? [];
    sums.push(spent);
    byNight.set(nightDate, sums);
  }
  return byNight;
}

type Stretch = Pick<TimeEntry, 'kind' | 'skyClass' | 'startUtcMs' | 'endUtcMs'> & { readonly projectId: string | null };

const writtenEntries = (queries: Queries, rigId: string, nightDate: string): Promise<Stretch[]> =>
  queries.rows(
    `SELECT kind, sky_class AS "skyClass", project_id AS "projectId", round(extract(epoch FROM lower(during)) * 1000)::float8 AS "startUtcMs", round(extract(epoch FROM upper(during)) * 1000)::float8 AS "endUtcMs"
     FROM time_account WHERE rig_id = $1 AND night_date = $2 ORDER BY lower(during)`,
    [rigId, nightDate],
  );

/** Neighbours that differ in nothing a reader sees are one stretch. */
function joined(entries: readonly Stretch[]): Stretch[] {
  const stretches: Stretch[] = [];
  for (const { kind, skyClass, projectId, startUtcMs, endUtcMs } of entries) {
    const last = stretches.at(-1);
    if (last && last.kind === kind && last.skyClass === skyClass && last.projectId === projectId)
      stretches[stretches.length - 1] = { ...last, endUtcMs };
    else stretches.push({ kind, skyClass, projectId, startUtcMs, endUtcMs });
  }
  return stretches;
}

function sumsOf(entries: readonly TimeEntry[]): AccountedNight['spent'] {
  const sums = new Map<string, AccountedNight['spent'][number]>();
  for (const { kind, skyClass, startUtcMs, endUtcMs } of entries) {
    const key = `${kind} ${skyClass}`;
    const before = sums.get(key)?.hours ?? 0;
    sums.set(key, { kind, skyClass, hours: before + (endUtcMs - startUtcMs) / HOUR_MS });
  }
  return [...sums.values()];
}

const chargedBetween = (queries: Queries, observatoryId: string, from: string, to: string): Promise<ChargeRow[]> =>
  queries.rows(
    `SELECT m.id AS "memberId", m.name AS "memberName", r.id AS "rigId", r.name AS "rigName", t.sky_class AS "skyClass", sum(t.hours) AS "clockHours", sum(t.charged_hours) AS "chargedHours"
     FROM time_account t JOIN people m ON m.id = t.member_id JOIN rigs r ON r.id = t.rig_id
     WHERE t.observatory_id = $1 AND t.night_date BETWEEN $2 AND $3 GROUP BY m.id, r.id, t.sky_class ORDER BY m.name, r.position, t.sky_class DESC`,
    [observatoryId, from, to],
  );

interface NewClosing {
  readonly site: SiteRecord;
  readonly rig: RigRecord;
  readonly night: ObservingNight;
  readonly seq: number;
  readonly recorded: Recorded;
  readonly rule: ChargingRule;
}

async function writeClosing(
  queries: Queries,
  viewer: Viewer,
  { site, rig, night, seq, recorded, rule }: NewClosing,
): Promise<void> {
  const iso = (utcMs: number): string => new Date(utcMs).toISOString();
  const range = `[${iso(night.startUtcMs)},${iso(night.endUtcMs)})`;
  await recordNight(queries, viewer.observatoryId, night);
  const closing = await queries.one<{ id: string }>(
    `INSERT INTO night_closings (observatory_id, rig_id, night_date, seq, night, charge_dark, charge_bright, closed_by) VALUES ($1, $2, $3, $4, $5, $6, $7, $8) RETURNING id`,
    [viewer.observatoryId, rig.id, night.nightDate, seq, range, rule.dark, rule.bright, viewer.personId],
  );
  await insertRows(
    queries,
    'time_entries',
    nightAccount(factsOf(site, rig, night, recorded)).map((entry) => ({
      observatory_id: viewer.observatoryId,
      closing_id: closing!.id,
      night: range,
      during: `[${iso(entry.startUtcMs)},${iso(entry.endUtcMs)})`,
      kind: entry.kind,
      sky_class: entry.skyClass,
      project_id: entry.owner?.projectId ?? null,
      member_id: entry.owner?.memberId ?? null,
      exposure_id: entry.exposureId,
      remark_id: entry.remarkId,
    })),
  );
}
