// What a browser says of itself, in two words.

const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/\bEdg\//, 'Edge'],
  [/\bFirefox\//, 'Firefox'],
  [/\bOPR\//, 'Opera'],
  [/Chrom(e|ium)\//, 'Chrome'],
  [/\bSafari\//, 'Safari'],
];
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/iPhone|iPad/, 'iOS'],
  [/Android/, 'Android'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
];

const nameIn = (agent: string, names: readonly (readonly [RegExp, string])[]): string | undefined =>
  names.find(([pattern]) => pattern.test(agent))?.[1];

/** "Firefox on Linux"; "an unknown device" for what names neither. */
export function deviceOf(agent: string): string {
  const [browser, system] = [nameIn(agent, BROWSERS), nameIn(agent, SYSTEMS)];
  if (!browser && !system) return 'an unknown device';
  return [browser ?? 'a browser', system].filter(Boolean).join(' on ');
}
