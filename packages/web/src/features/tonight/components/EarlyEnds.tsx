import type { EarlyEnds as Ends } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useAccount } from '../../../app/session.ts';
import { clock, percent } from '../../../words/format.ts';
import { chanceWords, priceWords } from '../early-end-words.ts';
import { useEarlyEnds } from '../queries.ts';

interface EarlyEndsProps {
  readonly rigId: string;
  readonly rigName: string;
  readonly nightDate: string;
  readonly zone: string;
}

/** What a rig's night holds wherever it is cut, worked out once it is opened; and the chance that plans allow for. */
export function EarlyEnds({ rigId, rigName, nightDate, zone }: EarlyEndsProps) {
  const [isOpen, setIsOpen] = useState(false);
  const { ends, edit } = useEarlyEnds(rigId, nightDate, isOpen);
  return (
    <section aria-label={`If the night ends early, ${rigName}`} className="no-print mt-4">
      <h3 className="rule pb-1 text-base">
        <button type="button" className="cursor-pointer" aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
          If the night ends early {isOpen ? '−' : '+'}
        </button>
      </h3>
      {isOpen && ends.isPending && <p className="text-soft">Planning this night once for each hour it might end</p>}
      {isOpen && ends.error && (
        <p role="alert" className="text-signal">
          {wordsOf(ends.error)}
        </p>
      )}
      {isOpen && ends.data && (
        <>
          <Chance ends={ends.data} edit={edit} />
          {ends.data.cuts.length > 0 && <Cuts cuts={ends.data.cuts} zone={zone} />}
        </>
      )}
    </section>
  );
}

const CHANCES = [0, 2, 5, 10, 20, 30];

function Chance({ ends, edit }: { ends: Ends; edit: (chancePercent: number) => Promise<unknown> }) {
  const { chancePercent, price } = ends;
  const { role } = useAccount();
  const notice = useNotice();
  const [asked, setAsked] = useState<number | null>(null);
  const choices = CHANCES.includes(chancePercent) ? CHANCES : [...CHANCES, chancePercent].toSorted((a, b) => a - b);
  const save = (next: number): void => {
    setAsked(next);
    void edit(next)
      .catch((error: unknown) => notice(wordsOf(error), true))
      .finally(() => setAsked(null));
  };
  return (
    <>
      <label className="mt-1 block">
        Plans allow for{' '}
        {role === 'coordinator' ? (
          <select
            aria-label="Chance that a night ends within an hour"
            value={asked ?? chancePercent}
            onChange={(event) => save(Number(event.target.value))}
          >
            {choices.map((chance) => (
              <option key={chance} value={chance}>
                {chanceWords(chance)}
              </option>
            ))}
          </select>
        ) : (
          chanceWords(chancePercent)
        )}
      </label>
      <p className="text-soft" aria-live="polite">
        {asked === null ? priceWords(price) : 'Planning again'}
      </p>
    </>
  );
}

const Cuts = ({ cuts, zone }: { cuts: Ends['cuts']; zone: string }) => (
  <table className="mt-1 w-full">
    <thead>
      <tr className="rule">
        <th scope="col">ends at</th>
        <th scope="col">exposures held</th>
        <th scope="col" className="text-right">
          of the best possible
        </th>
      </tr>
    </thead>
    <tbody>
      {cuts.map(({ utcMs, exposures, heldShare }) => (
        <tr key={utcMs} className="rule">
          <td>{clock(utcMs, zone)}</td>
          <td>
            {exposures.length === 0 && 'none'}
            {exposures.map(({ filterLetter, count }) => (
              <span key={filterLetter} className="mr-3 whitespace-nowrap">
                {filterLetter} {count}
              </span>
            ))}
          </td>
          <td className="text-right">{percent(heldShare)}</td>
        </tr>
      ))}
    </tbody>
  </table>
);
