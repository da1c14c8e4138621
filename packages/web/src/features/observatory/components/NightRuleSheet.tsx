import type { Rig, RigDevices } from '@meridiem/contract';
import type { NightRuleName } from '@meridiem/core';
import { NIGHT_RULE_NAMES, NIGHT_RULES } from '@meridiem/core';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { RigDeviceChanges } from '../queries.ts';
import { readNightRule } from '../view-model.ts';
import { Line } from './Sheet.tsx';

interface NightRuleSheetProps {
  readonly rig: Rig;
  /** Numbers that differ from the usual ones. */
  readonly own: RigDevices['nightRules'];
  readonly changes: RigDeviceChanges;
}

/** The numbers by which the rig's nights are carried out: each with its unit, what it is for, and the usual one. */
export const NightRuleSheet = ({ rig, own, changes }: NightRuleSheetProps) => (
  <section aria-label={`Numbers of a night of ${rig.name}`} className="mt-4">
    <h3 className="text-base">Numbers of a night</h3>
    <p className="text-soft">They hold from the next night that begins. An empty field brings back the usual number.</p>
    <dl>
      {NIGHT_RULE_NAMES.map((name) => (
        <NightRuleLine key={name} rigId={rig.id} name={name} value={own[name] ?? null} changes={changes} />
      ))}
    </dl>
  </section>
);

interface NightRuleLineProps {
  readonly rigId: string;
  readonly name: NightRuleName;
  readonly value: number | null;
  readonly changes: RigDeviceChanges;
}

function NightRuleLine({ rigId, name, value, changes }: NightRuleLineProps) {
  const { name: label, unit, help, usual } = NIGHT_RULES[name];
  const words = (number: number): string => String(number).replace('-', '−');
  return (
    <Line name={label} help={`${help}; usually ${`${words(usual)} ${unit}`.trim()}`} unit={unit}>
      <EditableText
        label={label}
        draftKey={`${rigId} ${name}`}
        width={90}
        shown={<span className={value === null ? 'text-soft' : ''}>{words(value ?? usual)}</span>}
        text={words(value ?? usual)}
        onSave={(text) => changes.nightRule(name, readNightRule(text))}
      />
    </Line>
  );
}
