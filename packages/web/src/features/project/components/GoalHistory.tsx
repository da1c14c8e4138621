import { readGoalHistory } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../../app/api.ts';
import { dateOf } from '../../../words/format.ts';
import { lightWords, wishWords } from '../view-model.ts';

/** How much was wanted first, and how that changed. */
export function GoalHistory({ goalId, zone }: { goalId: string; zone: string }) {
  const { data } = useQuery({
    queryKey: ['project', 'wishes', goalId],
    queryFn: ({ signal }) => call(readGoalHistory, { params: { id: goalId }, signal }),
    staleTime: 0,
  });
  if (!data) return null;
  return (
    <>
      <h3 className="mt-3 text-base">How the goal changed</h3>
      <ol>
        {data.wishes.map((wish) => (
          <li key={wish.at} className="rule py-1">
            <span className="text-soft">
              {dateOf(wish.at, zone)}, {wish.who}:
            </span>{' '}
            {wishWords(wish)}
          </li>
        ))}
      </ol>
      {data.light.exposures > 0 && <p className="mt-2 font-serif text-base">{lightWords(data.light)}</p>}
    </>
  );
}
