// What a property of the interface is, in words, from its name: quantities carry their unit there.
const UNITS: readonly (readonly [suffix: string, words: string])[] = [
  ['UtcMs', 'moment, UTC, milliseconds since 1970'],
  ['ArcsecPerPx', 'arcseconds a pixel'],
  ['ArcsecPerMin', 'arcseconds a minute'],
  ['DegPerSec', 'degrees a second'],
  ['MPerSec', 'metres a second'],
  ['EPerSec', 'electrons a second and pixel'],
  ['MagPerAirmass', 'magnitudes an airmass'],
  ['ClockMin', 'local time, minutes after midnight'],
  ['Arcsec', 'arcseconds'],
  ['Arcmin', 'arcminutes'],
  ['Deg', 'degrees'],
  ['Hours', 'hours'],
  ['Share', 'share, 0 to 1'],
  ['Sigmas', 'robust standard deviations'],
  ['Steps', 'focuser steps'],
  ['Bytes', 'bytes'],
  ['Mag', 'magnitudes'],
  ['MagV', 'magnitudes a square arcsecond, V'],
  ['Sec', 'seconds'],
  ['Min', 'minutes'],
  ['Mm', 'millimetres'],
  ['Um', 'micrometres'],
  ['Nm', 'nanometres'],
  ['Px', 'pixels'],
  ['Au', 'astronomical units'],
  ['Ms', 'milliseconds'],
  ['Day', 'days since 1970'],
  ['Date', 'date of the night’s evening, like 2026-12-03'],
];

const spaced = (name: string): string => name.replace(/([a-z0-9])([A-Z])/g, '$1 $2').toLowerCase();

/** "exposureSec" is "Exposure, seconds"; "panelId" is "Id of the panel"; "mayEdit" is "Whether may edit". */
export function propertyWords(name: string): string {
  const [, of, ids] = /^(.*)(Ids?)$/.exec(name) ?? [];
  if (of !== undefined) return of === '' ? 'Its id' : `${ids} of the ${spaced(of)}`;
  if (name === 'id') return 'Its id';
  const unit = UNITS.find(([suffix]) => name.endsWith(suffix) && name.length > suffix.length);
  const plain = spaced(unit ? name.slice(0, -unit[0].length) : name);
  const words = /^(is|has|may|was)[A-Z]/.test(name) ? `whether: ${plain}` : plain;
  return `${words[0].toUpperCase()}${words.slice(1)}${unit ? `, ${unit[1]}` : ''}`;
}

type Schema = Readonly<Record<string, unknown>>;

/** A schema in which every property says what it is; what it says already stays. */
export function described<T>(schema: T): T {
  if (Array.isArray(schema)) return schema.map(described) as T;
  if (typeof schema !== 'object' || schema === null) return schema;
  const entries = Object.entries(schema as Schema).map(([key, value]) => {
    if (key !== 'properties') return [key, described(value)];
    const properties = Object.entries(value as Record<string, Schema>).map(([name, property]) => [
      name,
      { description: propertyWords(name), ...described(property) },
    ]);
    return [key, Object.fromEntries(properties) as unknown];
  });
  return Object.fromEntries(entries) as T;
}
