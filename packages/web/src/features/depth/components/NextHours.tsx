import type { ProjectDepth } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useGoals, useWantCounts } from '../queries.ts';
import type { ShiftedCounts } from '../shifted-counts.ts';
import { shiftedCounts } from '../shifted-counts.ts';
import { nextHoursWords } from '../view-model.ts';

interface NextHoursProps extends Pick<ProjectDepth, 'filters' | 'mayEdit'> {
  readonly projectId: string;
}

/** Where the next hours gain most, and counts shifted that way within what is wanted. */
export function NextHours({ filters, mayEdit, projectId }: NextHoursProps) {
  const goals = useGoals(projectId);
  const want = useWantCounts(projectId);
  const words = nextHoursWords(filters);
  const shifted = shiftedCounts(goals, filters);
  if (!words) return null;
  return (
    <section aria-label="The next hours" className="mt-5">
      <h2 className="text-xl">The next hours</h2>
      <p className="mt-1 max-w-[75ch]">Two more hours add to signal over noise: {words}.</p>
      <p className="max-w-[75ch] text-soft">By the time gathered in each filter, under skies like these.</p>
      {shifted && <Proposal shifted={shifted} />}
      {shifted && mayEdit && (
        <button
          type="button"
          className="act mt-2"
          disabled={want.isPending}
          onClick={() => want.mutate(shifted.counts)}
        >
          Want these counts
        </button>
      )}
      {want.isSuccess && !shifted && <p className="mt-2">The goals want these counts now.</p>}
      {want.error && (
        <p role="alert" className="text-signal">
          {wordsOf(want.error)}
        </p>
      )}
    </section>
  );
}

const COLUMNS = ['filter', 'counts as', 'wanted', 'proposed', 'at the end'];

const Proposal = ({ shifted: { filters } }: { readonly shifted: ShiftedCounts }) => (
  <>
    <h3 className="mt-3 text-lg">Counts shifted within the hours that are wanted</h3>
    <p className="max-w-[75ch] text-soft">
      Exposures under moonlight or thin cloud add less than the better ones of their filter, so hours count for less.
      With these counts every filter ends with the same share of what was asked of it, and no hour is added.
    </p>
    <table className="mt-1">
      <thead>
        <tr className="rule text-soft">
          {COLUMNS.map((name, i) => (
            <th key={name} scope="col" className={`font-normal ${i === 0 ? 'pr-6 text-left' : 'pl-4 text-right'}`}>
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {filters.map(({ letter, worth, wanted, proposed, gain }) => (
          <tr key={letter} className="rule">
            <th scope="row" className="pr-6 text-left font-normal">
              {letter}
            </th>
            <td className="pl-4 text-right">{worth}</td>
            <td className="pl-4 text-right">{wanted}</td>
            <td className="pl-4 text-right">{proposed}</td>
            <td className="pl-4 text-right">{gain}</td>
          </tr>
        ))}
      </tbody>
    </table>
    <p className="text-sm text-soft">
      Wanted and proposed are exposures; at the end is signal over noise against the counts as they are.
    </p>
  </>
);
