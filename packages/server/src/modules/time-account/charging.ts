// How hours are charged: a rule of the observatory, and what members owe by it.
import type { ChargingRule } from '@meridiem/contract';
import { DEFAULT_CHARGE_WEIGHTS, writeCsv } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { settingOf, storeSetting } from '../../database/settings-repository.ts';
import { refused } from '../../errors.ts';
import { takeBackSetting } from '../changes/index.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { datesBetween } from './nights.ts';
import { chargedBetween } from './repository.ts';
import type { TimeAccountParts } from './service.ts';

const NO_DUES: ChargingRule = {
  dark: DEFAULT_CHARGE_WEIGHTS.dark,
  bright: DEFAULT_CHARGE_WEIGHTS.bright,
  duesPerHour: null,
  currency: '',
};

const DUES_COLUMNS = [
  { name: 'member', unit: '', words: 'Member' },
  { name: 'rig', unit: '', words: 'Rig' },
  { name: 'sky_class', unit: '', words: 'Sky: dark without moon, bright with it' },
  { name: 'clock_hours', unit: 'h', words: 'Hours on the clock' },
  { name: 'charged_hours', unit: 'h', words: 'Hours charged' },
  { name: 'dues', unit: '', words: 'Dues' },
  { name: 'currency', unit: '', words: 'Currency of the dues' },
] as const;

export const ruleOf = async (queries: Queries, observatoryId: string): Promise<ChargingRule> => ({
  ...NO_DUES,
  ...(await settingOf<ChargingRule>(queries, observatoryId, 'charging')),
});

export function createCharging({ database, changes }: TimeAccountParts) {
  changes.register('charging', {
    by: 'coordinator',
    takeBack: (queries, _viewer, change) => takeBackSetting(queries, change),
  });
  return {
    editRule: (viewer: Viewer, rule: ChargingRule): Promise<ChargingRule> =>
      database.transaction(async (queries) => {
        const before = await ruleOf(queries, viewer.observatoryId);
        const next = { ...rule, currency: rule.currency.trim() };
        if (next.duesPerHour !== null && next.currency === '')
          throw refused('currency', 'Say in what the dues are counted');
        await storeSetting(queries, viewer.observatoryId, 'charging', next);
        await changes.record(queries, viewer, {
          entity: 'charging',
          entityId: viewer.observatoryId,
          projectId: null,
          words: 'how hours are charged',
          before: { ...before },
          after: { ...next },
        });
        await announce(queries, viewer.observatoryId, 'ledger');
        return next;
      }),

    async dues(viewer: Viewer, from: string, to: string): Promise<string> {
      datesBetween(from, to);
      const rule = await ruleOf(database, viewer.observatoryId);
      const rows = await chargedBetween(database, viewer.observatoryId, from, to);
      return writeCsv(
        DUES_COLUMNS,
        rows.map((row) => ({
          member: row.memberName,
          rig: row.rigName,
          sky_class: row.skyClass,
          clock_hours: row.clockHours.toFixed(4),
          charged_hours: row.chargedHours.toFixed(4),
          dues: rule.duesPerHour === null ? '' : (row.chargedHours * rule.duesPerHour).toFixed(2),
          currency: rule.duesPerHour === null ? '' : rule.currency,
        })),
      );
    },
  };
}
