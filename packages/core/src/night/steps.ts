// The steps of a night, as data: what each is called, how long it may take, how often it is tried, and what follows when it fails.

export type StepKind =
  | 'connect'
  | 'cool'
  | 'open roof'
  | 'home'
  | 'unstow'
  | 'slew'
  | 'solve'
  | 'rotate'
  | 'centre'
  | 'filter'
  | 'focus'
  | 'guide'
  | 'settle'
  | 'expose'
  | 'download'
  | 'dither'
  | 'flip'
  | 'wait'
  | 'hold'
  | 'note'
  | 'call'
  | 'stow'
  | 'close roof'
  | 'flat light'
  | 'flat setting'
  | 'flat'
  | 'sky flat'
  | 'dark'
  | 'guide darks'
  | 'warm up';

/** What follows when the last try has failed. */
export type SafeAnswer =
  /** Go on without it, said in the log. */
  | 'go on'
  /** Leave this stay; the next one is tried. */
  | 'next stay'
  /** The night ends: stow, close. */
  | 'close'
  /** Nothing can be done from here: a person is called, again and again. */
  | 'call';

export interface StepRule {
  /** While it is done: "Slewing". */
  readonly doing: string;
  /** Of one try, in observatory time. */
  readonly timeoutSec: number;
  readonly tries: number;
  readonly onFailure: SafeAnswer;
  /** Whether it is only done under a safe sky, and ends where that turns. */
  readonly needsSky: boolean;
}

export const STEP_RULES: Readonly<Record<StepKind, StepRule>> = {
  connect: { doing: 'Connecting the devices', timeoutSec: 60, tries: 3, onFailure: 'close', needsSky: false },
  cool: { doing: 'Cooling the camera', timeoutSec: 1800, tries: 1, onFailure: 'go on', needsSky: false },
  'open roof': { doing: 'Opening the roof', timeoutSec: 180, tries: 2, onFailure: 'close', needsSky: true },
  home: { doing: 'Finding the mount’s home', timeoutSec: 300, tries: 2, onFailure: 'call', needsSky: false },
  unstow: { doing: 'Unparking the mount', timeoutSec: 60, tries: 2, onFailure: 'close', needsSky: true },
  slew: { doing: 'Slewing', timeoutSec: 240, tries: 2, onFailure: 'next stay', needsSky: true },
  solve: { doing: 'Solving the pointing', timeoutSec: 120, tries: 3, onFailure: 'next stay', needsSky: true },
  rotate: { doing: 'Turning the camera', timeoutSec: 180, tries: 2, onFailure: 'next stay', needsSky: true },
  centre: { doing: 'Centring', timeoutSec: 240, tries: 4, onFailure: 'next stay', needsSky: true },
  filter: { doing: 'Changing the filter', timeoutSec: 60, tries: 2, onFailure: 'next stay', needsSky: true },
  focus: { doing: 'Focusing', timeoutSec: 900, tries: 2, onFailure: 'go on', needsSky: true },
  guide: { doing: 'Starting the guiding', timeoutSec: 180, tries: 2, onFailure: 'next stay', needsSky: true },
  settle: { doing: 'Waiting for the guiding to settle', timeoutSec: 120, tries: 1, onFailure: 'go on', needsSky: true },
  expose: { doing: 'Exposing', timeoutSec: 120, tries: 1, onFailure: 'go on', needsSky: true },
  download: { doing: 'Downloading', timeoutSec: 120, tries: 2, onFailure: 'go on', needsSky: false },
  dither: { doing: 'Dithering', timeoutSec: 60, tries: 1, onFailure: 'go on', needsSky: true },
  flip: { doing: 'Flipping over the meridian', timeoutSec: 600, tries: 2, onFailure: 'next stay', needsSky: true },
  wait: { doing: 'Waiting', timeoutSec: 86_400, tries: 1, onFailure: 'go on', needsSky: false },
  call: { doing: 'A person is needed', timeoutSec: 10, tries: 1, onFailure: 'go on', needsSky: false },
  hold: { doing: 'Waiting for the planned start', timeoutSec: 60, tries: 1, onFailure: 'next stay', needsSky: true },
  note: { doing: 'Noting', timeoutSec: 10, tries: 1, onFailure: 'go on', needsSky: false },
  stow: { doing: 'Parking the mount', timeoutSec: 240, tries: 3, onFailure: 'call', needsSky: false },
  'close roof': { doing: 'Closing the roof', timeoutSec: 180, tries: 3, onFailure: 'call', needsSky: false },
  'flat light': { doing: 'Switching the flat light', timeoutSec: 60, tries: 2, onFailure: 'go on', needsSky: false },
  'flat setting': { doing: 'Setting up for flats', timeoutSec: 240, tries: 2, onFailure: 'go on', needsSky: false },
  flat: { doing: 'Calibrating', timeoutSec: 120, tries: 2, onFailure: 'go on', needsSky: false },
  'sky flat': { doing: 'Taking flats of the sky', timeoutSec: 120, tries: 1, onFailure: 'go on', needsSky: true },
  dark: { doing: 'Calibrating', timeoutSec: 120, tries: 2, onFailure: 'go on', needsSky: false },
  'guide darks': { doing: 'Taking darks of the guide camera', timeoutSec: 60, tries: 1, onFailure: 'go on', needsSky: false }, // prettier-ignore
  'warm up': { doing: 'Warming the camera', timeoutSec: 1800, tries: 1, onFailure: 'go on', needsSky: false },
};

export const STEP_KINDS = Object.keys(STEP_RULES) as StepKind[];

const longestSec = (kind: StepKind): number => STEP_RULES[kind].timeoutSec * STEP_RULES[kind].tries;

/** Within this a site is closed, however often its steps must be tried. */
export const CLOSING_LONGEST_SEC = longestSec('stow') + longestSec('close roof');

/** How a night ended, each with its plain sentence. */
export const NIGHT_ENDS = {
  finished: 'The plan was carried out; the roof is closed.',
  stopped: 'The night was stopped by a person; the roof is closed.',
  'closed early': 'The night ended early; the roof is closed.',
  'not begun': 'Nothing was opened.',
  'not closed': 'The roof could not be closed: someone must go there.',
} as const;
export type NightEnd = keyof typeof NIGHT_ENDS;
export const NIGHT_END_KINDS = Object.keys(NIGHT_ENDS) as NightEnd[];
