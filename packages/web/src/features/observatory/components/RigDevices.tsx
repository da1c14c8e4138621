import type { DeviceTest, Rig } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Choice } from '../../../ui/Choice.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { RigDeviceChanges } from '../queries.ts';
import { useRigDevices } from '../queries.ts';
import { DEVICE_WORDS } from '../view-model.ts';
import { NightRuleSheet } from './NightRuleSheet.tsx';
import { Line } from './Sheet.tsx';

/** How a rig's devices are reached, and whether each of them answers. For coordinators. */
export function RigDevices({ rig }: { readonly rig: Rig }) {
  const { data, changes } = useRigDevices(rig.id);
  const notice = useNotice();
  const [isAddress, setIsAddress] = useState(false);
  if (!data) return null;
  const choose = (kind: string): void => {
    setIsAddress(kind === 'address');
    if (kind !== 'address')
      void changes.set(kind as Rig['devices'], null).catch((error: unknown) => notice(wordsOf(error), true));
  };
  const kind = isAddress ? 'address' : data.kind;
  return (
    <>
      <dl>
        <Line name="Reached" help="Set one up, test it, play a night, then the next.">
          <Choice
            label={`Devices of ${rig.name}`}
            value={kind}
            options={Object.entries(DEVICE_WORDS).map(([value, words]) => ({ value, words }))}
            onChoose={choose}
          />
        </Line>
        {kind === 'address' && (
          <Line
            name="Address"
            help={
              data.hosts.length === 0
                ? 'No host is allowed yet: they are set where the server is started.'
                : `Of the open HTTP device protocol, on ${data.hosts.join(' or ')}`
            }
          >
            <EditableText
              label={`Address of the devices of ${rig.name}`}
              width={280}
              shown={data.url ?? 'none yet'}
              text={data.url ?? ''}
              onSave={async (url) => {
                await changes.set('address', url);
                setIsAddress(false);
              }}
            />
          </Line>
        )}
      </dl>
      {data.kind !== 'none' && <DeviceTests key={data.kind} rig={rig} changes={changes} />}
      <NightRuleSheet rig={rig} own={data.nightRules} changes={changes} />
    </>
  );
}

function DeviceTests({ rig, changes }: { readonly rig: Rig; readonly changes: RigDeviceChanges }) {
  const [tests, setTests] = useState<readonly DeviceTest[] | null>(null);
  const [isAsking, setIsAsking] = useState(false);
  const notice = useNotice();
  const ask = async (): Promise<void> => {
    setIsAsking(true);
    try {
      setTests((await changes.test()).devices);
    } catch (error) {
      notice(wordsOf(error), true);
    } finally {
      setIsAsking(false);
    }
  };
  return (
    <>
      <button type="button" className="act mt-2" disabled={isAsking} onClick={() => void ask()}>
        {isAsking ? 'Asking…' : `Test the devices of ${rig.name}`}
      </button>
      <ul aria-label={`Devices of ${rig.name}, tested`} className="mt-1">
        {tests?.map(({ device, answers, words }) => (
          <li key={device} className="rule flex justify-between py-1">
            <span>{device}</span>
            <span className={answers ? 'text-soft' : 'text-signal'}>{words}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
