import type { Rig } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import type { ObservatoryChanges } from '../queries.ts';

/** A rig is copied under another name, or retired for good; the latter can be taken back. */
export function RigActions({ rig, changes }: { rig: Rig; changes: ObservatoryChanges }) {
  const notice = useNotice();
  const [copying, setCopying] = useState(false);
  const retire = (): Promise<void> =>
    changes
      .retireRig(rig)
      .then(() => notice(`${rig.name} is retired; bring it back at the end of this page`))
      .catch((error) => notice(wordsOf(error), true));
  if (copying) return <CopyRig rig={rig} changes={changes} onDone={() => setCopying(false)} />;
  return (
    <p className="mt-3 flex gap-3">
      <button type="button" className="act" onClick={() => setCopying(true)}>
        Copy this rig
      </button>
      <button type="button" className="act" onClick={() => void retire()}>
        Retire this rig
      </button>
    </p>
  );
}

function CopyRig({ rig, changes, onDone }: { rig: Rig; changes: ObservatoryChanges; onDone: () => void }) {
  const [name, setName] = useState('');
  const [cameraSerial, setSerial] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const copy = async (): Promise<void> => {
    if (name.trim() === '' || cameraSerial.trim() === '')
      return setProblem('Give the copy a name, and its camera its own serial number');
    try {
      await changes.copyRig(rig, { name: name.trim(), cameraSerial: cameraSerial.trim() });
      onDone();
    } catch (error) {
      setProblem(wordsOf(error));
    }
  };
  return (
    <form
      aria-label={`Copy of ${rig.name}`}
      className="mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void copy();
      }}
    >
      <p className="text-soft">
        Numbers, modes, filters, steps and everybody’s recipes are copied; projects and frames are not.
      </p>
      <p className="mt-1 flex flex-wrap items-baseline gap-3">
        <input
          aria-label="Name of the copy"
          placeholder="name"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <input
          aria-label="Serial number of its camera"
          placeholder="camera’s serial number"
          value={cameraSerial}
          onChange={(event) => setSerial(event.target.value)}
        />
        <button type="submit" className="act">
          Copy
        </button>
        <button type="button" className="act" onClick={onDone}>
          Cancel
        </button>
      </p>
      {problem && (
        <p role="alert" className="text-signal">
          {problem}
        </p>
      )}
    </form>
  );
}
