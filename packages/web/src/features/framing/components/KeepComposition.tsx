import { shelve } from '@meridiem/contract';
import { useState } from 'react';
import { call, wordsOf } from '../../../app/api.ts';
import type { Composition } from '../view-model.ts';

/** Keeps the composition with its target on the shelf: there it is found again as it stands here. */
export function KeepComposition({
  composition,
  compositionText,
}: {
  composition: Composition;
  compositionText: string;
}) {
  const [said, setSaid] = useState<{ words: string; isProblem: boolean } | null>(null);
  const { subject, targetName } = composition;
  const keep = (): void => {
    if (targetName === '') return setSaid({ words: 'Name the subject first', isProblem: true });
    const { raDeg, decDeg, sizeArcmin } = subject;
    void call(shelve, { body: { name: targetName, raDeg, decDeg, sizeArcmin, composition: compositionText } }).then(
      () => setSaid({ words: `Kept with ${targetName} on the finder’s shelf`, isProblem: false }),
      (failure: unknown) => setSaid({ words: wordsOf(failure), isProblem: true }),
    );
  };
  return (
    <p className="mt-4">
      <button type="button" className="act" onClick={keep}>
        Save to shelf
      </button>{' '}
      {said && (
        <span role={said.isProblem ? 'alert' : 'status'} className={said.isProblem ? 'text-signal' : 'text-soft'}>
          {said.words}
        </span>
      )}
    </p>
  );
}
