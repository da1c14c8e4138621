import type { RunAction } from '@meridiem/contract';
import { useState } from 'react';
import { clockSeconds } from '../../../words/format.ts';
import { actionWords, outcomeWords, tookWords } from '../view-model.ts';

const PAGE = 40;

/** Every step, the newest first. */
export function ActionTable({ actions, zone }: { readonly actions: readonly RunAction[]; readonly zone: string }) {
  const [shown, setShown] = useState(PAGE);
  if (actions.length === 0) return null;
  return (
    <section aria-label="Steps" className="mt-6">
      <h2 className="text-xl">Steps</h2>
      <table className="mt-1 w-full">
        <thead>
          <tr className="rule">
            <th scope="col">begun</th>
            <th scope="col">step</th>
            <th scope="col">took</th>
            <th scope="col">what came of it</th>
          </tr>
        </thead>
        <tbody>
          {actions.slice(0, shown).map((action) => (
            <tr key={action.id} className={`rule ${action.outcome === 'failed' ? 'text-signal' : ''}`}>
              <td className="whitespace-nowrap">{clockSeconds(action.startUtcMs, zone)}</td>
              <td>{actionWords(action, zone)}</td>
              <td className="whitespace-nowrap">{tookWords(action)}</td>
              <td>{outcomeWords(action)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {actions.length > shown && (
        <button type="button" className="act mt-2" onClick={() => setShown(shown + PAGE)}>
          Earlier steps
        </button>
      )}
    </section>
  );
}
