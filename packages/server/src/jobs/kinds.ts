// Kinds of stored jobs: how urgent each is, how long it may take, and what computes it. A new kind is a line here, and a function of the worker thread or work given to the worker (worker.ts).

export interface JobKind {
  /** Its name among the functions of the worker thread; null where its work writes rows itself. */
  readonly work: string | null;
  /** Higher first. */
  readonly priority: number;
  readonly longestSec: number;
}

export const JOB_KINDS = {
  outlook: { work: 'outlookJob', priority: 0, longestSec: 300 },
  season: { work: 'seasonJob', priority: 5, longestSec: 600 },
  consequences: { work: 'consequencesJob', priority: 5, longestSec: 600 },
  helps: { work: 'helpsJob', priority: 3, longestSec: 600 },
  import: { work: null, priority: 10, longestSec: 1800 },
} as const satisfies Readonly<Record<string, JobKind>>;

export type JobKindName = keyof typeof JOB_KINDS;
