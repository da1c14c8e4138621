import type { BodyOf, editFairness, Standing } from '@meridiem/contract';
import { useNotice } from '../../../app/notices.tsx';
import { wordsOf } from '../../../app/api.ts';
import { percent } from '../../../words/format.ts';
import type { ShareActs } from '../queries.ts';

const STEPS = [0, 0.25, 0.5, 0.75, 1];
const NIGHTS = [5, 10, 20, 40, 60];
const nightsWords = (nights: number): string => `${nights} open nights`;

interface FairnessProps extends Pick<Standing, 'fairness' | 'carryOverNights'> {
  readonly mayEdit: boolean;
  readonly acts: ShareActs;
}

/** How much it counts that a member is behind, and how much of it is carried over: settings of the observatory. */
export function Fairness({ fairness, carryOverNights, mayEdit, acts }: FairnessProps) {
  const notice = useNotice();
  const save = (edit: BodyOf<typeof editFairness>, words: string): void =>
    void acts.fairness(edit).then(
      () => notice(words),
      (error: unknown) => notice(wordsOf(error), true),
    );
  return (
    <>
      <p className="mt-2">
        <Steps
          {...{ label: 'Fairness', before: 'Fairness counts', steps: STEPS, value: fairness, words: percent, mayEdit }}
          onChoose={(value) => save({ fairness: value }, `Fairness counts ${percent(value)} in plans`)}
        />{' '}
        <span className="text-soft">
          in plans: at 0 % hours go wherever they gain most, at 100 % members who are behind come first. The season says
          what it costs.
        </span>
      </p>
      <p className="mt-1">
        <Steps
          {...{ label: 'Carried over', before: 'At most the share of', steps: NIGHTS, value: carryOverNights, words: nightsWords, mayEdit }} // prettier-ignore
          onChoose={(value) => save({ carryOverNights: value }, `At most ${nightsWords(value)} are carried over`)}
        />{' '}
        <span className="text-soft">is carried over: what a member is behind beyond that lapses.</span>
      </p>
    </>
  );
}

interface StepsProps {
  readonly label: string;
  readonly before: string;
  readonly steps: readonly number[];
  readonly value: number;
  readonly words: (step: number) => string;
  readonly mayEdit: boolean;
  readonly onChoose: (value: number) => void;
}

function Steps({ label, before, steps, value, words, mayEdit, onChoose }: StepsProps) {
  const all = steps.includes(value) ? steps : [...steps, value].toSorted((a, b) => a - b);
  return (
    <label>
      {before}{' '}
      {mayEdit ? (
        <select aria-label={label} value={value} onChange={(event) => onChoose(Number(event.target.value))}>
          {all.map((step) => (
            <option key={step} value={step}>
              {words(step)}
            </option>
          ))}
        </select>
      ) : (
        words(value)
      )}
    </label>
  );
}
