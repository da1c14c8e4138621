import type { StandingRow } from '@meridiem/contract';
import { WhyMark } from '../../../why/why-context.tsx';
import { hours, percent } from '../../../words/format.ts';
import { behindHours, behindWords, multiplierReasons, SKY_WORDS, timesWords } from '../../../words/shares.ts';
import type { RigStanding } from '../view-model.ts';

/** One rig: what each member was entitled to and charged, and what their hours count for it. */
export function HoursTable({ rig, fairness, youId }: { rig: RigStanding; fairness: number; youId: string }) {
  return (
    <section aria-label={`Standing on ${rig.rigName}`} className="mt-8">
      <h2 className="text-xl">{rig.rigName}</h2>
      <p className="max-w-[75ch] text-soft">{rig.remark}</p>
      <div className="overflow-x-auto">
        <table className="mt-2 w-full max-w-5xl">
          <thead>
            <tr className="rule">
              <th scope="col">member</th>
              <th scope="col">sky</th>
              <th scope="col" className="text-right">
                share
              </th>
              <th scope="col" className="text-right">
                entitled
              </th>
              <th scope="col" className="text-right">
                charged
              </th>
              <th scope="col" className="pl-6">
                standing
              </th>
              <th scope="col" className="text-right">
                counts
              </th>
            </tr>
          </thead>
          <tbody>
            {rig.members.map(({ memberId, name, rows }) =>
              rows.map((row, i) => (
                <tr key={`${memberId} ${row.skyClass}`} className={i === rows.length - 1 ? 'rule' : ''}>
                  {i === 0 && (
                    <td rowSpan={rows.length} className="font-serif text-base">
                      {name}
                      {memberId === youId && <span className="text-soft"> (you)</span>}
                    </td>
                  )}
                  <Cells row={row} fairness={fairness} />
                </tr>
              )),
            )}
          </tbody>
        </table>
      </div>
      {rig.idle.length > 0 && (
        <p className="mt-1 text-soft">Without work that could be exposed so far: {rig.idle.join(', ')}.</p>
      )}
    </section>
  );
}

function Cells({ row, fairness }: { row: StandingRow; fairness: number }) {
  const behind = behindHours(row);
  return (
    <>
      <td>{SKY_WORDS[row.skyClass]}</td>
      <td className="text-right text-soft">{percent(row.share)}</td>
      <td className="text-right">
        {hours(row.entitledHours + row.givenHours)}
        <span className="unit">h</span>
      </td>
      <td className="text-right">
        {hours(row.chargedHours)}
        <span className="unit">h</span>
      </td>
      <td className="pl-6">
        <Lean behind={behind} of={Math.max(row.entitledHours + row.givenHours, row.chargedHours)} />
        <span className={behind > 0.05 ? '' : 'text-soft'}>{behindWords(row)}</span>
      </td>
      <td className="whitespace-nowrap text-right">
        {timesWords(row.multiplier)}
        <WhyMark
          note={{
            title: `${row.memberName}, ${SKY_WORDS[row.skyClass]}: ${timesWords(row.multiplier)}`,
            paragraphs: multiplierReasons(row, fairness),
          }}
        />
      </td>
    </>
  );
}

/** A bar from the middle: left for behind, right for ahead, its length the share of the hours that are owed. */
function Lean({ behind, of }: { behind: number; of: number }) {
  const share = of > 0 ? Math.max(-1, Math.min(1, behind / of)) : 0;
  return (
    <span aria-hidden className="relative mr-3 inline-block h-[8px] w-[96px] align-middle">
      <span className="absolute inset-y-0 left-1/2 w-px bg-soft" />
      <span
        className={`absolute inset-y-0 ${share > 0 ? 'bg-brass' : 'border border-soft'}`}
        style={share > 0 ? { right: '50%', width: `${48 * share}px` } : { left: '50%', width: `${-48 * share}px` }}
      />
    </span>
  );
}
