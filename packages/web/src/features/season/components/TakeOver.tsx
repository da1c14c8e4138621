import type { ProjectRow, WhatIf } from '@meridiem/contract';
import { addClosure, editFairness, editProject, setLimit } from '@meridiem/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { AddressChanges } from '../../../app/address.ts';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';

interface TakeOverProps {
  readonly whatIf: WhatIf;
  readonly projects: readonly ProjectRow[];
  readonly change: (changes: AddressChanges) => void;
}

/** Makes what was tried real, as ordinary changes that undo takes back one by one; granting stays with its request. */
export function TakeOver({ whatIf, projects, change }: TakeOverProps) {
  const notice = useNotice();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [isBusy, setBusy] = useState(false);
  const [reason, setReason] = useState('');
  const of = (id: string): ProjectRow | undefined => projects.find((project) => project.id === id);
  const granted = (whatIf.granted ?? []).flatMap((id) => of(id) ?? []);
  const takeOver = async (): Promise<void> => {
    setBusy(true);
    try {
      for (const closure of whatIf.closed ?? [])
        await call(addClosure, { body: { ...closure, reason: reason.trim() } });
      change({ closedFrom: null, closedTo: null, closedRig: null });
      if (whatIf.fairness !== undefined) await call(editFairness, { body: { fairness: whatIf.fairness } });
      for (const { projectId, class: ofClass, key, value } of whatIf.limits ?? [])
        await call(setLimit, {
          body: {
            ...{
              scope: projectId ? ('project' as const) : ('observatory' as const),
              scopeId: projectId,
              class: ofClass,
              key,
            },
            setting: value === null ? { off: true } : { value },
          },
        });
      const edits = new Map<string, { resting?: boolean; grade?: number }>();
      for (const id of whatIf.leftOut ?? []) edits.set(id, { resting: true });
      for (const { projectId, grade } of whatIf.grades ?? []) edits.set(projectId, { ...edits.get(projectId), grade });
      for (const [id, fields] of edits) {
        const project = of(id);
        if (project) await call(editProject, { params: { id }, body: { version: project.version, ...fields } });
      }
      await queryClient.invalidateQueries();
      notice('Applied; undo reverts the changes one by one');
      void navigate('/season');
    } catch (error) {
      notice(wordsOf(error), true);
      await queryClient.invalidateQueries();
    } finally {
      setBusy(false);
    }
  };
  const isClosing = (whatIf.closed ?? []).length > 0;
  const isNothingElse =
    !isClosing && whatIf.fairness === undefined && !whatIf.leftOut && !whatIf.grades && !whatIf.limits;
  return (
    <div className="mt-4 flex flex-wrap items-end gap-3">
      {granted.length > 0 && (
        <p>
          Granting is decided on the project’s page:{' '}
          {granted.map(({ id, name }) => (
            <Link key={id} className="word-link mr-2" to={`/projects/${id}`}>
              {name}
            </Link>
          ))}
        </p>
      )}
      {whatIf.shares && (
        <p>
          Shares are agreed on{' '}
          <Link className="word-link" to="/standing">
            Standing
          </Link>
          .
        </p>
      )}
      {isClosing && (
        <label>
          Why these nights are closed{' '}
          <input value={reason} maxLength={200} onChange={(event) => setReason(event.target.value)} />
        </label>
      )}
      {!isNothingElse && (
        <button
          type="button"
          className="act act-strong"
          disabled={isBusy || (isClosing && reason.trim() === '')}
          onClick={() => void takeOver()}
        >
          Take over these changes
        </button>
      )}
      {(whatIf.leftOut ?? []).length > 0 && <span className="text-soft">Projects left out will rest.</span>}
    </div>
  );
}
