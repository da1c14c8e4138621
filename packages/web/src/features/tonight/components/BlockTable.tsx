import type { RigPlan } from '@meridiem/contract';
import { Link } from 'react-router';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { WhyMark } from '../../../why/why-context.tsx';
import { clock, percent } from '../../../words/format.ts';
import { endWords, takenOf } from '../view-model.ts';

/** Blocks in order, each with its runs. */
export function BlockTable({ plan, zone }: { plan: RigPlan; zone: string }) {
  const counting = plan.run !== null;
  return (
    <table className="w-full self-start">
      <thead>
        <tr className="rule">
          <th scope="col" className="w-8">
            #
          </th>
          <th scope="col">from</th>
          <th scope="col">project</th>
          <th scope="col">runs</th>
          <th scope="col">light</th>
          <th scope="col">until</th>
        </tr>
      </thead>
      <tbody>
        {plan.blocks.map((block, i) => {
          const { taken, count } = takenOf(block);
          return (
            <tr key={block.startUtcMs} className="rule">
              <td className="text-soft">{i + 1}</td>
              <td>{clock(block.startUtcMs, zone)}</td>
              <td>
                <Link className="word-link font-serif text-base" to={`/projects/${block.projectId}`}>
                  {block.panelName}
                </Link>
                <span className="block text-xs text-soft">{block.ownerName}</span>
              </td>
              <td>
                <span className="flex flex-wrap gap-x-4">
                  {block.runs.map((run) => (
                    <span key={`${run.goalId}${run.startUtcMs}`} className="whitespace-nowrap">
                      <FilterTab letter={run.filterLetter} filterClass={run.filterClass} /> {run.count} ×{' '}
                      {run.exposureSec}
                      <span className="unit">s</span>
                    </span>
                  ))}
                </span>
                {counting && (
                  <span className="block text-xs text-soft">
                    {taken} of {count} taken
                  </span>
                )}
              </td>
              <td className="whitespace-nowrap">
                {percent(block.runs.reduce((sum, run) => sum + run.meanRateShare * run.count, 0) / Math.max(1, count))}
                <WhyMark
                  note={{
                    title: `${block.panelName}, ${clock(block.startUtcMs, zone)}`,
                    paragraphs: block.runs.map(
                      (run) =>
                        `${run.filterLetter}: ${run.count} × ${run.exposureSec} s from ${clock(run.startUtcMs, zone)} to ${clock(run.endUtcMs, zone)}, at ${percent(run.meanRateShare)} of the best signal rate this target and filter reach from here (predicted from altitude, moon and twilight).`,
                    ),
                  }}
                />
              </td>
              <td className="whitespace-nowrap">{endWords(block, plan, zone)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
