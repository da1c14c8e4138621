import type { RigPlan } from '@meridiem/contract';
import { memo } from 'react';
import { Link } from 'react-router';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { clock } from '../../../words/format.ts';
import { reserveByProject } from '../view-model.ts';

interface ReserveListProps {
  readonly rigName: string;
  readonly reserve: RigPlan['reserve'];
  readonly zone: string;
}

/** What to turn to when the first choice can't be had, for a dark and for a moonlit sky. */
export const ReserveList = memo(function ReserveList({ rigName, reserve, zone }: ReserveListProps) {
  if (reserve.length === 0) return null;
  return (
    <section aria-label={`Reserve, ${rigName}`} className="no-print mt-4">
      <h3 className="rule pb-1 text-base">Reserve</h3>
      {(['dark', 'bright'] as const).map((sky) => {
        const own = reserveByProject(reserve, sky);
        if (own.length === 0) return null;
        return (
          <div key={sky} className="mt-1">
            <h4 className="text-sm text-soft">{sky === 'dark' ? 'without the moon' : 'under the moon'}</h4>
            <ul>
              {own.map(({ best, filters }) => (
                <li key={best.goalId} className="rule flex items-baseline gap-2 py-1">
                  <Link className="word-link truncate" to={`/projects/${best.projectId}`}>
                    {best.projectName}
                  </Link>
                  {filters.map((filter) => (
                    <FilterTab key={filter.letter} letter={filter.letter} filterClass={filter.filterClass} />
                  ))}
                  <span className="ml-auto whitespace-nowrap text-soft">
                    {clock(best.fromUtcMs, zone)}–{clock(best.toUtcMs, zone)}, gains {best.perHour.toFixed(2)} per hour
                  </span>
                </li>
              ))}
            </ul>
          </div>
        );
      })}
    </section>
  );
});
