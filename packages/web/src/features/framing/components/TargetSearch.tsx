import { useState } from 'react';
import type { FoundTarget } from '../../../targets/FoundTargets.tsx';
import { FoundTargets } from '../../../targets/FoundTargets.tsx';

/** A field that finds a target by name, number or coordinates. */
export function TargetSearch({ label, onChoose }: { label: string; onChoose: (target: FoundTarget) => void }) {
  const [sought, setSought] = useState('');
  return (
    <div className="relative">
      <label>
        <span className="text-soft">{label}</span>{' '}
        <input
          className="w-72 max-w-full"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          placeholder="name, number, or coordinates"
        />
      </label>
      <FoundTargets
        sought={sought}
        className="absolute z-10 mt-1 max-h-72 w-[420px] max-w-[90vw] overflow-auto border border-hairline bg-raised p-2 shadow-lg"
        onChoose={(target) => {
          setSought('');
          onChoose(target);
        }}
      />
    </div>
  );
}
