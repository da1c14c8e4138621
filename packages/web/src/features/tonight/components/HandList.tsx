import type { RigPlan } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import type { HandStep } from '../hand-changes.ts';
import { brokenWords, byTime, givenBack, valueWords, wishWords } from '../hand-changes.ts';
import { useNightActions } from '../queries.ts';

interface HandListProps {
  readonly plan: RigPlan;
  readonly nightDate: string;
  readonly zone: string;
  /** null where the viewer may look only. */
  readonly change: ((step: HandStep) => void) | null;
}

/** The hand changes of a night: they hold for this night only, until kept or given back. */
export function HandList({ plan, nightDate, zone, change }: HandListProps) {
  const { keep } = useNightActions(nightDate);
  const notice = useNotice();
  if (plan.wishes.length === 0) return null;
  return (
    <section aria-label={`By hand, ${plan.rigName}`} className="mt-2 border-l-2 border-brass pl-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h3 className="text-base">By hand, this night only</h3>
        <span className="text-soft">{valueWords(plan)}</span>
        {change && (
          <button
            type="button"
            className="word-link no-print ml-auto cursor-pointer"
            onClick={() => change(givenBack(plan.wishes.map(({ id }) => id)))}
          >
            Remove all changes
          </button>
        )}
      </div>
      <ul>
        {byTime(plan.wishes).map((wish) => (
          <li key={wish.id} className="flex flex-wrap items-baseline gap-x-3">
            <span>{wishWords(wish, zone)}</span>
            {wish.broken && <span className="text-signal">{brokenWords(wish)}</span>}
            {change && (
              <span className="no-print ml-auto flex gap-3">
                {wish.kind !== 'pin' && (
                  <button
                    type="button"
                    className="word-link cursor-pointer"
                    onClick={() =>
                      keep.mutate(wish.id, {
                        onSuccess: ({ words }) => notice(words),
                        onError: (error) => notice(wordsOf(error), true),
                      })
                    }
                  >
                    keep for every night
                  </button>
                )}
                <button type="button" className="word-link cursor-pointer" onClick={() => change(givenBack([wish.id]))}>
                  Remove this change
                </button>
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
