// Names of delivered frames, from parts that a person chooses: legal everywhere, and different even where a disk ignores case.

/** What a name can be made of. */
export const NAME_PARTS = ['project', 'panel', 'filter', 'length', 'night', 'time', 'kind', 'rig', 'verdict'] as const;
export type NamePart = (typeof NAME_PARTS)[number];

export interface NamedFrame {
  readonly project: string;
  readonly panel: string;
  readonly filter: string;
  readonly exposureSec: number;
  /** The evening's date. */
  readonly nightDate: string;
  readonly startUtcMs: number;
  readonly kind: string;
  readonly rig: string;
  readonly verdict: string;
}

export interface NameRule {
  /** Folders from the outermost on. */
  readonly folders: readonly NamePart[];
  /** Parts of the file's own name. */
  readonly name: readonly NamePart[];
}

export const DEFAULT_NAME_RULE: NameRule = {
  folders: ['night', 'filter'],
  name: ['panel', 'filter', 'length', 'time'],
};

/** Longest text of one part; paths stay below what old systems take. */
const LONGEST_PART = 40;
/** Names that a widespread system keeps for itself. */
const TAKEN = /^(con|prn|aux|nul|com\d|lpt\d)$/i;

/** A path for each frame, in their order: letters, digits, dots, hyphens and underscores, with ".fits" at the end. Where two would
 * be the same but for case, later ones are numbered. */
export const deliveryNames = (frames: readonly NamedFrame[], rule: NameRule): string[] =>
  namesApart(frames, rule, '', new Set());

/** Where calibration lies beside the lights. */
const CALIBRATION_FOLDER = 'calibration/';
const FLAT_NAMES: NameRule = { folders: ['kind'], name: ['rig', 'filter', 'length', 'time'] };
const DARK_NAMES: NameRule = { folders: ['kind'], name: ['rig', 'length', 'time'] };

/** Names of lights by a rule, and of their calibration in folders of its own, all different. */
export function deliveryWithCalibration(
  lights: readonly NamedFrame[],
  calibration: readonly NamedFrame[],
  rule: NameRule,
): { readonly lights: string[]; readonly calibration: string[] } {
  const known = new Set<string>();
  return {
    lights: namesApart(lights, rule, '', known),
    calibration: calibration.map((frame) => namesApart([frame], frame.kind === 'flat' ? FLAT_NAMES : DARK_NAMES, CALIBRATION_FOLDER, known)[0]), // prettier-ignore
  };
}

/** @param known names that are taken, whatever their case; those given are added */
function namesApart(
  frames: readonly NamedFrame[],
  { folders, name }: NameRule,
  within: string,
  known: Set<string>,
): string[] {
  return frames.map((frame) => {
    const folder = within + folders.map((part) => `${textOf(frame, part)}/`).join('');
    const own = (name.length > 0 ? name : (['time'] as const)).map((part) => textOf(frame, part)).join('_');
    for (let number = 1; ; number++) {
      const path = `${folder}${own}${number > 1 ? `_${number}` : ''}.fits`;
      if (known.has(path.toLowerCase())) continue;
      known.add(path.toLowerCase());
      return path;
    }
  });
}

function textOf(frame: NamedFrame, part: NamePart): string {
  switch (part) {
    case 'length':
      return `${String(frame.exposureSec).replace('.', '-')}s`;
    case 'night':
      return frame.nightDate;
    case 'time':
      return new Date(frame.startUtcMs).toISOString().slice(0, 19).replaceAll(':', '-');
    default:
      return plainName(frame[part]);
  }
}

/** As lines of hydrogen are named. */
const GREEK: Readonly<Record<string, string>> = { α: 'a', β: 'b', γ: 'g', δ: 'd' };

/** Letters, digits and hyphens of any words, for names of files. */
export function plainName(words: string, most = LONGEST_PART): string {
  const plain = words
    .replace(/[αβγδ]/g, (letter) => GREEK[letter])
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, most)
    .replace(/-+$/, '');
  return plain === '' ? 'unnamed' : TAKEN.test(plain) ? `${plain}-` : plain;
}
