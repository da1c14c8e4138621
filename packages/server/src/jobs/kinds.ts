// Kinds of stored jobs: how urgent each is, how long it may take, and what computes it. A new kind is a line here, and a function of the worker thread or work given to the worker (worker.ts).

export interface JobKind {
  /** Its name among the functions of the worker thread; null where its work writes rows itself. */
  readonly work: string | null;
  /** Higher first. */
  readonly priority: number;
  readonly longestSec: number;
  /** Asked for by a page and not by a person: it waits for its own kind only, and nothing else for it. */
  readonly isQuiet: boolean;
}

export const JOB_KINDS = {
  outlook: { work: 'outlookJob', priority: 0, longestSec: 300, isQuiet: true },
  season: { work: 'seasonJob', priority: 5, longestSec: 600, isQuiet: false },
  consequences: { work: 'consequencesJob', priority: 5, longestSec: 600, isQuiet: false },
  swapDates: { work: 'swapDatesJob', priority: 5, longestSec: 600, isQuiet: false },
  visits: { work: 'visitsJob', priority: 3, longestSec: 600, isQuiet: false },
  helps: { work: 'helpsJob', priority: 3, longestSec: 600, isQuiet: false },
  seasonReason: { work: 'seasonReasonJob', priority: 5, longestSec: 600, isQuiet: false },
  review: { work: 'reviewJob', priority: 3, longestSec: 600, isQuiet: false },
  import: { work: null, priority: 10, longestSec: 1800, isQuiet: false },
} as const satisfies Readonly<Record<string, JobKind>>;

export type JobKindName = keyof typeof JOB_KINDS;
