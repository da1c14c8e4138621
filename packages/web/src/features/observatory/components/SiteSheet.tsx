import type { Observatory } from '@meridiem/contract';
import { EditableText } from '../../../ui/EditableText.tsx';
import { clock, degrees, hours } from '../../../words/format.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { useSunset } from '../queries.ts';
import { noonWords } from '../../../words/noon.ts';
import { limitText } from '@meridiem/core';
import { typedClockMin, typedNumber } from '../../../words/typed.ts';
import { Line } from './Sheet.tsx';

interface SiteSheetProps {
  readonly observatory: Observatory;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** Where the observatory stands, with tonight's sunset to tell a wrong hemisphere or zone. */
export function SiteSheet({ observatory, mayEdit, changes }: SiteSheetProps) {
  const { latitudeDeg, longitudeDeg, elevationM, timeZone, zenithMagV, version, bounds } = observatory;
  const { data: sunset } = useSunset(mayEdit ? { latitudeDeg, longitudeDeg, elevationM, timeZone } : null);
  const number = (key: 'latitudeDeg' | 'longitudeDeg' | 'elevationM' | 'zenithMagV', what: string) => (text: string) =>
    changes.site({ version, [key]: typedNumber(text, what) });
  const hemisphere = (value: number, letters: string): string =>
    `${degrees(Math.abs(value), 3)} ${letters[value < 0 ? 1 : 0]}`;
  return (
    <section aria-label="Site">
      <h2 className="text-xl">Site</h2>
      <dl className="mt-1">
        <Line name="Name">
          <EditableText
            label="Name"
            width={240}
            disabled={!mayEdit}
            shown={observatory.name}
            text={observatory.name}
            onSave={(name) => changes.site({ version, name })}
          />
        </Line>
        <Line name="Latitude" help="south is negative, or write 31.62 S">
          <EditableText
            label="Latitude"
            disabled={!mayEdit}
            shown={hemisphere(latitudeDeg, 'NS')}
            text={String(latitudeDeg)}
            onSave={number('latitudeDeg', 'latitude')}
          />
        </Line>
        <Line name="Longitude" help="west is negative, or write 70.1 W">
          <EditableText
            label="Longitude"
            disabled={!mayEdit}
            shown={hemisphere(longitudeDeg, 'EW')}
            text={String(longitudeDeg)}
            onSave={number('longitudeDeg', 'longitude')}
          />
        </Line>
        <Line name="Elevation" unit="m">
          <EditableText
            label="Elevation"
            disabled={!mayEdit}
            shown={String(elevationM)}
            text={String(elevationM)}
            onSave={number('elevationM', 'elevation')}
          />
        </Line>
        <Line name="Time zone">
          <EditableText
            label="Time zone"
            width={200}
            disabled={!mayEdit}
            shown={timeZone}
            text={timeZone}
            onSave={(zone) => changes.site({ version, timeZone: zone.trim() })}
          />
        </Line>
        <Line name="Dark sky at the zenith" unit="V mag/arcsec²">
          <EditableText
            label="Dark sky at the zenith"
            disabled={!mayEdit}
            shown={zenithMagV.toFixed(1)}
            text={String(zenithMagV)}
            onSave={number('zenithMagV', 'brightness')}
          />
        </Line>
        <Line
          name="Plans are frozen from"
          help="local time; a published plan of the evening then changes only with a reason"
        >
          <EditableText
            label="Cut-off hour"
            disabled={!mayEdit}
            shown={limitText('notBeforeClockMin', observatory.cutOffClockMin)}
            text={limitText('notBeforeClockMin', observatory.cutOffClockMin)}
            onSave={(text) => changes.site({ version, cutOffClockMin: typedClockMin(text) })}
          />
        </Line>
        <Line name="Bounds" help="nobody overrides them">
          sun below {degrees(bounds.sunAltitudeMaxDeg, 0)}, mount above {degrees(bounds.mountAltitudeMinDeg, 0)}
        </Line>
      </dl>
      {sunset && (
        <p className="mt-3 border-l-2 border-brass bg-raised px-3 py-2 font-serif text-base">
          {sunset.sunsetUtcMs === null
            ? 'The sun does not set there tonight.'
            : `Local sunset tonight is ${clock(sunset.sunsetUtcMs, timeZone)}, sunrise ${clock(sunset.sunriseUtcMs, timeZone)}, with ${hours(sunset.darkHours)} h of darkness. ${noonWords(sunset.noonSunAzimuthDeg)}. Right?`}
          <span className="mt-1 block text-sm text-soft">If it is not, a sign or the zone above is wrong.</span>
        </p>
      )}
    </section>
  );
}
