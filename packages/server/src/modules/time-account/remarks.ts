// What people say of a stretch of a night, and take back.
import type { BodyOf, ParamsOf, addTimeRemark } from '@meridiem/contract';
import type { ObservingNight } from '@meridiem/core';
import { clockTimeInNight } from '@meridiem/core';
import { rangeOf } from '../../database/models/date-range.ts';
import { notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { nightsFrom } from './facts.ts';
import { datesBetween, rigNamed } from './nights.ts';
import { overlappingRemark, setWithdrawn } from './repository.ts';
import type { TimeAccountParts } from './service.ts';
import { takeBackRemark } from './take-back.ts';

export function createRemarks({ database, changes }: TimeAccountParts) {
  changes.register('time_remarks', {
    by: 'helper',
    takeBack: (queries, _viewer, change) => takeBackRemark(queries, change),
  });
  return {
    async remark(
      viewer: Viewer,
      { id, nightDate }: ParamsOf<typeof addTimeRemark>,
      { kind, from, to, words }: BodyOf<typeof addTimeRemark>,
    ): Promise<{ ok: true }> {
      const [site, rig] = await rigNamed(database, viewer.observatoryId, id);
      const [night] = await nightsFrom(
        database,
        viewer.observatoryId,
        site.timeZone,
        datesBetween(nightDate, nightDate),
      );
      const startUtcMs = clockTime('from', from, night, site.timeZone);
      const endUtcMs = clockTime('to', to, night, site.timeZone);
      if (endUtcMs <= startUtcMs)
        throw refused('to', `The night runs from noon to noon: ${to} lies before ${from} in it`);
      const { observatoryId, personId } = viewer;
      await database.transaction(async (queries) => {
        await queries.models.Rig.findByPk(id, { lock: true });
        const other = await overlappingRemark(queries, id, { startUtcMs, endUtcMs });
        if (other)
          throw refused(
            'from',
            `Part of this time has been said to be ${other.kind} already; remove that remark first`,
          );
        const during = rangeOf(startUtcMs, endUtcMs);
        const stored = await queries.models.TimeRemark.create({
          observatoryId,
          rigId: rig.id,
          during,
          kind,
          words: words.trim(),
          personId,
        });
        await changes.record(queries, viewer, {
          entity: 'time_remarks',
          entityId: stored.id,
          projectId: null,
          words: `${kind} from ${from} to ${to} in the night of ${nightDate}`,
          before: { withdrawn: true },
          after: { withdrawn: false },
        });
        await announce(queries, viewer.observatoryId, 'ledger');
      });
      return { ok: true };
    },

    async withdraw(viewer: Viewer, remarkId: string): Promise<{ ok: true }> {
      await database.transaction(async (queries) => {
        const { observatoryId } = viewer;
        const remark = await queries.models.TimeRemark.findOne({
          where: { id: remarkId, observatoryId, withdrawn: null },
        });
        if (!remark) throw notFound('remark');
        await setWithdrawn(queries, remarkId, true);
        await changes.record(queries, viewer, {
          entity: 'time_remarks',
          entityId: remarkId,
          projectId: null,
          words: `a remark of ${remark.kind} removed`,
          before: { withdrawn: false },
          after: { withdrawn: true },
        });
        await announce(queries, viewer.observatoryId, 'ledger');
      });
      return { ok: true };
    },
  };
}

function clockTime(field: 'from' | 'to', text: string, night: ObservingNight, timeZone: string): number {
  const read = /^(\d{1,2})[:.]?(\d{2})$/.exec(text.trim());
  const minutes = read ? Number(read[1]) * 60 + Number(read[2]) : Number.NaN;
  if (!read || Number(read[1]) > 23 || Number(read[2]) > 59)
    throw refused(field, `"${text}" is no clock time; write one like 23:10`);
  // Noon is both ends of a night: it begins one as "from" and ends it as "to".
  if (minutes === 720) return field === 'from' ? night.startUtcMs : night.endUtcMs;
  return clockTimeInNight(night, minutes, timeZone);
}
