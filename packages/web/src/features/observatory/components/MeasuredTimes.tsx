import type { Rig, RigWish } from '@meridiem/contract';
import { costsMeasured } from '@meridiem/core';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useStepTimes } from '../queries.ts';
import { measuredTimes } from '../rig-fields.ts';

interface MeasuredTimesProps {
  readonly rig: Rig;
  readonly mayEdit: boolean;
  readonly change: (wish: RigWish) => Promise<void>;
  readonly onLearn: (learnsTimes: boolean) => Promise<unknown>;
}

/** What steps have really taken in the last nights by devices, beside the times that are set, and plans made by them. */
export function MeasuredTimes({ rig, mayEdit, change, onLearn }: MeasuredTimesProps) {
  const { data } = useStepTimes(rig.id, rig.devices !== 'none');
  const notice = useNotice();
  const measured = data?.measured ?? [];
  const lines = measuredTimes(measured);
  if (rig.devices === 'none') return null;
  const costs = costsMeasured(rig.costs, measured);
  const say = (error: unknown): void => notice(wordsOf(error), true);
  return (
    <div className="mt-2">
      <p className="text-soft">
        {lines.length === 0
          ? 'After a few nights by devices it is shown here what steps have really taken.'
          : 'Measured in the last nights, to set the times above by:'}
      </p>
      <ul aria-label={`Measured times of ${rig.name}`}>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {mayEdit && costs && (
        <button type="button" className="act mt-2" onClick={() => void change({ costs }).catch(say)}>
          Plan by these times
        </button>
      )}
      {mayEdit && (
        <label className="mt-2 block">
          <input
            type="checkbox"
            checked={rig.learnsTimes}
            onChange={(event) => void onLearn(event.target.checked).catch(say)}
          />{' '}
          Set the times by them after each night by devices
        </label>
      )}
    </div>
  );
}
