// What the database knows of a rig's nights, as the core's account takes it.
import type { AccountedExposure, LostFrame, NightFacts, ObservingNight, Site, TimeKind } from '@meridiem/core';
import { observingNight, panelChangeSec, upIntervals } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { RigRecord } from '../observatory/index.ts';

export interface RemarkRow {
  readonly id: string;
  readonly kind: TimeKind;
  readonly startUtcMs: number;
  readonly endUtcMs: number;
  readonly words: string;
  readonly who: string;
}

/** Everything recorded of one rig in a stretch of nights. */
export interface Recorded {
  readonly exposures: readonly AccountedExposure[];
  readonly lostFrames: readonly LostFrame[];
  readonly remarks: readonly RemarkRow[];
}

/** Whole milliseconds since 1970, so that one entry ends exactly where the next begins. */
const MS = (moment: string): string => `round(extract(epoch FROM ${moment}) * 1000)::float8`;

export async function recordedOf(
  queries: Queries,
  rigId: string,
  { startUtcMs, endUtcMs }: { startUtcMs: number; endUtcMs: number },
): Promise<Recorded> {
  const bind = [rigId, new Date(startUtcMs).toISOString(), new Date(endUtcMs).toISOString()];
  const exposures = await queries.rows<StoredFrame & { id: string; kind: string }>(
    `SELECT e.id, e.kind, ${MS('e.start_utc')} AS "startUtcMs", ${MS("e.start_utc + e.exposure_s * interval '1 second'")} AS "endUtcMs",
         a.panel_id AS "panelId", a.project_id AS "projectId", p.owner_id AS "memberId"
       FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id
       LEFT JOIN LATERAL (SELECT * FROM attributions x WHERE x.exposure_id = e.id AND x.withdrawn IS NULL ORDER BY x.goal_id IS NULL, x.id LIMIT 1) a ON true
       LEFT JOIN projects p ON p.id = a.project_id
       WHERE v.rig_id = $1 AND e.start_utc >= $2 AND e.start_utc < $3 AND e.exposure_s > 0
         AND coalesce((SELECT y.present FROM exposure_presence y WHERE y.exposure_id = e.id ORDER BY y.seq DESC LIMIT 1), true)`,
    bind,
  );
  const lost = await queries.rows<StoredFrame>(
    `SELECT ${MS('s.planned_start')} AS "startUtcMs", ${MS("s.planned_start + s.exposure_s * interval '1 second'")} AS "endUtcMs",
         l.id AS "panelId", p.id AS "projectId", p.owner_id AS "memberId"
       FROM run_steps s JOIN night_runs n ON n.id = s.run_id JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
       WHERE n.rig_id = $1 AND n.kind = 'night' AND s.outcome = 'lost' AND s.planned_start >= $2 AND s.planned_start < $3`,
    bind,
  );
  const remarks = await queries.rows<RemarkRow>(
    `SELECT r.id, r.kind, ${MS('lower(r.during)')} AS "startUtcMs", ${MS('upper(r.during)')} AS "endUtcMs", r.words, p.name AS who
       FROM time_remarks r JOIN people p ON p.id = r.person_id WHERE r.rig_id = $1 AND r.during && tstzrange($2, $3) AND r.withdrawn IS NULL ORDER BY lower(r.during)`,
    bind,
  );
  return {
    exposures: exposures.map(({ id, kind, ...frame }) => ({
      id,
      kind: kind === 'light' ? 'light' : 'calibration',
      ...ofFrame(frame),
    })),
    lostFrames: lost.map((frame) => ({
      panelId: frame.panelId!,
      owner: ofFrame(frame).owner!,
      startUtcMs: frame.startUtcMs,
      endUtcMs: frame.endUtcMs,
    })),
    remarks,
  };
}

interface StoredFrame {
  readonly startUtcMs: number;
  readonly endUtcMs: number;
  readonly panelId: string | null;
  readonly projectId: string | null;
  readonly memberId: string | null;
}

const ofFrame = ({ startUtcMs, endUtcMs, panelId, projectId, memberId }: StoredFrame) => ({
  startUtcMs,
  endUtcMs,
  panelId,
  owner: projectId !== null && memberId !== null ? { projectId, memberId } : null,
});

/** The nights' starts and ends as they were stored when something first happened; as the zone has them now for the others. */
export async function nightsFrom(
  queries: Queries,
  observatoryId: string,
  timeZone: string,
  dates: readonly string[],
): Promise<ObservingNight[]> {
  const stored = await queries.rows<ObservingNight>(
    `SELECT night_date::text AS "nightDate", ${MS('start_utc')} AS "startUtcMs", ${MS('end_utc')} AS "endUtcMs" FROM nights WHERE observatory_id = $1 AND night_date = ANY ($2::date[])`,
    [observatoryId, dates],
  );
  const known = new Map(stored.map((night) => [night.nightDate, night]));
  return dates.map((date) => known.get(date) ?? observingNight(date, timeZone));
}

export function factsOf(site: Site, rig: RigRecord, night: ObservingNight, recorded: Recorded): NightFacts {
  const inside = ({ startUtcMs, endUtcMs }: { startUtcMs: number; endUtcMs: number }): boolean =>
    endUtcMs > night.startUtcMs && startUtcMs < night.endUtcMs;
  const whole = ({ startUtcMs, endUtcMs }: { startUtcMs: number; endUtcMs: number }) => ({
    startUtcMs: Math.round(startUtcMs),
    endUtcMs: Math.round(endUtcMs),
  });
  return {
    night,
    exposures: recorded.exposures.filter(inside),
    lostFrames: recorded.lostFrames.filter(inside),
    remarks: recorded.remarks.filter(inside),
    sunUp: upIntervals(site, 'sun', night).map(whole),
    moonUp: upIntervals(site, 'moon', night).map(whole),
    arrivalSec: panelChangeSec(rig.costs, null, { raDeg: 0, decDeg: 0 }),
    downloadSec: rig.costs.downloadSec,
  };
}
