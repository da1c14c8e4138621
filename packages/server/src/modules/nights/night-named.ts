// The night that an address names.
import type { Observatory } from '@meridiem/contract';
import type { ObservingNight } from '@meridiem/core';
import { DAY_MS, observingNight } from '@meridiem/core';
import { notFound } from '../../errors.ts';

/** Nights that can be looked at, before and after tonight. */
const NIGHTS_BACK = 400;
const NIGHTS_AHEAD = 90;
/** @param nightDate "tonight", or a date
 * @throws NOT_FOUND where it lies too far away */
export function nightNamed(observatory: Observatory, nightDate: string): ObservingNight {
  const night = observingNight(nightDate === 'tonight' ? observatory.tonight : nightDate, observatory.timeZone);
  const away = (Date.parse(night.nightDate) - Date.parse(observatory.tonight)) / DAY_MS;
  if (away > NIGHTS_AHEAD || away < -NIGHTS_BACK)
    throw notFound(`night within ${NIGHTS_BACK} nights back and ${NIGHTS_AHEAD} ahead`);
  return night;
}
