import type { JoinCandidate, Project, ProjectJoin } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { Labelled } from '../../../ui/Labelled.tsx';
import type { JoinActs } from '../join-queries.ts';
import { useJoinActs, useProjectJoins } from '../join-queries.ts';
import { candidateWords, joinWords, nameOfCandidate, typedShare } from '../shared-exposures.ts';

/** Other members on the same field: offers to share exposures, and what is shared. */
export function SharedExposures({ project }: { project: Project }) {
  const { data } = useProjectJoins(project.id);
  const acts = useJoinActs(project.id);
  if (!data) return null;
  const standing = data.joins.filter(({ state }) => state === 'open' || state === 'accepted');
  const ended = data.joins.filter(({ state, exposures }) => state === 'ended' && exposures > 0);
  const taken = new Set(standing.map(({ otherProjectId }) => otherProjectId));
  const candidates = data.candidates.filter(({ projectId }) => !taken.has(projectId));
  if (standing.length + ended.length + candidates.length === 0) return null;
  return (
    <section aria-label="On the same field" className="mt-5 max-w-3xl">
      <h2 className="text-xl">On the same field</h2>
      {standing.map((join) => (
        <Standing key={join.id} join={join} mayChange={data.mayChange} acts={acts} />
      ))}
      {candidates.map((candidate) => (
        <Candidate key={candidate.projectId} candidate={candidate} acts={acts} />
      ))}
      {ended.map((join) => (
        <p key={join.id} className="text-soft">
          {joinWords(join)}
        </p>
      ))}
    </section>
  );
}

type Answer = Parameters<JoinActs['answer']>[1];
const ACTS: Readonly<Record<Answer, string>> = {
  accepted: 'Accept and share',
  declined: 'Decline',
  withdrawn: 'Withdraw offer',
  ended: 'End sharing',
};

function Standing({ join, mayChange, acts }: { join: ProjectJoin; mayChange: boolean; acts: JoinActs }) {
  const [problem, setProblem] = useState<string | null>(null);
  const answers: readonly Answer[] =
    join.state === 'accepted' ? ['ended'] : join.isOffered ? ['withdrawn'] : ['accepted', 'declined'];
  return (
    <div className={`mt-1 ${join.state === 'open' ? 'border-l-2 border-brass pl-3' : ''}`}>
      <p>{joinWords(join)}</p>
      {mayChange && (
        <div className="mt-1 flex flex-wrap gap-3">
          {answers.map((answer) => (
            <button
              key={answer}
              type="button"
              className={`act ${answer === 'accepted' ? 'act-strong' : ''}`}
              onClick={() => void acts.answer(join.id, answer).catch((error) => setProblem(wordsOf(error)))}
            >
              {ACTS[answer]}
            </button>
          ))}
        </div>
      )}
      {problem && (
        <p role="alert" className="text-signal">
          {problem}
        </p>
      )}
    </div>
  );
}

function Candidate({ candidate, acts }: { candidate: JoinCandidate; acts: JoinActs }) {
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | undefined>(undefined);
  const send = (): void => {
    const ownShare = typedShare(typed!);
    if (ownShare === null) return setProblem('Write a share from 5 to 95 %');
    void acts
      .offer({ otherProjectId: candidate.projectId, ownShare })
      .catch((error: unknown) => setProblem(wordsOf(error)));
  };
  return (
    <div className="mt-1">
      <p>
        {nameOfCandidate(candidate)} {candidateWords(candidate)}.
      </p>
      {candidate.goals > 0 && typed === null && (
        <button type="button" className="act mt-1" onClick={() => setTyped('50')}>
          Offer to share exposures
        </button>
      )}
      {typed !== null && (
        <form
          aria-label={`Share with ${nameOfCandidate(candidate)}`}
          className="mt-1 grid gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            send();
          }}
        >
          <p className="text-soft">
            Each exposure that both want is taken once and counts for both, within the limits of both. What only one
            still wants is charged to that one.
          </p>
          <Labelled label="This project is charged, in % of a shared exposure" error={problem}>
            <input
              className="w-20 text-right"
              inputMode="decimal"
              value={typed}
              onChange={(event) => {
                setTyped(event.target.value);
                setProblem(undefined);
              }}
            />
          </Labelled>
          <div className="flex gap-3">
            <button type="submit" className="act act-strong">
              Send offer
            </button>
            <button type="button" className="act" onClick={() => setTyped(null)}>
              Cancel
            </button>
          </div>
        </form>
      )}
    </div>
  );
}
