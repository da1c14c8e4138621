// Reports that the server has not taken yet, on this machine's disk: what was exposed while the link was cut, or as this process
// was ended without asking, is told by whoever carries the night on.
import { appendFileSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { RunAction, StepOutcome, TakenCalibration } from '@meridiem/contract';
import type { TakenFile } from './frame-copies.ts';

/** A frame on disk under a name that only its report makes final. */
export interface FrameFile {
  /** Both beside each other, under the folder for frames. */
  readonly part: string;
  readonly name: string;
}

export type Report =
  | { readonly what: 'action'; readonly action: RunAction }
  | { readonly what: 'begin'; readonly stepId: string }
  | { readonly what: 'finish'; readonly outcome: Omit<StepOutcome, 'fence'>; readonly frame: FrameFile | null }
  | { readonly what: 'calibration'; readonly taken: TakenCalibration; readonly frame: FrameFile };

export interface KeptReport {
  readonly n: number;
  readonly report: Report;
}

export interface KeptReports {
  /** Reports of a process before this one that were never sent, in their order. */
  readonly unsent: readonly KeptReport[];
  /** On disk before anything follows from it. @returns its number */
  keep(report: Report): number;
  sent(n: number): void;
  /** Frames whose reports a process before this one sent, and whose files it did not copy. */
  readonly uncopied: readonly (TakenFile & { readonly n: number })[];
  copied(n: number): void;
  /** Everything was sent, and the night has ended. */
  forget(): void;
}

type Line = KeptReport | { readonly sent: number } | { readonly copied: number };

export const REPORTS_FOLDER = '.reports';
export const REPORTS_SUFFIX = '.jsonl';

/** @param framesFolder the reports lie beside the frames
 * @param onFull told once when the disk takes no more: reports are then kept in memory alone */
export function keptReports(framesFolder: string, runId: string, onFull: (words: string) => void): KeptReports {
  const path = join(framesFolder, REPORTS_FOLDER, `${runId}${REPORTS_SUFFIX}`);
  const lines = readLines(path);
  const sent = new Set(lines.flatMap((line) => ('sent' in line ? [line.sent] : [])));
  const copied = new Set(lines.flatMap((line) => ('copied' in line ? [line.copied] : [])));
  const kept = lines.flatMap((line) => ('n' in line ? [line] : []));
  let last = Math.max(0, ...kept.map(({ n }) => n));
  let isFull = false;
  const append = (line: Line): void => {
    try {
      mkdirSync(dirname(path), { recursive: true });
      appendFileSync(path, `${JSON.stringify(line)}\n`);
    } catch (error) {
      if (!isFull) onFull(String(error));
      isFull = true;
    }
  };
  const unsent = kept.filter(({ n }) => !sent.has(n));
  // A frame whose report was written is a frame, also where the process ended before its name was final.
  for (const { report } of unsent) nameFrameOf(framesFolder, report);
  return {
    unsent,
    keep(report) {
      append({ n: ++last, report });
      nameFrameOf(framesFolder, report);
      return last;
    },
    sent: (n) => append({ sent: n }),
    uncopied: kept.flatMap(({ n, report }) => {
      const file = sent.has(n) && !copied.has(n) ? takenFile(report) : null;
      return file ? [{ n, ...file }] : [];
    }),
    copied: (n) => append({ copied: n }),
    forget: () => rmSync(path, { force: true }),
  };
}

/** The file of an exposure, or of a calibration frame, that a report tells of. */
export function takenFile(report: Report): TakenFile | null {
  if (report.what === 'calibration') return { stepId: report.taken.id, name: report.frame.name };
  return report.what === 'finish' && report.frame && report.outcome.exposure
    ? { stepId: report.outcome.stepId, name: report.frame.name }
    : null;
}

function nameFrameOf(framesFolder: string, report: Report): void {
  if (report.what !== 'finish' && report.what !== 'calibration') return;
  if (!report.frame) return;
  const { part, name } = report.frame;
  if (existsSync(join(framesFolder, part))) renameSync(join(framesFolder, part), join(framesFolder, name));
}

/** A last line that was cut off is none. */
function readLines(path: string): Line[] {
  if (!existsSync(path)) return [];
  return readFileSync(path, 'utf8')
    .split('\n')
    .flatMap((text) => {
      try {
        return text === '' ? [] : [JSON.parse(text) as Line];
      } catch {
        return [];
      }
    });
}
