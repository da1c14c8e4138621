import type { Observatory } from '@meridiem/contract';
import { EditableText } from '../../../ui/EditableText.tsx';
import { clock, hours } from '../../../words/format.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { useSunset } from '../queries.ts';
import { noonWords } from '../../../words/noon.ts';
import { formatSiteAngle, limitText, parseSiteAngle } from '@meridiem/core';
import { typedClockMin, typedNumber } from '../../../words/typed.ts';
import { Line } from './Sheet.tsx';

interface SiteSheetProps {
  readonly observatory: Observatory;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** What protects the equipment: a change says while it is typed what plans may do from then on. */
const BOUNDS: readonly {
  key: keyof Observatory['bounds'];
  name: string;
  help: string;
  warning: (valueDeg: number) => string;
}[] = [
  {
    key: 'sunAltitudeMaxDeg',
    name: 'No exposure with the sun above',
    help: 'whatever the limits say',
    warning: (value) => `Plans may expose until the sun is ${Math.abs(value)}° below the horizon`,
  },
  {
    key: 'mountAltitudeMinDeg',
    name: 'Mount never lower than',
    help: 'whatever the limits say',
    warning: (value) => `Plans may point down to ${value}°: check walls and cables first`,
  },
  {
    key: 'mountZenithHoleDeg',
    name: 'Zenith kept free',
    help: '0 where the mount tracks through it',
    warning: (value) => (value > 0 ? `No target within ${value}° of the zenith` : 'Plans may track through the zenith'),
  },
];

/** Where the observatory stands, with tonight's sunset to tell a wrong hemisphere or zone. */
export function SiteSheet({ observatory, mayEdit, changes }: SiteSheetProps) {
  const { latitudeDeg, longitudeDeg, elevationM, timeZone, zenithMagV, version, bounds } = observatory;
  const { data: sunset } = useSunset(mayEdit ? { latitudeDeg, longitudeDeg, elevationM, timeZone } : null);
  const number = (key: 'elevationM' | 'zenithMagV', what: string) => (text: string) =>
    changes.site({ version, [key]: typedNumber(text, what) });
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
        <Line name="Latitude" help="like 31.62 S or 31° 37′ 12″ S">
          <EditableText
            label="Latitude"
            disabled={!mayEdit}
            shown={formatSiteAngle(latitudeDeg, 'latitude')}
            text={formatSiteAngle(latitudeDeg, 'latitude')}
            width={170}
            onSave={async (text) => changes.site({ version, latitudeDeg: parseSiteAngle(text, 'latitude') })}
          />
        </Line>
        <Line name="Longitude" help="like 137.85 E or 137° 51′ E">
          <EditableText
            label="Longitude"
            disabled={!mayEdit}
            shown={formatSiteAngle(longitudeDeg, 'longitude')}
            text={formatSiteAngle(longitudeDeg, 'longitude')}
            width={170}
            onSave={async (text) => changes.site({ version, longitudeDeg: parseSiteAngle(text, 'longitude') })}
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
        <Line
          name="Preparation before the first stay"
          unit="min"
          help="the call time on Tonight: trouble found before dark costs no clear sky"
        >
          <EditableText
            label="Preparation"
            disabled={!mayEdit}
            shown={String(observatory.preparationMin)}
            text={String(observatory.preparationMin)}
            onSave={async (text) => changes.site({ version, preparationMin: typedNumber(text, 'time') })}
          />
        </Line>
        {BOUNDS.map(({ key, name, warning, help }) => (
          <Line key={key} name={name} unit="°" help={help}>
            <EditableText
              label={name}
              disabled={!mayEdit}
              shown={String(bounds[key]).replace('-', '−')}
              text={String(bounds[key]).replace('-', '−')}
              read={(text) => warning(typedNumber(text, 'angle'))}
              onSave={async (text) => changes.site({ version, bounds: { [key]: typedNumber(text, 'angle') } })}
            />
          </Line>
        ))}
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
