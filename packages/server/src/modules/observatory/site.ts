// The site: its place and bounds, and its horizon.
import type { BodyOf, Observatory, editObservatory } from '@meridiem/contract';
import { geometricAltitudeDeg, parseHorizonFile, pressureAtElevationHpa } from '@meridiem/core';
import type { Viewer } from '../../plugins/sessions.ts';
import { requireTimeZone } from '../../time-zone.ts';
import { editableTable, editFields } from '../changes/index.ts';
import { siteOf, storeHorizon } from './repository.ts';
import type { ObservatoryUse } from './service.ts';

const SITE_FIELDS = editableTable('observatories', 'Observatory', [
  'name',
  'latitudeDeg',
  'longitudeDeg',
  'elevationM',
  'timeZone',
  'zenithMagV',
  'cutOffClockMin',
  'preparationMin',
  'weatherPersistence',
  'climateSource',
  'boundSunAltitudeMaxDeg',
  'boundMountAltitudeMinDeg',
  'boundZenithHoleDeg',
]);
/** Temperature assumed when a horizon as seen is turned into geometric altitudes. */
const HORIZON_TEMPERATURE_C = 10;

export function createSite({ changes, changing }: ObservatoryUse) {
  changes.registerFields(SITE_FIELDS, 'coordinator');
  return {
    edit: (viewer: Viewer, { version, bounds, ...site }: BodyOf<typeof editObservatory>): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const fields = { ...site, ...boundColumns(bounds) };
        if (fields.timeZone) requireTimeZone(fields.timeZone);
        const edited = await editFields(queries, {
          table: SITE_FIELDS,
          id: viewer.observatoryId,
          observatoryId: viewer.observatoryId,
          baseVersion: version,
          fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'observatories',
            entityId: viewer.observatoryId,
            projectId: null,
            words: 'the site',
            ...edited,
          });
      }),

    replaceHorizon: (viewer: Viewer, text: string, asSeen: boolean): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const site = await siteOf(queries, viewer.observatoryId);
        const air = { pressureHpa: pressureAtElevationHpa(site.elevationM), temperatureC: HORIZON_TEMPERATURE_C };
        const points = parseHorizonFile(text).map((point) =>
          asSeen ? { ...point, altitudeDeg: geometricAltitudeDeg(point.altitudeDeg, air) } : point,
        );
        await storeHorizon(queries, viewer.observatoryId, points);
      }),
  };
}

/** Bounds under the names of their columns; those that are left out stay. */
const boundColumns = (bounds: BodyOf<typeof editObservatory>['bounds']): Record<string, number> =>
  Object.fromEntries(
    Object.entries({
      boundSunAltitudeMaxDeg: bounds?.sunAltitudeMaxDeg,
      boundMountAltitudeMinDeg: bounds?.mountAltitudeMinDeg,
      boundZenithHoleDeg: bounds?.mountZenithHoleDeg,
    }).filter((entry): entry is [string, number] => entry[1] !== undefined),
  );
