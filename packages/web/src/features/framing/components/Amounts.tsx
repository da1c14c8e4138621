import type { Rig } from '@meridiem/contract';
import { useDeferredValue, useMemo } from 'react';
import type { Framing } from '../use-framing.ts';
import { amountsOf } from '../view-model.ts';

/** Facts, remarks and what stands in the way, following the hand. */
export function Amounts({
  composition,
  framed: frame,
  rig,
  onChange,
}: Pick<Framing, 'composition' | 'framed'> & { rig: Rig; onChange: Framing['change'] }) {
  const [shownComposition, shownFrame] = [useDeferredValue(composition), useDeferredValue(frame)];
  const { facts, remarks, problem } = useMemo(
    () => amountsOf(shownComposition, shownFrame, rig),
    [shownComposition, shownFrame, rig],
  );
  return (
    <>
      <ul className="mt-4" aria-label="What it amounts to">
        {facts.map((fact) => (
          <li key={fact} className="rule py-1">
            {fact}
          </li>
        ))}
        {remarks.map((remark) => (
          <li key={remark} className="rule py-1 text-signal">
            {remark}
          </li>
        ))}
      </ul>
      {problem && (
        <div role="alert" className="mt-3 border-l-2 border-signal py-1 pl-3">
          <p>{problem}</p>
          {composition.layout === 'one_plane' && (
            <button type="button" className="act mt-2" onClick={() => onChange({ layout: 'one_angle' })}>
              Use one camera angle
            </button>
          )}
        </div>
      )}
    </>
  );
}
