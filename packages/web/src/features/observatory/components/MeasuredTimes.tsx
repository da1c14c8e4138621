import type { Rig } from '@meridiem/contract';
import { useStepTimes } from '../queries.ts';
import { measuredTimes } from '../rig-fields.ts';

/** What steps have really taken in the last nights by devices, beside the times that are set. */
export function MeasuredTimes({ rig }: { readonly rig: Rig }) {
  const { data } = useStepTimes(rig.id, rig.devices !== 'none');
  const lines = measuredTimes(data?.measured ?? []);
  if (lines.length === 0) return null;
  return (
    <div className="mt-2">
      <p className="text-soft">Measured in the last nights, to set the times above by:</p>
      <ul aria-label={`Measured times of ${rig.name}`}>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  );
}
