// What a clock hour is charged, by sky: the observatory's rule.
import type { ChargeWeights } from '@meridiem/core';
import { DEFAULT_CHARGE_WEIGHTS } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { settingOf } from '../../database/settings-repository.ts';

export async function chargeWeightsOf(queries: Queries, observatoryId: string): Promise<ChargeWeights> {
  const rule = await settingOf<Partial<ChargeWeights>>(queries, observatoryId, 'charging');
  const { dark = DEFAULT_CHARGE_WEIGHTS.dark, bright = DEFAULT_CHARGE_WEIGHTS.bright } = rule ?? {};
  return { dark, bright, day: bright };
}
