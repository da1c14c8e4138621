// Nights closed: their account is written whole, and charged by the rule of the day.
import type { BodyOf, closeNights } from '@meridiem/contract';
import { setImmediate as othersTurn } from 'node:timers/promises';
import { nightAccount } from '@meridiem/core';
import { ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { recordNight } from '../nights/index.ts';
import { usableWorkOf } from '../planning/index.ts';
import { entitle } from '../shares/index.ts';
import { ruleOf } from './charging.ts';
import { factsOf, nightsFrom, recordedOf } from './facts.ts';
import { closingsOf, datesBetween, rigNamed, stateOf } from './nights.ts';
import { insertClosing } from './repository.ts';
import type { TimeAccountParts } from './service.ts';

export const createClosing = ({ database, clock, observatory: observatories }: TimeAccountParts) => ({
  async close(viewer: Viewer, rigId: string, { from, to }: BodyOf<typeof closeNights>): Promise<{ closed: number }> {
    const observatory = await observatories.read(viewer.observatoryId);
    return database.transaction(async (queries) => {
      const [site, rig] = await rigNamed(queries, viewer.observatoryId, rigId);
      await queries.models.Rig.findByPk(rigId, { lock: true });
      const nights = await nightsFrom(queries, viewer.observatoryId, site.timeZone, datesBetween(from, to));
      const closings = await closingsOf(queries, rigId, nights);
      const nowUtcMs = clock.nowUtcMs();
      const due = nights.filter((night) =>
        ['open', 'changed'].includes(stateOf(night, closings.get(night.nightDate), nowUtcMs)),
      );
      if (due.length === 0) {
        const ahead = nights.every((night) => stateOf(night, undefined, nowUtcMs) === 'ahead');
        throw new ServiceError(
          'NOT_POSSIBLE',
          ahead
            ? 'A night can be closed once its noon has come'
            : 'These nights are closed already, and nothing has changed since',
        );
      }
      const recorded = await recordedOf(queries, rigId, {
        startUtcMs: due[0].startUtcMs,
        endUtcMs: due.at(-1)!.endUtcMs,
      });
      const rule = await ruleOf(queries, viewer.observatoryId);
      for (const night of due) {
        const seq = (closings.get(night.nightDate)?.seq ?? 0) + 1;
        const entries = nightAccount(factsOf(site, rig, night, recorded));
        await recordNight(queries, viewer.observatoryId, night);
        const { id: closingId } = await insertClosing(queries, viewer, { rigId, night, seq, rule, entries });
        const work = await usableWorkOf(
          queries,
          observatory,
          observatory.rigs.find(({ id }) => id === rigId)!,
          night,
        );
        const { nightDate, startUtcMs } = night;
        await entitle(queries, { observatoryId: observatory.id, closingId, rigId, nightDate, startUtcMs, entries, work, weights: rule }); // prettier-ignore
        await othersTurn();
      }
      await announce(queries, viewer.observatoryId, 'ledger');
      return { closed: due.length };
    });
  },
});
