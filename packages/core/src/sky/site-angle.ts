// A site's latitude or longitude as people write it, with its hemisphere.
import { CoreError } from '../errors.ts';

const AXES = {
  latitude: { positive: 'N', negative: 'S', most: 90, like: '31.62 S or 31° 37′ 12″ S' },
  longitude: { positive: 'E', negative: 'W', most: 180, like: '137.85 E or 137° 51′ 0″ E' },
} as const;
export type SiteAxis = keyof typeof AXES;

const PART = String.raw`(\d+(?:[.,]\d+)?)`;
const WRITTEN = new RegExp(
  String.raw`^([+-]?)\s*${PART}\s*(?:°|d|deg|:|\s|$)\s*(?:${PART}\s*(?:'|m|min|:|\s|$)\s*(?:${PART}\s*(?:"|''|s|sec)?)?)?$`,
  'i',
);

/** "−31.62", "31.62 S", "31° 37′ 12″ S", "S 31 37.2", "31:37:12 S"; a letter of the other axis is refused, so is a sign beside a letter.
 * @returns degrees, north and east positive
 * @throws COORDINATE_UNREADABLE, COORDINATE_OUT_OF_RANGE */
export function parseSiteAngle(text: string, axis: SiteAxis): number {
  const { positive, negative, most, like } = AXES[axis];
  const unreadable = (words: string): CoreError => new CoreError('COORDINATE_UNREADABLE', words, { text });
  const { letter, rest } = withoutLetter(text);
  if (letter && letter !== positive && letter !== negative)
    throw unreadable(`${letter} is no letter of a ${axis}; a ${axis} ends with ${positive} or ${negative}`);
  const match = WRITTEN.exec(plain(rest));
  if (!match) throw unreadable(`"${text.trim()}" can’t be read as a ${axis}; write it like ${like}`);
  const [sign, ...parts] = match.slice(1);
  if (letter && sign) throw unreadable(`Write either the sign or the letter ${letter}, not both`);
  const [whole, minutes, seconds] = parts.map((part) => Number((part ?? '0').replace(',', '.')));
  if (minutes >= 60 || seconds >= 60) throw unreadable('Minutes and seconds stay below 60');
  const degrees = whole + minutes / 60 + seconds / 3600;
  if (degrees > most)
    throw new CoreError('COORDINATE_OUT_OF_RANGE', `A ${axis} lies between ${most}° ${negative} and ${most}° ${positive}`, { text }); // prettier-ignore
  const isNegative = letter === negative || sign === '-';
  return isNegative && degrees > 0 ? -degrees : degrees;
}

/** "31° 37′ 12″ S" */
export function formatSiteAngle(degrees: number, axis: SiteAxis): string {
  const { positive, negative } = AXES[axis];
  const seconds = Math.round(Math.abs(degrees) * 3600);
  const [whole, minutes] = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60)];
  return `${whole}° ${minutes}′ ${seconds % 60}″ ${degrees < 0 ? negative : positive}`;
}

const plain = (text: string): string =>
  text.trim().replaceAll('−', '-').replace(/[′’]/g, "'").replace(/[″”]/g, '"').replace(/''/g, '"');

/** A hemisphere's letter stands before or behind; a small s or d beside digits is a unit. */
function withoutLetter(text: string): { letter: string | null; rest: string } {
  const trimmed = text.trim();
  const before = /^([NSEW])\s*(?=[\d+−-])/i.exec(trimmed);
  if (before) return { letter: before[1].toUpperCase(), rest: trimmed.slice(before[0].length) };
  const behind = /(?<=[\d°'"′″’”\s])\s*([NSEW])$/i.exec(trimmed);
  const isSeconds = behind?.[1] === 's' && /[\d.,]+\s*[m'′:]\s*[\d.,]+\s*s$/i.test(trimmed);
  if (!behind || isSeconds) return { letter: null, rest: trimmed };
  return { letter: behind[1].toUpperCase(), rest: trimmed.slice(0, behind.index) };
}
