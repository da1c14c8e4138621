// One-line orbits: the fixed columns in which elements of comets and of minor planets are published.
import { CoreError } from '../errors.ts';
import type { Orbit } from '../targets/orbits.ts';
import { GAUSS_K } from '../targets/orbits.ts';

/** Columns of a line, counted from 1, both ends included. */
type Columns = readonly [from: number, to: number];

/** Reads one line: a comet's with perihelion and its date, or a minor planet's with mean anomaly and motion.
 * @throws ORBIT_UNREADABLE with the columns and what stands there */
export function parseOrbitLine(line: string): Orbit {
  const text = line.replace(/\s+$/, '');
  if (text.trim() === '') throw unreadable('The line is empty', { line });
  return looksLikeMinorPlanet(text) ? minorPlanet(text) : comet(text);
}

/** All orbits of a file; lines that are no orbits are told with their number. */
export function parseOrbitLines(text: string): {
  orbits: { orbit: Orbit; line: string }[];
  problems: { lineNumber: number; words: string }[];
} {
  const orbits: { orbit: Orbit; line: string }[] = [];
  const problems: { lineNumber: number; words: string }[] = [];
  text.split(/\r?\n/).forEach((line, i) => {
    if (line.trim() === '' || line.startsWith('#')) return;
    try {
      orbits.push({ orbit: parseOrbitLine(line), line: line.replace(/\s+$/, '') });
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      problems.push({ lineNumber: i + 1, words: error.message });
    }
  });
  return { orbits, problems };
}

/** A minor planet has a packed epoch (letter, two digits, two signs) where a comet has the perihelion's day. */
const looksLikeMinorPlanet = (line: string): boolean => /^[IJK]\d\d[1-9A-C][1-9A-V]$/.test(cut(line, [21, 25]));

function comet(line: string): Orbit {
  const year = numberAt(line, [15, 18], 'the year of perihelion');
  const month = numberAt(line, [20, 21], 'the month of perihelion');
  const day = numberAt(line, [23, 29], 'the day of perihelion');
  const epoch = cut(line, [82, 89]);
  return checked({
    kind: 'comet',
    name: cut(line, [103, 158]) || cut(line, [1, 12]) || 'Unnamed comet',
    epochMjdTt: /^\d{8}$/.test(epoch)
      ? mjdOf(Number(epoch.slice(0, 4)), Number(epoch.slice(4, 6)), Number(epoch.slice(6)))
      : null,
    perihelionMjdTt: mjdOf(year, month, day),
    perihelionDistanceAu: numberAt(line, [31, 39], 'the perihelion distance'),
    eccentricity: numberAt(line, [42, 49], 'the eccentricity'),
    perihelionArgumentDeg: numberAt(line, [52, 59], 'the argument of perihelion'),
    nodeDeg: numberAt(line, [62, 69], 'the node'),
    inclinationDeg: numberAt(line, [72, 79], 'the inclination'),
  });
}

function minorPlanet(line: string): Orbit {
  const epochMjdTt = packedEpoch(cut(line, [21, 25]));
  const eccentricity = numberAt(line, [71, 79], 'the eccentricity');
  const axisAu = numberAt(line, [93, 103], 'the semi-major axis');
  const anomalyDeg = numberAt(line, [27, 35], 'the mean anomaly');
  const motionDegPerDay = (GAUSS_K * 180) / Math.PI / axisAu ** 1.5;
  const sincePerihelionDeg = anomalyDeg > 180 ? anomalyDeg - 360 : anomalyDeg;
  return checked({
    kind: 'minor_planet',
    name: cut(line, [167, 194]) || cut(line, [1, 7]) || 'Unnamed minor planet',
    epochMjdTt,
    perihelionMjdTt: epochMjdTt - sincePerihelionDeg / motionDegPerDay,
    perihelionDistanceAu: axisAu * (1 - eccentricity),
    eccentricity,
    perihelionArgumentDeg: numberAt(line, [38, 46], 'the argument of perihelion'),
    nodeDeg: numberAt(line, [49, 57], 'the node'),
    inclinationDeg: numberAt(line, [60, 68], 'the inclination'),
  });
}

function checked(orbit: Orbit): Orbit {
  if (!(orbit.perihelionDistanceAu > 0.001 && orbit.perihelionDistanceAu < 100))
    throw unreadable(`A perihelion distance of ${orbit.perihelionDistanceAu} AU can't be`, { orbit });
  if (!(orbit.eccentricity >= 0 && orbit.eccentricity < 10))
    throw unreadable(`An eccentricity of ${orbit.eccentricity} can't be`, { orbit });
  if (!(orbit.inclinationDeg >= 0 && orbit.inclinationDeg <= 180))
    throw unreadable(`An inclination of ${orbit.inclinationDeg}° can't be`, { orbit });
  return orbit;
}

const cut = (line: string, [from, to]: Columns): string => line.slice(from - 1, to).trim();

function numberAt(line: string, columns: Columns, what: string): number {
  const text = cut(line, columns);
  const value = text === '' ? Number.NaN : Number(text);
  if (Number.isFinite(value)) return value;
  const found = text === '' ? 'nothing' : `"${text}"`;
  throw unreadable(`Columns ${columns[0]} to ${columns[1]} should hold ${what}; ${found} is there`, { line });
}

/** "K25BL" is 2025 November 21: century, year, month and day, each packed into as few signs as it needs. */
function packedEpoch(text: string): number {
  const year = { I: 1800, J: 1900, K: 2000 }[text[0]]! + Number(text.slice(1, 3));
  const sign = (letter: string): number => Number.parseInt(letter, 36);
  return mjdOf(year, sign(text[3]), sign(text[4]));
}

/** Modified Julian date of a calendar date with a fraction of a day. */
const mjdOf = (year: number, month: number, day: number): number =>
  Date.UTC(year, month - 1, 1) / 86_400_000 + 40_587 + day - 1;

const unreadable = (message: string, details: Record<string, unknown>): CoreError =>
  new CoreError('ORBIT_UNREADABLE', message, details);
