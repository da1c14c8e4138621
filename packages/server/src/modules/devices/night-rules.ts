// The numbers by which a rig's nights are carried out: set one by one by coordinators, each change undone by name.
import type { BodyOf, setNightRule } from '@meridiem/contract';
import type { NightRuleName } from '@meridiem/core';
import { NIGHT_RULE_NAMES, NIGHT_RULES, nightRuleFault, nightRulesWith } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { Rig } from '../../database/models/rig.ts';
import { ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { rigOf } from './rig-row.ts';
import type { DeviceParts } from './service.ts';

export type OwnNightRules = Partial<Record<NightRuleName, number>>;

/** What a row holds, without what is no number of a night. */
export const ownRules = (stored: object): OwnNightRules =>
  Object.fromEntries(
    Object.entries(stored).filter(
      ([name, value]) => NIGHT_RULE_NAMES.includes(name as NightRuleName) && typeof value === 'number',
    ),
  );

export function createNightRules({ database, changes }: Pick<DeviceParts, 'database' | 'changes'>) {
  const store = async (queries: Queries, rig: Rig, name: NightRuleName, value: number | null): Promise<void> => {
    const { [name]: _old, ...others } = ownRules(rig.nightRules);
    await rig.update({ nightRules: value === null ? others : { ...others, [name]: value } });
    await announce(queries, rig.observatoryId, 'observatory', [rig.id]);
  };
  changes.register('night_rule', {
    by: 'coordinator',
    takeBack: async (queries, viewer, { entityId, before, after }) => {
      const rig = await rigOf(queries, viewer, entityId, true);
      const { name, value } = after as { name: NightRuleName; value: number | null };
      if ((ownRules(rig.nightRules)[name] ?? null) !== value)
        throw new ServiceError('CONFLICT', 'Another person has changed this since; undo would remove their change');
      await store(queries, rig, name, (before as { value: number | null }).value);
    },
  });
  return {
    async setNightRule(
      viewer: Viewer,
      rigId: string,
      { name, value }: BodyOf<typeof setNightRule>,
    ): Promise<{ ok: true }> {
      await database.transaction(async (queries) => {
        const rig = await rigOf(queries, viewer, rigId, true);
        const own = ownRules(rig.nightRules);
        const fault = nightRuleFault(nightRulesWith(own), name, value ?? NIGHT_RULES[name].usual);
        if (fault) throw new ServiceError('NOT_POSSIBLE', `“${NIGHT_RULES[name].name}” takes a number ${fault}`);
        await store(queries, rig, name, value);
        await changes.record(queries, viewer, {
          entity: 'night_rule',
          entityId: rigId,
          projectId: null,
          words: `“${NIGHT_RULES[name].name}” of ${rig.name}`,
          before: { name, value: own[name] ?? null },
          after: { name, value },
        });
      });
      return { ok: true };
    },
  };
}
