// A rig and its site as a runner needs them: what its devices are told, and what nothing may overstep.
import type { DeviceRun } from '@meridiem/contract';
import { nightRulesWith, observingNight, sunPassage } from '@meridiem/core';
import type { RunServiceParts } from './service.ts';

interface ClaimedNight {
  readonly observatoryId: string;
  readonly rigId: string;
  readonly nightDate: string;
}

const USUAL_E_PER_ADU = 1;
const NO_COOLER_C = 0;

/** @returns null where the rig has no devices */
export async function deviceRunOf(
  { database, observatory, devices }: Pick<RunServiceParts, 'database' | 'observatory' | 'devices'>,
  { observatoryId, rigId, nightDate }: ClaimedNight,
): Promise<DeviceRun | null> {
  const reached = await devices.reachedFor(database, rigId);
  if (!reached) return null;
  const { rigs, filters, bounds, horizon, latitudeDeg, longitudeDeg, elevationM, timeZone } =
    await observatory.read(observatoryId);
  const rig = rigs.find(({ id }) => id === rigId);
  if (!rig) return null;
  const site = { latitudeDeg, longitudeDeg, elevationM };
  const night = observingNight(nightDate, timeZone);
  const [mode] = rig.cameraModes;
  const { apertureMm, focalLengthMm, pixelUm, widthPx, heightPx } = rig;
  const { rotatorKind, angleToleranceDeg, skyAngleDeg, drawtubeMm, mirrors, flipAfterSec, mountLimitAfterSec, costs } =
    rig;
  return {
    baseUrl: reached.baseUrl,
    isSimulated: reached.isSimulated,
    site,
    horizon,
    bounds,
    endUtcMs: sunPassage(site, night, bounds.sunAltitudeMaxDeg).dawnUtcMs ?? night.endUtcMs,
    optics: { apertureMm, focalLengthMm, pixelUm, widthPx, heightPx },
    readNoiseE: mode?.readNoiseE ?? 2,
    ePerAdu: mode?.ePerAdu ?? USUAL_E_PER_ADU,
    coolingBelowC: rig.coolingBelowC ?? NO_COOLER_C,
    ...{ rotatorKind, angleToleranceDeg, skyAngleDeg, drawtubeMm, mirrors, flipAfterSec, mountLimitAfterSec, costs },
    flips: rig.mountKind === 'german_equatorial',
    nightRules: nightRulesWith(reached.nightRules),
    ownSteps: rig.steps,
    park: rig.stow,
    roofClears: rig.roofClears === 'any',
    wheel: rig.slots.flatMap(({ slot, filterId, focusOffsetSteps }) => {
      const filter = filters.find(({ id }) => id === filterId);
      return filter ? [{ place: slot - 1, letter: filter.letter, widthNm: filter.widthNm, focusOffsetSteps }] : [];
    }),
  };
}
