// A log file that never grows past its size: full, it becomes the one before, and the oldest goes. A full disk loses lines, nothing else.
import { closeSync, openSync, renameSync, rmSync, fstatSync, writeSync } from 'node:fs';

export interface LogLimits {
  readonly mostBytes: number;
  /** Files kept beside the one written to. */
  readonly kept: number;
}

export const DEFAULT_LOG_LIMITS: LogLimits = { mostBytes: 5_000_000, kept: 3 };

export interface RotatingLog {
  write(text: string | Uint8Array): void;
}

export function rotatingLog(path: string, { mostBytes, kept }: LogLimits = DEFAULT_LOG_LIMITS): RotatingLog {
  let file: number | null = null;
  let size = 0;
  const open = (): void => {
    file = openSync(path, 'a', 0o600);
    size = fstatSync(file).size;
  };
  const rotate = (): void => {
    if (file !== null) closeSync(file);
    file = null;
    rmSync(`${path}.${kept}`, { force: true });
    for (let i = kept - 1; i >= 1; i -= 1) renameIfThere(`${path}.${i}`, `${path}.${i + 1}`);
    renameIfThere(path, `${path}.1`);
  };
  return {
    write(text) {
      try {
        if (file === null) open();
        if (size > 0 && size + text.length > mostBytes) {
          rotate();
          open();
        }
        size += typeof text === 'string' ? writeSync(file!, text) : writeSync(file!, text);
      } catch {
        // Tried again with the next line.
      }
    },
  };
}

function renameIfThere(from: string, to: string): void {
  try {
    renameSync(from, to);
  } catch {
    // There was none yet.
  }
}
