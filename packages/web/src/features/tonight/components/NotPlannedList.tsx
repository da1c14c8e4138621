import type { LeftOut } from '@meridiem/contract';
import { memo } from 'react';
import { Link } from 'react-router';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { WhyMark } from '../../../why/why-context.tsx';
import { longReason } from '../../../words/reasons.ts';
import { leftOutRows } from '../view-model.ts';

interface LeftOutListProps {
  readonly rigName: string;
  readonly leftOut: readonly LeftOut[];
  readonly zone: string;
}

/** What is not in the plan, each with its reason. */
export const NotPlannedList = memo(function NotPlannedList({ rigName, leftOut, zone }: LeftOutListProps) {
  const rows = leftOutRows(leftOut);
  return (
    <section aria-label={`Left out, ${rigName}`}>
      <h3 className="rule pb-1 text-base">Not planned tonight</h3>
      {rows.length === 0 && <p className="mt-2 text-soft">Nothing: every goal of this rig that wants time has some.</p>}
      <ul>
        {rows.map((row) => (
          <li key={row.key} className="rule py-1" tabIndex={0}>
            <span className="flex items-baseline gap-2">
              <Link className="word-link truncate" to={`/projects/${row.projectId}`} title={row.projectName}>
                {row.projectName}
              </Link>
              <span className="ml-auto flex gap-2">
                {row.filters.map((filter) => (
                  <FilterTab key={filter.letter} letter={filter.letter} filterClass={filter.filterClass} />
                ))}
              </span>
            </span>
            <span className="text-soft">
              {row.words}
              {row.panels > 1 && `, ${row.panels} panels`}
              <WhyMark
                note={{
                  title: row.projectName,
                  paragraphs: [
                    ...new Set(row.items.map((item) => `${item.filterLetter}: ${longReason(item.reason, zone)}`)),
                  ],
                }}
              />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
});
