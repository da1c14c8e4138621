// Go, wait or no-go at the cut-off hour: to those who decide, once a night, by whichever server looks first.
import { COORDINATORS } from '@meridiem/contract';
import type { NightForecast } from '@meridiem/contract';
import { clockTimeInNight, HOUR_MS, nightDateAt, observingNight } from '@meridiem/core';
import { UniqueConstraintError } from 'sequelize';
import type { Clock } from '../../clock.ts';
import type { Database } from '../../database/connection.ts';
import { notify, peopleAs } from '../notices/index.ts';

const LOOK_EVERY_MS = 60_000;
/** A server that starts later than this says no more: the night is under way. */
const LATEST_MS = 3 * HOUR_MS;

const CALLS = { go: 'go', wait: 'wait', no_go: 'no-go' } as const;

export interface DuskCallParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly forecast: (observatoryId: string, nightDate: string) => Promise<NightForecast>;
  readonly warn: (error: unknown) => void;
}

export interface DuskCalls {
  /** One look at every observatory, at once. */
  readonly once: () => Promise<void>;
  readonly stop: () => void;
}

export function createDuskCalls({ database, clock, forecast, warn }: DuskCallParts): DuskCalls {
  async function look(observatory: Site): Promise<void> {
    const { id: observatoryId, timeZone, cutOffClockMin } = observatory;
    const nightDate = nightDateAt(clock.nowUtcMs(), timeZone);
    const lateMs = clock.nowUtcMs() - clockTimeInNight(observingNight(nightDate, timeZone), cutOffClockMin, timeZone);
    if (lateMs < 0 || lateMs > LATEST_MS) return;
    if (await database.models.DuskCall.count({ where: { observatoryId, nightDate } })) return;
    const outlook = await forecast(observatoryId, nightDate);
    const words = duskWords(outlook);
    if (!words) return;
    await database
      .transaction(async (queries) => {
        await queries.models.DuskCall.create({
          observatoryId,
          nightDate,
          call: outlook.call!,
          hoursClear: outlook.hoursClear,
        });
        for (const personId of await peopleAs(queries, observatoryId, COORDINATORS))
          await notify(queries, { observatoryId, personId, words, link: '/tonight' });
      })
      .catch((error: unknown) => {
        // Another server was first.
        if (!(error instanceof UniqueConstraintError)) throw error;
      });
  }
  const once = async (): Promise<void> => {
    const observatories = await database.models.Observatory.findAll();
    for (const observatory of observatories) await look(observatory);
  };
  const timer = setInterval(() => void once().catch(warn), LOOK_EVERY_MS).unref();
  return { once, stop: () => clearInterval(timer) };
}

interface Site {
  readonly id: string;
  readonly timeZone: string;
  readonly cutOffClockMin: number;
}

/** "Tonight: go. 7.5 of 9.1 dark hours are expected clear; 3 of 3 forecasts agree." @returns null without a forecast */
export function duskWords({
  call,
  hoursClear,
  hoursDark,
  agreeing,
  sources,
}: Omit<NightForecast, 'nightDate' | 'hours'>): string | null {
  if (call === null || sources.length === 0) return null;
  return `Tonight: ${CALLS[call]}. ${hoursClear.toFixed(1)} of ${hoursDark.toFixed(1)} dark hours are expected clear; ${agreeing} of ${sources.length} forecasts agree.`;
}
