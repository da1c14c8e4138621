// Kinds of stored jobs: what each computes, how urgent it is, how long it may take. A new kind is a line here and its work in job-work.ts.

export interface JobKind {
  /** Its name among the functions of the worker thread. */
  readonly work: string;
  /** Higher first. */
  readonly priority: number;
  readonly longestSec: number;
}

export const JOB_KINDS = {
  outlook: { work: 'outlookJob', priority: 0, longestSec: 300 },
} as const satisfies Readonly<Record<string, JobKind>>;

export type JobKindName = keyof typeof JOB_KINDS;
