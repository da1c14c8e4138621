import type { Rig, RigWish } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useStepTimes } from '../queries.ts';
import { costsMeasured, measuredTimes } from '../rig-fields.ts';

interface MeasuredTimesProps {
  readonly rig: Rig;
  readonly mayEdit: boolean;
  readonly change: (wish: RigWish) => Promise<void>;
}

/** What steps have really taken in the last nights by devices, beside the times that are set, and plans made by them. */
export function MeasuredTimes({ rig, mayEdit, change }: MeasuredTimesProps) {
  const { data } = useStepTimes(rig.id, rig.devices !== 'none');
  const notice = useNotice();
  const measured = data?.measured ?? [];
  const lines = measuredTimes(measured);
  if (lines.length === 0) return null;
  const costs = costsMeasured(rig.costs, measured);
  return (
    <div className="mt-2">
      <p className="text-soft">Measured in the last nights, to set the times above by:</p>
      <ul aria-label={`Measured times of ${rig.name}`}>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {mayEdit && costs && (
        <button
          type="button"
          className="act mt-2"
          onClick={() => void change({ costs }).catch((error: unknown) => notice(wordsOf(error), true))}
        >
          Plan by these times
        </button>
      )}
    </div>
  );
}
