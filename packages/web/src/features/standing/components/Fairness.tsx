import { useNotice } from '../../../app/notices.tsx';
import { wordsOf } from '../../../app/api.ts';
import { percent } from '../../../words/format.ts';
import type { ShareActs } from '../queries.ts';

const STEPS = [0, 0.25, 0.5, 0.75, 1];

/** How much it counts that a member is behind: one setting for the observatory. */
export function Fairness({ fairness, mayEdit, acts }: { fairness: number; mayEdit: boolean; acts: ShareActs }) {
  const notice = useNotice();
  const steps = STEPS.includes(fairness) ? STEPS : [...STEPS, fairness].toSorted((a, b) => a - b);
  const save = (value: number): void =>
    void acts.fairness(value).then(
      () => notice(`Fairness counts ${percent(value)} in plans`),
      (error: unknown) => notice(wordsOf(error), true),
    );
  return (
    <p className="mt-2">
      <label>
        Fairness counts{' '}
        {mayEdit ? (
          <select aria-label="Fairness" value={fairness} onChange={(event) => save(Number(event.target.value))}>
            {steps.map((step) => (
              <option key={step} value={step}>
                {percent(step)}
              </option>
            ))}
          </select>
        ) : (
          percent(fairness)
        )}
      </label>{' '}
      <span className="text-soft">
        in plans: at 0 % hours go wherever they gain most, at 100 % members who are behind come first. The season says
        what it costs.
      </span>
    </p>
  );
}
