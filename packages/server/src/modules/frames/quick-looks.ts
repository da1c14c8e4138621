// Exposures looked at calibrated: which frames of the shelf it takes, and what is missing.
import { join } from 'node:path';
import type { CalibrationDegree, ExposurePage } from '@meridiem/contract';
import type { CalibrationKind } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import { refused } from '../../errors.ts';
import type { CalibratedBy } from '../../jobs/calibrating.ts';
import type { FittingSet } from '../calibration/index.ts';
import { fittingSets } from '../calibration/index.ts';
import { copiedNames, nightOf } from './repository.ts';

/** So many frames of a set are enough for looking. */
const MOST_FRAMES = 12;
type Files = Readonly<Partial<Record<CalibrationKind, readonly string[]>>>;
type Calibrated = NonNullable<ExposurePage['calibrated']>;

const NAMES: Readonly<Record<CalibrationKind, string>> = {
  dark: 'darks',
  bias: 'bias frames',
  flat: 'flats',
  'flat-dark': 'darks for the flats',
};

export const createQuickLooks = (database: Database, framesFolder: string | null) => {
  async function filesFor(observatoryId: string, exposureId: string): Promise<Files> {
    const nightDate = await nightOf(database, exposureId);
    const sets = await fittingSets(database, observatoryId, [{ exposureId, nightDate }]);
    const named = async ({ kind, exposureIds }: FittingSet): Promise<[CalibrationKind, string[]]> => [
      kind,
      (await copiedNames(database, exposureIds)).slice(0, MOST_FRAMES).map((name) => join(framesFolder ?? '', name)),
    ];
    return Object.fromEntries((await Promise.all(sets.map(named))).filter(([, files]) => files.length > 0));
  }

  return {
    async possible(observatoryId: string, exposureId: string): Promise<Calibrated> {
      const files = await filesFor(observatoryId, exposureId);
      return { darks: darksLook(files), full: fullLook(files) };
    },

    /** @throws VALUE_REFUSED where a kind of frame is missing */
    async takenFrom(
      observatoryId: string,
      exposureId: string,
      degree: CalibrationDegree,
    ): Promise<CalibratedBy | null> {
      if (degree === 'none') return null;
      const files = await filesFor(observatoryId, exposureId);
      const { isPossible, words } = degree === 'darks' ? darksLook(files) : fullLook(files);
      if (!isPossible) throw refused('calibration', `It can’t be calibrated: ${words}`);
      return {
        dark: files.dark ?? files.bias ?? [],
        flat: degree === 'full' ? (files.flat ?? []) : [],
        flatDark: files['flat-dark'] ?? files.bias ?? [],
      };
    },
  };
};

function darksLook({ dark, bias }: Files): Calibrated['darks'] {
  if (dark) return { isPossible: true, words: counted('dark', dark) };
  if (bias) return { isPossible: true, words: `${counted('bias', bias)}: no darks of its length and temperature` };
  return { isPossible: false, words: 'no darks of its length and temperature have come here, and no bias' };
}

function fullLook(files: Files): Calibrated['full'] {
  const darks = darksLook(files);
  if (!files.flat) return { isPossible: false, words: 'no flats of its filter and angle have come here' };
  if (!darks.isPossible) return darks;
  return { isPossible: true, words: `${counted('flat', files.flat)}, ${darks.words}` };
}

const counted = (kind: CalibrationKind, files: readonly string[]): string => `${files.length} ${NAMES[kind]}`;
