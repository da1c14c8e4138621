import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import type { Person } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import type { MemberActs } from '../queries.ts';

interface GoodbyeDialogProps {
  readonly leaving: Person | null;
  readonly people: readonly Person[];
  readonly acts: MemberActs;
  readonly onClose: () => void;
}

/** What happens to the projects of a member who leaves. */
export function GoodbyeDialog({ leaving, people, acts, onClose }: GoodbyeDialogProps) {
  const notice = useNotice();
  const [heir, setHeir] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const close = (): void => {
    setHeir('');
    setProblem(null);
    onClose();
  };
  const goodbye = async (person: Person): Promise<void> => {
    try {
      const { projects } = await acts.leave(person.id, heir || null);
      notice(`${person.name} has left; ${projects} projects ${heir ? 'handed on' : 'retired'}`);
      close();
    } catch (error) {
      setProblem(wordsOf(error));
    }
  };
  return (
    <Dialog open={leaving !== null} onClose={close} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-black/40" />
      <div className="fixed inset-x-0 top-40 mx-auto w-[420px]">
        {leaving && (
          <DialogPanel className="border border-hairline bg-raised p-4 shadow-xl">
            <DialogTitle className="text-lg">Remove {leaving.name}</DialogTitle>
            <p className="mt-2">
              {leaving.projects === 0
                ? 'No open project is left behind.'
                : `${leaving.projects} open ${leaving.projects === 1 ? 'project' : 'projects'}:`}
            </p>
            {leaving.projects > 0 && (
              <label className="mt-1 flex items-baseline gap-2">
                <span className="text-soft">go to</span>
                <select value={heir} onChange={(event) => setHeir(event.target.value)}>
                  <option value="">no one: retire them</option>
                  {people
                    .filter((person) => person.id !== leaving.id && person.role !== 'guest' && !person.suspended)
                    .map((person) => (
                      <option key={person.id} value={person.id}>
                        {person.name}
                      </option>
                    ))}
                </select>
              </label>
            )}
            <p className="mt-2 text-soft">
              What was taken stays in the ledger with its credit. The account can no longer sign in.
            </p>
            {problem && (
              <p role="alert" className="mt-2 text-signal">
                {problem}
              </p>
            )}
            <div className="mt-4 flex gap-3">
              <button type="button" className="act act-strong" onClick={() => void goodbye(leaving)}>
                Remove member
              </button>
              <button type="button" className="act" onClick={close}>
                Cancel
              </button>
            </div>
          </DialogPanel>
        )}
      </div>
    </Dialog>
  );
}
