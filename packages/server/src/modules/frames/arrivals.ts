// Files that have come and nobody has looked at: measured one after the other, the newest first, when no page waits for a picture.
import { join } from 'node:path';
import { MEASURING_METHOD } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import { ledgerChanged } from '../ledger/index.ts';
import { sizeOf } from './frame-files.ts';
import type { UnmeasuredFrame } from './measures-repository.ts';
import { goalsOf, unmeasuredFrames } from './measures-repository.ts';
import type { FrameMeasuring } from './measuring.ts';

/** Judged together; the next are looked up after them. */
const AT_ONCE = 8;
const LOOK_EVERY_MS = 10 * 60_000;

export interface ArrivalParts {
  readonly database: Database;
  readonly measuring: FrameMeasuring;
  readonly framesFolder: string;
  readonly warn: (error: unknown) => void;
}

export interface Arrivals {
  /** Another file has come. */
  readonly come: () => void;
  /** Resolves when nothing is left to measure. */
  readonly settled: () => Promise<void>;
  readonly stop: () => Promise<void>;
}

export function createArrivals({ database, measuring, framesFolder, warn }: ArrivalParts): Arrivals {
  /** Not tried again before the next start: no picture, or no longer there. */
  const unreadable = new Set<string>();
  let [isOver, isAsked] = [false, false];
  let working: Promise<void> | null = null;

  async function measured({ exposureId, name, sizeBytes }: UnmeasuredFrame): Promise<boolean> {
    const path = join(framesFolder, name);
    const isWhole = (await sizeOf(path)) === sizeBytes;
    return isWhole && (await measuring.measure({ exposureId, path }, { isPageWaiting: false })) !== null;
  }

  const passedOver = (error: unknown): boolean => {
    warn(error);
    return false;
  };

  async function few(): Promise<number> {
    const frames = await unmeasuredFrames(database, MEASURING_METHOD, [...unreadable], AT_ONCE);
    const done: UnmeasuredFrame[] = [];
    for (const frame of frames) {
      if (isOver) break;
      if (await measured(frame).catch(passedOver)) done.push(frame);
      else unreadable.add(frame.exposureId);
    }
    for (const observatoryId of new Set(done.map((frame) => frame.observatoryId))) {
      const own = done.filter((frame) => frame.observatoryId === observatoryId).map(({ exposureId }) => exposureId);
      await database.transaction(async (queries) => ledgerChanged(queries, observatoryId, await goalsOf(queries, own)));
    }
    return frames.length;
  }

  async function work(): Promise<void> {
    while (isAsked && !isOver) {
      isAsked = false;
      while (!isOver && (await few()) > 0);
    }
  }

  const come = (): void => {
    isAsked = true;
    working ??= work()
      .catch(warn)
      .finally(() => (working = null));
  };
  const timer = setInterval(come, LOOK_EVERY_MS).unref();
  come();
  return {
    come,
    settled: async () => {
      while (working) await working;
    },
    stop: async () => {
      isOver = true;
      clearInterval(timer);
      await working;
    },
  };
}
