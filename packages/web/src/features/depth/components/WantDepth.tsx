import type { FilterDepth, WantedDepth } from '@meridiem/contract';
import { setDepthWish } from '@meridiem/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, wordsOf } from '../../../app/api.ts';
import { Labelled } from '../../../ui/Labelled.tsx';
import { useGoals, useWantCounts } from '../queries.ts';
import type { TypedDepth } from '../view-model.ts';
import { asTyped, countsForDepth, depthProblems, depthWords, readWanted, wantedWords } from '../view-model.ts';

export interface WantDepthProps {
  readonly filter: FilterDepth;
  readonly projectId: string;
  readonly mayEdit: boolean;
}

/** A depth that is wanted over a share of the field, and what it takes. */
export function WantDepth({ filter, projectId, mayEdit }: WantDepthProps) {
  const [typed, setTyped] = useState(asTyped(filter.wanted));
  const problems = depthProblems(typed);
  return (
    <section aria-label="How much deeper" className="mt-5">
      <h2 className="text-xl">How much deeper</h2>
      {filter.wanted && (
        <p className="mt-1">
          Wanted in {filter.letter}: {wantedWords(filter.wanted)}.
        </p>
      )}
      <div className="mt-1 flex flex-wrap items-start gap-x-6 gap-y-2">
        <Labelled label="Wanted, mag/″²" error={problems.mag}>
          <input
            inputMode="decimal"
            className="w-28"
            value={typed.mag}
            placeholder={(filter.summary!.medianMag + 0.5).toFixed(1)}
            onChange={({ target }) => setTyped({ ...typed, mag: target.value })}
          />
        </Labelled>
        <Labelled label="Over, % of the field" error={problems.percent}>
          <input
            inputMode="decimal"
            className="w-28"
            value={typed.percent}
            onChange={({ target }) => setTyped({ ...typed, percent: target.value })}
          />
        </Labelled>
      </div>
      <p aria-live="polite" className="mt-2 max-w-[75ch]">
        {depthWords(typed, filter)}
      </p>
      {mayEdit && <Keep {...{ filter, projectId, typed }} onGivenUp={() => setTyped(asTyped(null))} />}
    </section>
  );
}

interface KeepProps extends Omit<WantDepthProps, 'mayEdit'> {
  readonly typed: TypedDepth;
  readonly onGivenUp: () => void;
}

/** The depth kept with the project, and its exposures wanted as counts, which plans know. */
function Keep({ filter, projectId, typed, onGivenUp }: KeepProps) {
  const queryClient = useQueryClient();
  const wanted = readWanted(typed);
  const isNew = wanted !== null && (wanted.mag !== filter.wanted?.mag || wanted.share !== filter.wanted.share);
  const change = useMutation({
    mutationFn: (to: WantedDepth | null) =>
      call(setDepthWish, { params: { id: projectId, filterId: filter.filterId }, body: { wanted: to } }),
    onSuccess: (_, to) => void (to === null && onGivenUp()),
    onSettled: () => queryClient.invalidateQueries({ queryKey: ['ledger', 'depth', projectId] }),
  });
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
      {isNew && (
        <button type="button" disabled={change.isPending} onClick={() => change.mutate(wanted)}>
          Keep as wanted
        </button>
      )}
      {filter.wanted && (
        <button type="button" className="word-link" disabled={change.isPending} onClick={() => change.mutate(null)}>
          No longer wanted
        </button>
      )}
      {filter.wanted && !isNew && <Counts filter={filter} projectId={projectId} wanted={filter.wanted} />}
      {change.error && <p className="text-brick">{wordsOf(change.error)}</p>}
    </div>
  );
}

/** Goals in this filter set to what the depth takes. */
function Counts({ filter, projectId, wanted }: Omit<WantDepthProps, 'mayEdit'> & { readonly wanted: WantedDepth }) {
  const goals = useGoals(projectId).filter(({ filterId }) => filterId === filter.filterId);
  const changes = countsForDepth(goals, filter, wanted);
  const want = useWantCounts(projectId);
  if (want.isSuccess) return <p className="text-soft">The goals in {filter.letter} want these exposures now.</p>;
  if (changes.length === 0) return null;
  const [most] = changes.map(({ count }) => count).toSorted((a, b) => b - a);
  return (
    <>
      <button
        type="button"
        className="word-link text-left"
        disabled={want.isPending}
        onClick={() => want.mutate(changes)}
      >
        Want these exposures in the goals (
        {changes.length === 1 ? most : `${changes.length} panels, up to ${most} each`})
      </button>
      {want.error && <p className="text-brick">{wordsOf(want.error)}</p>}
    </>
  );
}
