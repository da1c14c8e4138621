// What calibration the lights of a period need, held against the frames there are.
import type { CalibrationNeed, readCalibration, ResponseOf } from '@meridiem/contract';
import type { CalibrationNeed as Need } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import { refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import type { Nights } from './repository.ts';
import { guideDarksOf } from './guide-darks.ts';
import { calibrationFacts, needsOfRig, rulesOfRig } from './rig-needs.ts';

const LONGEST_DAYS = 366;

export interface CalibrationParts {
  readonly database: Database;
  readonly observatory: ObservatoryService;
}

export type CalibrationService = ReturnType<typeof createCalibrationService>;

export function createCalibrationService({ database, observatory }: CalibrationParts) {
  return {
    async read({ observatoryId }: Viewer, nights: Nights): Promise<ResponseOf<typeof readCalibration>> {
      const days = (Date.parse(nights.to) - Date.parse(nights.from)) / 86_400_000;
      if (days < 0) throw refused('to', 'The last night lies before the first');
      if (days > LONGEST_DAYS) throw refused('from', `At most ${LONGEST_DAYS} nights are looked at together`);
      const { timeZone, rigs, filters } = await observatory.read(observatoryId);
      const [facts, guideDarks] = await Promise.all([
        calibrationFacts(database, observatoryId, nights),
        guideDarksOf(database, observatoryId),
      ]);
      const letters = new Map(filters.map(({ id, letter }) => [id, letter]));
      return {
        timeZone,
        rigs: rigs.map(({ id, name }) => ({
          rigId: id,
          rigName: name,
          rules: rulesOfRig(facts, id),
          guideDarks: guideDarks.get(id) ?? null,
          needs: needsOfRig(facts, id).map((need) => shown(need, letters)),
        })),
      };
    },
  };
}

function shown(
  { kind, like, lights, newestUtcMs, state, set, words }: Need,
  letters: ReadonlyMap<string, string>,
): CalibrationNeed {
  const [isFlat, hasLength] = [kind === 'flat', kind === 'dark' || kind === 'flat-dark'];
  return {
    kind,
    filterLetter: isFlat && like.filterId !== null ? (letters.get(like.filterId) ?? null) : null,
    ...{ gain: like.gain, offset: like.offset, binning: like.binning, region: like.region },
    exposureSec: hasLength ? like.exposureSec : null,
    sensorC: hasLength ? like.sensorC : null,
    mechanicalAngleDeg: isFlat ? like.mechanicalAngleDeg : null,
    ...{ lights, newestUtcMs, state, words },
    set: set && { count: set.count, utcMs: set.utcMs },
  };
}
