import type { Observatory } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { dateOf } from '../../../words/format.ts';
import type { ObservatoryChanges } from '../queries.ts';

interface RetiredListProps {
  readonly observatory: Observatory;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** What is offered no longer; nothing is ever deleted, so everything can come back. */
export function RetiredList({ observatory: { retired, timeZone }, mayEdit, changes }: RetiredListProps) {
  const notice = useNotice();
  if (retired.length === 0) return null;
  return (
    <section aria-label="Retired" className="mt-10">
      <h2 className="text-xl">Retired</h2>
      <ul className="mt-1">
        {retired.map(({ id, what, name, rigName, retiredUtcMs }) => (
          <li key={id} className="rule flex items-baseline gap-3 py-1">
            <span className="w-[110px] text-soft">{what}</span>
            <span className="font-serif">{name}</span>
            {rigName && <span className="text-soft">of {rigName}</span>}
            <span className="ml-auto text-soft">{dateOf(retiredUtcMs, timeZone)}</span>
            {mayEdit && (
              <button
                type="button"
                className="act"
                aria-label={`Bring back ${name}`}
                onClick={() => void changes.restore(id).catch((error) => notice(wordsOf(error), true))}
              >
                Bring back
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
