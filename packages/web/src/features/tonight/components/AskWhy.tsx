import type { NightSky } from '@meridiem/contract';
import { memo, useState } from 'react';
import { clock } from '../../../words/format.ts';
import { momentOfClock, momentWords } from '../moment-words.ts';
import type { Replan } from '../use-replan.ts';

interface AskWhyProps extends Pick<Replan, 'goals' | 'ask' | 'answer'> {
  readonly sky: NightSky;
  readonly zone: string;
}

/** Why a goal is, or is not, exposed at a moment: the limit, the hour it waits for, or what it would cost. */
export const AskWhy = memo(function AskWhy({ goals, ask, answer, sky, zone }: AskWhyProps) {
  const [goalId, setGoalId] = useState('');
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const nameOf = (id: string): string => goals.find((goal) => goal.id === id)?.words ?? 'another goal';
  return (
    <form
      aria-label="Why at a moment"
      className="no-print mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        const utcMs = momentOfClock(text, sky, zone);
        if (!goalId) return setProblem('Choose a goal');
        if (utcMs === null) return setProblem(`"${text}" is no time of this night; write one like 23:30`);
        setProblem(null);
        ask(goalId, utcMs);
      }}
    >
      <h3 className="rule pb-1 text-base">Ask about a time</h3>
      <div className="mt-1 flex flex-wrap items-baseline gap-2">
        <select
          aria-label="Goal to ask about"
          className="max-w-[210px]"
          value={goalId}
          onChange={(event) => setGoalId(event.target.value)}
        >
          <option value="">goal…</option>
          {goals.map(({ id, words }) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </select>
        <label>
          at{' '}
          <input
            aria-label="Time to ask about"
            className="w-[64px]"
            placeholder="23:30"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <button type="submit" className="act">
          Ask
        </button>
      </div>
      {problem && (
        <p role="alert" className="text-signal">
          {problem}
        </p>
      )}
      {answer && !problem && (
        <p aria-live="polite" className="mt-1 font-serif text-base">
          {nameOf(answer.goalId)} at {clock(answer.utcMs, zone)}: {momentWords(answer.reason, zone, nameOf)}
        </p>
      )}
    </form>
  );
});
