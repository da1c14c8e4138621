import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import type { BodyOf, GoalFate, reviseRig, Rig, RigEffect, RigWish } from '@meridiem/contract';
import { GOAL_FATES, previewRig } from '@meridiem/contract';
import type { ReactNode } from 'react';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../../app/api.ts';
import { FATE_WORDS } from '../gear-words.ts';
import type { ObservatoryChanges } from '../queries.ts';

type GoalFates = NonNullable<BodyOf<typeof reviseRig>['goalFates']>;

interface Asked {
  readonly effects: readonly RigEffect[];
  /** null: nothing is changed. */
  readonly answer: (fates: GoalFates | null) => void;
}

/** Changes of a rig that first tell what they touch: `change` settles when the person has decided, `question` is the dialog to show. */
export function useRigChange(
  rig: Rig,
  changes: ObservatoryChanges,
): { change: (wish: RigWish) => Promise<void>; question: ReactNode } {
  const [asked, setAsked] = useState<Asked | null>(null);
  const change = async (wish: RigWish): Promise<void> => {
    const { effects } = await call(previewRig, { params: { id: rig.id }, body: wish });
    if (effects.length > 0) {
      const goalFates = await new Promise<GoalFates | null>((answer) => setAsked({ effects, answer }));
      setAsked(null);
      if (!goalFates) throw new Error('Not changed; Escape brings the old value back');
      await changes.rig(rig, goalFates.length > 0 ? { ...wish, goalFates } : wish);
    } else await changes.rig(rig, wish);
  };
  return { change, question: <EffectsDialog rigName={rig.name} asked={asked} /> };
}

function EffectsDialog({ rigName, asked }: { rigName: string; asked: Asked | null }) {
  return (
    <Dialog open={asked !== null} onClose={() => asked?.answer(null)} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-black/40" />
      <div className="fixed inset-x-0 top-24 mx-auto max-w-[640px] px-3">
        {asked && (
          <DialogPanel className="border border-hairline bg-raised p-4 shadow-xl">
            <DialogTitle className="text-lg">What changing {rigName} does</DialogTitle>
            <Effects asked={asked} />
          </DialogPanel>
        )}
      </div>
    </Dialog>
  );
}

/** What changes, and for each project with goals under way what is to become of them. */
function Effects({ asked: { effects, answer } }: { readonly asked: Asked }) {
  const [fates, setFates] = useState<ReadonlyMap<string, GoalFate>>(new Map());
  const given = [...fates].map(([projectId, fate]) => ({ projectId, fate }));
  return (
    <>
      <div className="mt-2 max-h-[52vh] overflow-y-auto" tabIndex={0} role="region" aria-label="What changes">
        <table className="w-full">
          <tbody>
            {effects.map(({ about, projectId, projectName, words, isLoss, asksForGoals }) => (
              <tr key={`${about} ${projectId} ${words}`} className="rule">
                <th scope="row">{about}</th>
                <td>
                  {projectId && (
                    <Link className="word-link mr-2 font-serif" to={`/projects/${projectId}`}>
                      {projectName}
                    </Link>
                  )}
                  <span className={isLoss ? 'text-signal' : ''}>{words}</span>
                  {projectId && asksForGoals > 0 && (
                    <select
                      aria-label={`Goals of ${projectName}`}
                      className="mt-1 block w-full"
                      value={fates.get(projectId) ?? 'same'}
                      onChange={({ target }) => setFates(new Map(fates).set(projectId, target.value as GoalFate))}
                    >
                      {GOAL_FATES.map((fate) => (
                        <option key={fate} value={fate}>
                          {FATE_WORDS[fate]}
                        </option>
                      ))}
                    </select>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-4 flex gap-3">
        <button type="button" className="act act-strong" onClick={() => answer(given)}>
          Save change
        </button>
        <button type="button" className="act" onClick={() => answer(null)}>
          Cancel
        </button>
      </div>
    </>
  );
}
