// Why a night's steps are broken off and what is waited for, in the words in which they are reported.

export const INTERRUPTION_WORDS = {
  unsafe: 'the sky is not safe',
  paused: 'the conditions are not good enough',
  stopped: 'the night was stopped',
  unheard: 'the server has not been heard for too long: another runner may soon mind this rig',
  left: 'this target was left by hand',
  held: 'the night is held by hand',
  late: 'the night has fallen behind its plan',
} as const;
export type InterruptionReason = keyof typeof INTERRUPTION_WORDS;

/** What a wait that loses time begins with. */
export const WAIT_WORDS = {
  safety: 'until the sky has been safe',
  conditions: 'for better conditions',
  held: 'held by hand',
} as const;
export type WaitReason = keyof typeof WAIT_WORDS;

/** What a person's word leaves of a stay. */
export const LEFT_BY_HAND = 'Left by hand';
/** What the sky leaves of a stay begins with it. */
export const STARS_WERE_LOST = 'Stars were lost';

const REASONS = Object.keys(INTERRUPTION_WORDS) as InterruptionReason[];
const WAITS = Object.keys(WAIT_WORDS) as WaitReason[];

export const interruptionOf = (remark: string | null): InterruptionReason | null =>
  REASONS.find((reason) => INTERRUPTION_WORDS[reason] === remark) ?? null;

export const waitOf = (words: string): WaitReason | null =>
  WAITS.find((reason) => words.startsWith(WAIT_WORDS[reason])) ?? null;

/** Begins the note that the rest of a night is planned again. */
export const PLANNED_AGAIN = 'The rest of the night is planned again';
