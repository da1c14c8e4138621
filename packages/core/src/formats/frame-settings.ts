// How a frame was taken, from the cards that writers use for it: kind, length, gain, binning, filter, temperature; and whether it is one exposure at all.
import type { HeaderReader } from './header-reader.ts';
import { firstNumber, firstText } from './header-reader.ts';

export const FRAME_KINDS = ['light', 'flat', 'dark', 'bias'] as const;
export type FrameKind = (typeof FRAME_KINDS)[number];

const KIND_CARDS = ['IMAGETYP', 'FRAME', 'FRAMETYP', 'OBSTYPE', 'IMGTYPE'];
const KIND_WORDS: readonly (readonly [RegExp, FrameKind])[] = [
  [/flat/i, 'flat'],
  [/dark/i, 'dark'],
  [/bias|zero|offset/i, 'bias'],
  [/light|object|science|sci/i, 'light'],
];

export function kindOf(header: HeaderReader, doubts: string[]): FrameKind {
  const words = firstText(header, KIND_CARDS);
  const kind = words === null ? undefined : KIND_WORDS.find(([pattern]) => pattern.test(words))?.[1];
  if (!kind)
    doubts.push(
      words === null ? 'no IMAGETYP: taken for a light' : `IMAGETYP "${words}" is unknown: taken for a light`,
    );
  return kind ?? 'light';
}

const COUNT_CARDS = ['NCOMBINE', 'STACKCNT', 'NSTACK', 'NIMAGES', 'SNAPSHOT', 'IMCMB001'];
const COMBINED_WORDS = /master|stack|integrat|combin|mosaic|average|median/i;

/** Why a file is no single exposure, in words: a stack, a master, a mosaic put together; null where it is one. */
export function combinedWords(header: HeaderReader): string | null {
  const kind = firstText(header, KIND_CARDS);
  if (kind !== null && COMBINED_WORDS.test(kind)) return `IMAGETYP "${kind}" is no single exposure`;
  for (const card of COUNT_CARDS) {
    const count = header.number(card);
    if (count !== null && count > 1) return `${card} ${count}: it is made of several exposures`;
    if (card === 'IMCMB001' && header.text(card) !== null) return 'IMCMB001: it is made of several exposures';
  }
  return null;
}

/** A file's name that says the same; only asked where the header is silent. */
export const combinedName = (fileName: string): string | null => {
  const name = fileName.replace(/^.*[/\\]/, '');
  return /(^|[^a-z])(master|stack(ed)?|integration|drizzled?)([^a-z]|$)/i.test(name)
    ? `the name "${name}" says that it is made of several exposures`
    : null;
};

const LENGTH_CARDS = ['EXPTIME', 'EXPOSURE', 'XPOSURE', 'EXP_TIME', 'ITIME'];

/** Seconds; a comment that names another unit is believed, and said. */
export function exposureOf(header: HeaderReader, doubts: string[]): number | null {
  const found = LENGTH_CARDS.flatMap((card) => {
    const value = header.number(card);
    return value === null ? [] : [{ card, sec: inSeconds(header, card, value, doubts) }];
  });
  if (found.length === 0) return null;
  const [first, ...others] = found;
  const other = others.find(({ sec }) => Math.abs(sec - first.sec) > 0.01 * Math.max(sec, first.sec));
  if (other) doubts.push(`${first.card} says ${first.sec} s, ${other.card} ${other.sec}; ${first.card} is used`);
  return first.sec;
}

function inSeconds({ comment }: HeaderReader, card: string, value: number, doubts: string[]): number {
  const words = comment(card);
  const factor = /\bms\b|millisec/i.test(words)
    ? 0.001
    : /\bmin(ute)?s?\b/i.test(words)
      ? 60
      : /\bhours?\b|\[h\]/i.test(words)
        ? 3600
        : 1;
  if (factor !== 1)
    doubts.push(`${card} ${value}: its comment "${words}" names another unit; read as ${value * factor} s`);
  return value * factor;
}

/** GAIN is the camera's setting for some writers and electrons per ADU for others. */
export function gainOf(header: HeaderReader, doubts: string[]): number | null {
  const gain = header.number('GAIN') ?? header.number('ISOSPEED') ?? header.number('ISO');
  if (gain === null) return null;
  const isElectrons = /e-?\s*(per|\/)\s*(adu|dn)|electron/i.test(header.comment('GAIN'));
  if (!isElectrons && Number.isInteger(gain) && gain !== header.number('EGAIN')) return gain;
  doubts.push(`GAIN ${gain} is electrons per ADU, not a setting; the gain setting is unknown`);
  return null;
}

/** The camera's binning: "2", "2x2", "2 2", or a card an axis.
 * @returns null where the axes differ or nothing sensible stands there */
export function binningOf(header: HeaderReader, doubts: string[]): number | null {
  const [x, y] = [
    firstNumber(header, ['XBINNING', 'CCDXBIN', 'CCDBIN1', 'BINX']),
    firstNumber(header, ['YBINNING', 'CCDYBIN', 'CCDBIN2', 'BINY']),
  ];
  const [a, b] = x !== null ? [x, y ?? x] : pairOf(firstText(header, ['BINNING', 'CCDSUM', 'BIN']));
  if (a === null) return 1;
  if (a === b && Number.isInteger(a) && a >= 1 && a <= 16) return a;
  doubts.push(`binning ${a} × ${b} is none that goals have; it is unknown`);
  return null;
}

function pairOf(text: string | null): [number | null, number | null] {
  if (text === null) return [null, null];
  const [a, b] = text
    .split(/[^\d.]+/)
    .filter((part) => part !== '')
    .map(Number);
  return a === undefined ? [NaN, NaN] : [a, b ?? a];
}

const NO_FILTER = /^(clear|none|empty|open|no filter|blank|air|-+|0)$/i;

/** The glass in the beam. With two wheels one is usually empty; two pieces of glass are named together. */
export function filterNameOf(header: HeaderReader, doubts: string[]): string | null {
  const names = [
    ...new Set(
      ['FILTER', 'FILTER1', 'FILTER2', 'FILTER3', 'FILTNAM', 'INSFLNAM'].flatMap((card) => header.text(card) ?? []),
    ),
  ];
  const glass = names.filter((name) => !NO_FILTER.test(name));
  if (glass.length <= 1) return glass[0] ?? names[0] ?? null;
  const plain = header.text('FILTER');
  const wheels = ['FILTER1', 'FILTER2', 'FILTER3']
    .flatMap((card) => header.text(card) ?? [])
    .filter((name) => !NO_FILTER.test(name));
  if (plain !== null && wheels.length <= 1) return plain;
  doubts.push(`two wheels hold glass: ${glass.join(' and ')}; which filter that is, is unknown`);
  return glass.join(' + ');
}

/** Degrees Celsius. */
export function sensorCOf(header: HeaderReader, doubts: string[]): number | null {
  const card = ['CCD-TEMP', 'DET-TEMP', 'CCDTEMP', 'SET-TEMP'].find((name) => header.number(name) !== null);
  if (!card) return null;
  const value = header.number(card)!;
  const isKelvin = /kelvin|\[k\]|\(k\)/i.test(header.comment(card)) || value > 150;
  if (!isKelvin) return value;
  doubts.push(`${card} ${value} is in kelvin; read as ${(value - 273.15).toFixed(1)} °C`);
  return value - 273.15;
}
