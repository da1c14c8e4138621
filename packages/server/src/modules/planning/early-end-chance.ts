// The chance that a night under way ends within an hour: one setting of the observatory that all its plans allow for.
import type { Queries } from '../../database/connection.ts';
import { settingOf, storeSetting } from '../../database/settings-repository.ts';

/** Its name among settings and changes. */
export const EARLY_ENDS = 'early_ends';

interface EarlyEndSetting {
  readonly chancePercent: number;
}

/** Percent; 0 until somebody sets it. */
export const earlyEndChanceOf = async (queries: Queries, observatoryId: string): Promise<number> =>
  (await settingOf<EarlyEndSetting>(queries, observatoryId, EARLY_ENDS))?.chancePercent ?? 0;

export const storeEarlyEndChance = (
  queries: Queries,
  observatoryId: string,
  setting: EarlyEndSetting,
): Promise<unknown> => storeSetting(queries, observatoryId, EARLY_ENDS, setting);
