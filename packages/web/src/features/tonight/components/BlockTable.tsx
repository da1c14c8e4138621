import type { RigPlan } from '@meridiem/contract';
import { Fragment, memo } from 'react';
import { Link } from 'react-router';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { WhyMark } from '../../../why/why-context.tsx';
import { clock, duration, percent } from '../../../words/format.ts';
import type { HandStep } from '../hand-changes.ts';
import type { PlanWait } from '../view-model.ts';
import { blockKeys, endWords, listedRuns, takenOf, waitsBefore } from '../view-model.ts';
import { BlockActions } from './BlockActions.tsx';

interface BlockTableProps {
  readonly plan: RigPlan;
  readonly zone: string;
  /** null where hands may not change the plan. */
  readonly change: ((step: HandStep) => void) | null;
}

/** Blocks in order, each with its runs. */
export const BlockTable = memo(function BlockTable({ plan, zone, change }: BlockTableProps) {
  const waits = waitsBefore(plan.blocks);
  const keys = blockKeys(plan.blocks);
  return (
    <table className="w-full self-start">
      <thead>
        <tr className="rule">
          <th scope="col" className="w-8">
            #
          </th>
          <th scope="col">from</th>
          <th scope="col" className="w-[36%]">
            project
          </th>
          <th scope="col">runs</th>
          <th scope="col">signal rate</th>
          <th scope="col">until</th>
          {change && (
            <th scope="col" className="no-print">
              <span className="sr-only">by hand</span>
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        {plan.blocks.map((_, i) => (
          <Fragment key={keys[i]}>
            <WaitRow wait={waits[i]} zone={zone} columns={change ? 7 : 6} />
            <BlockRow plan={plan} index={i} zone={zone} change={change} />
          </Fragment>
        ))}
      </tbody>
    </table>
  );
});

/** The rig waits: until when, and how long. */
function WaitRow({ wait, zone, columns }: { wait: PlanWait | null; zone: string; columns: number }) {
  if (!wait) return null;
  return (
    <tr className="rule text-soft">
      <td />
      <td>{clock(wait.startUtcMs, zone)}</td>
      <td colSpan={columns - 2}>
        wait until {clock(wait.endUtcMs, zone)} ({duration((wait.endUtcMs - wait.startUtcMs) / 1000)})
      </td>
    </tr>
  );
}

function BlockRow({ plan, index: i, zone, change }: BlockTableProps & { index: number }) {
  const block = plan.blocks[i];
  const counting = plan.run !== null;
  const { taken, count } = takenOf(block);
  const { runs, alternates } = listedRuns(block);
  return (
    <tr className="rule">
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
          {runs.map((run) => (
            <span key={run.key} className="whitespace-nowrap">
              <FilterTab letter={run.filterLetter} filterClass={run.filterClass} /> {run.count} × {run.exposureSec}
              <span className="unit">s</span>
            </span>
          ))}
          {alternates && <span className="text-soft">alternating</span>}
          {block.notAlternating && (
            <span className="text-soft">one after the other: not open together long enough to alternate</span>
          )}
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
            paragraphs: [
              ...block.runs
                .slice(0, 12)
                .map(
                  (run) =>
                    `${run.filterLetter}: ${run.count} × ${run.exposureSec} s from ${clock(run.startUtcMs, zone)} to ${clock(run.endUtcMs, zone)}, at ${percent(run.meanRateShare)} of the best signal rate this target and filter reach from here (predicted from altitude, moon and twilight).`,
                ),
              ...(block.arriving.length > 0 ? [`On arriving: ${block.arriving.join(', ')}.`] : []),
              ...(block.leaving.length > 0 ? [`On leaving: ${block.leaving.join(', ')}.`] : []),
            ],
          }}
        />
      </td>
      <td className="whitespace-nowrap">{endWords(block, plan, zone)}</td>
      {change && (
        <td className="no-print">
          <BlockActions plan={plan} block={block} index={i} change={change} />
        </td>
      )}
    </tr>
  );
}
