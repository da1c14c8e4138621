import type { ExposureAdvice } from '@meridiem/core';
// The site and rigs in words: what a person checks before trusting the numbers.
import type { addCameraMode, addRig, BodyOf, NightSky, Rig, Rules, RulesPreview } from '@meridiem/contract';
import { DEFAULT_STEP_COSTS, fieldOf, implausibleOptics } from '@meridiem/core';
import { typedNumber } from '../../words/typed.ts';

export interface RigFacts {
  readonly field: string;
  readonly scale: string;
  readonly focalRatio: string;
  readonly doubts: readonly string[];
}

/** What a rig's numbers amount to. */
export function rigFacts(
  rig: Parameters<typeof fieldOf>[0] & Pick<Rig, 'mountKind' | 'flipAfterSec' | 'mountLimitAfterSec'>,
): RigFacts {
  const field = fieldOf(rig);
  const degrees = (value: number): string => (value >= 1 ? `${value.toFixed(2)}°` : `${(value * 60).toFixed(1)}′`);
  const doubts = implausibleOptics(rig);
  if (rig.mountKind === 'german_equatorial' && rig.flipAfterSec > rig.mountLimitAfterSec - 60)
    doubts.push('The flip comes within a minute of the mount’s own limit.');
  return {
    field: `${degrees(field.widthDeg)} × ${degrees(field.heightDeg)}`,
    scale: `${field.imageScaleArcsecPerPx.toFixed(2)}`,
    focalRatio: `f/${field.focalRatio.toFixed(1)}`,
    doubts,
  };
}

export const MOUNT_WORDS = {
  german_equatorial: 'German equatorial',
  fork_equatorial: 'fork equatorial',
  alt_azimuth: 'alt-azimuth',
} as const;
export const ROTATOR_WORDS = { motor: 'by motor', hand: 'by hand, on a visit', none: 'fixed' } as const;

export const RULES: readonly (keyof Rules)[] = [
  'starSize',
  'elongation',
  'starCount',
  'starlight',
  'guiding',
  'background',
];
export const RULE_WORDS: Readonly<Record<keyof Rules, string>> = {
  starSize: 'Stars larger than usual by',
  starCount: 'Fewer stars than usual by',
  guiding: 'Guiding worse than usual by',
  background: 'Sky brighter than predicted by',
  elongation: 'Stars longer than usual by',
  starlight: 'Less starlight than usual by',
};

/** Sigmas as typed; null for "off", undefined where it can't be read. */
export function sigmasOf(text: string): number | null | undefined {
  const plain = text.trim().toLowerCase().replace(',', '.');
  if (plain === 'off') return null;
  const value = Number(plain);
  return plain !== '' && value >= 1 && value <= 20 ? value : undefined;
}

/** A number of a night as typed; null, the usual one, where the field is empty. @throws in words what can't be read */
export const readNightRule = (text: string): number | null => (text.trim() === '' ? null : typedNumber(text, 'number'));

/** "Of the newest 812 exposures 37 are rejected now; these rules would reject 52: 20 for star size, …" */
export function previewWords({ exposures, rejectedNow, wouldReject, byFigure }: RulesPreview): string {
  const names = {
    starSize: 'star size',
    starCount: 'star count',
    guiding: 'guiding',
    background: 'the sky',
    elongation: 'long stars',
    starlight: 'lost starlight',
  };
  const parts = RULES.flatMap((key) => (byFigure[key] > 0 ? [`${byFigure[key]} for ${names[key]}`] : []));
  const why = parts.length > 0 ? `: ${parts.join(', ')}` : '';
  return `Of the newest ${exposures} exposures ${rejectedNow} are rejected by rule now; these rules would reject ${wouldReject}${why}.`;
}

/** Places of the wheels that most rigs carry. */
export const USUAL_PLACES = 7;

/** The wheel as a form: every place it has. */
export interface TypedSlot {
  readonly slot: number;
  readonly filterId: string;
  /** Empty where the focus offset is not measured. */
  readonly offset: string;
}

export const wheelAsTyped = ({ slots, filterPlaces }: Pick<Rig, 'slots' | 'filterPlaces'>): TypedSlot[] =>
  Array.from({ length: filterPlaces }, (_, i): TypedSlot => {
    const filled = slots.find(({ slot }) => slot === i + 1);
    return { slot: i + 1, filterId: filled?.filterId ?? '', offset: String(filled?.focusOffsetSteps ?? '') };
  });

export const GAIN_KINDS = [
  { value: 'gain', words: 'gain' },
  { value: 'sensitivity', words: 'sensitivity number' },
] as const;

/** Numbers that a new mode of a rig begins with: those of its last one. */
export function likeLastMode({
  cameraModes,
}: Pick<Rig, 'cameraModes'>): Omit<BodyOf<typeof addCameraMode>, 'name' | 'gain'> {
  const { gainKind, readNoiseE, fullWellE, ePerAdu, typicalOffset } = cameraModes.at(-1)!;
  return { gainKind, readNoiseE, fullWellE, ePerAdu, typicalOffset };
}

/** @throws Error in words where an offset is no whole number */
export const wheelFrom = (typed: readonly TypedSlot[]): Rig['slots'] =>
  typed
    .filter(({ filterId }) => filterId !== '')
    .map(({ slot, filterId, offset }) => {
      const text = offset.trim().replace('−', '-');
      if (text !== '' && !/^-?\d+$/.test(text))
        throw new Error(`The offset of place ${slot} is whole steps like −45, or empty while it is not measured`);
      return { slot, filterId, focusOffsetSteps: text === '' ? null : Number(text) };
    });

/** A new rig as typed: usual values stand where most rigs have them. */
export const RIG_TEXTS = {
  name: '',
  focalLengthMm: '',
  apertureMm: '',
  obstructionShare: '0',
  cameraName: '',
  cameraSerial: '',
  pixelUm: '',
  widthPx: '',
  heightPx: '',
  modeName: '',
  gain: '',
  readNoiseE: '',
  fullWellE: '',
  mountKind: 'german_equatorial',
  rotatorKind: 'hand',
  /** Empty while nobody has measured it. */
  skyAngleDeg: '',
  filterHolder: 'wheel',
  filterPlaces: String(USUAL_PLACES),
};

/** @throws Error with the field and what would be accepted */
export function rigFrom(typed: typeof RIG_TEXTS): BodyOf<typeof addRig> {
  const number = (field: keyof typeof RIG_TEXTS, what: string): number => {
    try {
      return typedNumber(typed[field], what);
    } catch (error) {
      throw Object.assign(error as Error, { field });
    }
  };
  const isGerman = typed.mountKind === 'german_equatorial';
  return {
    ...USUAL_RIG,
    name: typed.name.trim(),
    cameraName: typed.cameraName.trim(),
    cameraSerial: typed.cameraSerial.trim(),
    focalLengthMm: number('focalLengthMm', 'focal length'),
    apertureMm: number('apertureMm', 'aperture'),
    obstructionShare: number('obstructionShare', 'obstruction') / 100,
    pixelUm: number('pixelUm', 'pixel size'),
    widthPx: number('widthPx', 'width'),
    heightPx: number('heightPx', 'height'),
    mode: {
      name: typed.modeName.trim(),
      gain: number('gain', 'gain'),
      gainKind: 'gain',
      readNoiseE: number('readNoiseE', 'read noise'),
      fullWellE: number('fullWellE', 'full well'),
      ePerAdu: null,
      typicalOffset: 30,
    },
    mountKind: typed.mountKind as Rig['mountKind'],
    flipAfterSec: isGerman ? 600 : 0,
    mountLimitAfterSec: isGerman ? 900 : 0,
    rotatorKind: typed.rotatorKind as Rig['rotatorKind'],
    skyAngleDeg: typed.skyAngleDeg.trim() === '' ? null : number('skyAngleDeg', 'angle'),
    filterHolder: typed.filterHolder as Rig['filterHolder'],
    filterPlaces: typed.filterHolder === 'drawer' ? 1 : number('filterPlaces', 'number of places'),
  };
}

/** What most rigs have and the form does not ask; each is set in the rig's own sheet. */
const USUAL_RIG = {
  throughput: 0.5,
  sensor: 'mono',
  darkCurrentEPerSec: 0.005,
  darkAtC: -10,
  darkDoublingC: 6,
  coolingBelowC: 35,
  flipBeforeSec: 0,
  angleToleranceDeg: 3,
  drawtubeMm: null,
  correctedCircleMm: null,
  mirrors: 'even',
  stow: null,
  roofClears: 'any',
  costs: { ...DEFAULT_STEP_COSTS },
} as const;

/** Why an exposure of this length is suggested, in sentences with numbers. */
export function adviceWords({ shortestSec, longestSec, skyPerSec, mode, isBounded }: ExposureAdvice): string {
  const sky = `The dark sky gives ${skyPerSec.toPrecision(2)} e⁻/s a pixel; with ${mode.readNoiseE} e⁻ read noise, ${Math.round(shortestSec)} s keep its share of the noise to 5 %`;
  const bound = isBounded ? ', more than anyone guides for, so it is cut' : '';
  return `${sky}${bound}. A star of magnitude 9 saturates after about ${longestSec < 10 ? longestSec.toPrecision(2) : Math.round(longestSec)} s.`;
}

/** The most that tonight's Moon brightens the zenith between dusk and dawn, in magnitudes. */
export function tonightsMoonMag({
  moonBrighteningMag,
  viewStartUtcMs,
  stepMs,
  duskUtcMs,
  dawnUtcMs,
}: NightSky): number {
  const isDark = (_: number, i: number): boolean => {
    const utcMs = viewStartUtcMs + i * stepMs;
    return duskUtcMs !== null && dawnUtcMs !== null && utcMs >= duskUtcMs && utcMs <= dawnUtcMs;
  };
  return Math.max(0, ...moonBrighteningMag.filter(isDark));
}

export const moonAdviceWords = (mag: number): string =>
  `Under tonight’s Moon, which brightens the sky by up to ${mag.toFixed(1)} magnitudes`;

/** How a rig's devices are reached, as it is chosen. */
export const DEVICE_WORDS: Readonly<Record<Rig['devices'], string>> = {
  none: 'none: nights are made up as a whole',
  simulated: 'the simulated observatory',
  address: 'devices at an address',
};

const MEGABYTE = 1_000_000;
export const storedWords = ({ count, bytes }: { readonly count: number; readonly bytes: number }): string =>
  count === 0 ? 'none' : `${count} ${count === 1 ? 'picture' : 'pictures'}, ${(bytes / MEGABYTE).toFixed(1)} MB`;
