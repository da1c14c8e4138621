// The site: its place and bounds, its horizon, and what its filters do.
import type { BodyOf, Observatory, editFilter, editObservatory } from '@meridiem/contract';
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
  'weatherPersistence',
  'climateSource',
]);
const FILTER_FIELDS = editableTable('filters', 'Filter', [
  'centreNm',
  'widthNm',
  'extinctionMagPerAirmass',
  'zenithMag',
  'moonFactor',
]);

/** Temperature assumed when a horizon as seen is turned into geometric altitudes. */
const HORIZON_TEMPERATURE_C = 10;

export function createSite({ changes, changing }: ObservatoryUse) {
  changes.registerFields(SITE_FIELDS, 'coordinator');
  changes.registerFields(FILTER_FIELDS, 'coordinator');
  return {
    edit: (viewer: Viewer, { version, ...fields }: BodyOf<typeof editObservatory>): Promise<Observatory> =>
      changing(viewer, async (queries) => {
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

    editFilter: (
      viewer: Viewer,
      filterId: string,
      { version, ...fields }: BodyOf<typeof editFilter>,
    ): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const edited = await editFields(queries, {
          table: FILTER_FIELDS,
          id: filterId,
          observatoryId: viewer.observatoryId,
          baseVersion: version,
          fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'filters',
            entityId: filterId,
            projectId: null,
            words: 'a filter',
            ...edited,
          });
      }),
  };
}
