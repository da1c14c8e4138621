// What the database knows of a rig's nights, as the core's account takes it.
import type { AccountedExposure, Interval, LostFrame, NightFacts, ObservingNight, Site } from '@meridiem/core';
import { observingNight, panelChangeSec, upIntervals } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { RigRecord } from '../observatory/index.ts';
import type { RemarkRow, StoredFrame } from './repository.ts';
import { lostFrames, remarksOf, storedFrames, storedNights } from './repository.ts';

/** Everything recorded of one rig in a stretch of nights. */
export interface Recorded {
  readonly exposures: readonly AccountedExposure[];
  readonly lostFrames: readonly LostFrame[];
  readonly remarks: readonly RemarkRow[];
}

export async function recordedOf(queries: Queries, rigId: string, span: Interval): Promise<Recorded> {
  const exposures = await storedFrames(queries, rigId, span);
  const lost = await lostFrames(queries, rigId, span);
  const remarks = await remarksOf(queries, rigId, span);
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
  const stored = await storedNights(queries, observatoryId, dates);
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
