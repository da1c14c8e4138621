import type { Person, SwapDates as Dates, TriedSwap } from '@meridiem/contract';
import { askSwapDates, readSwapDates } from '@meridiem/contract';
import { Link } from 'react-router';
import { call } from '../../../app/api.ts';
import { useStoredWork } from '../../../app/stored-work.ts';
import { WorkState } from '../../../ui/WorkUnderWay.tsx';
import { endAfterSwap, othersWords } from '../swap-words.ts';

interface SwapDatesProps {
  readonly swap: TriedSwap;
  readonly people: readonly Person[];
}

/** Before anybody agrees: when the projects of both would end, with the swap and without it. Worked out when asked for. */
export function SwapDates({ swap, people }: SwapDatesProps) {
  const { rigId, fromId, toId, givesSky, givesHours, getsHours } = swap;
  const body = { rigId, fromId, toId, givesSky, givesHours, getsHours };
  const work = useStoredWork({
    queryKey: ['swap-dates', body],
    read: (signal) => call(readSwapDates, { body, signal }),
    ask: () => call(askSwapDates, { body }),
    isThere: ({ dates }) => dates !== null,
    isAsked: false,
  });
  const { data, error, isUnasked, isWorking, ask } = work;
  if (error) return null;
  return (
    <div className="mt-1 w-full">
      {data?.dates && <Found dates={data.dates} members={[fromId, toId]} people={people} />}
      {isUnasked && !isWorking && (
        <button type="button" className="word-link cursor-pointer" onClick={ask}>
          What it does to finishing dates
        </button>
      )}
      <WorkState
        work={work}
        words="Comparing the season before and after the swap"
        measured="Seasons compared"
        again="Compare finishing dates"
      />
    </div>
  );
}

function Found({
  dates,
  members,
  people,
}: {
  dates: Dates;
  members: readonly [string, string];
  people: readonly Person[];
}) {
  return (
    <>
      <div className="grid gap-x-8 sm:grid-cols-2">
        {members.map((memberId) => (
          <EndsOf
            key={memberId}
            name={people.find(({ id }) => id === memberId)?.name ?? 'Another member'}
            ends={dates.ends.filter(({ ownerId }) => ownerId === memberId)}
            lastNight={dates.lastNight}
          />
        ))}
      </div>
      <p className="mt-1 text-sm text-soft">
        {othersWords(dates.othersDelayed)} Two seasons of 60 nights, each played out under the same {dates.draws} draws
        of weather; a date moves noticeably where it moves by more than three seeds of the same season differ.
      </p>
    </>
  );
}

function EndsOf({ name, ends, lastNight }: { name: string; ends: Dates['ends']; lastNight: string }) {
  return (
    <section aria-label={`Finishing dates of ${name}`} className="mt-1">
      <h3 className="font-semibold">{name}</h3>
      {ends.length === 0 && <p className="text-soft">No project in the season.</p>}
      <ul>
        {ends.map((end, i) => (
          <li key={end.projectId ?? i} className="rule py-1">
            {end.projectId ? (
              <Link className="word-link" to={`/projects/${end.projectId}`}>
                {end.name}
              </Link>
            ) : (
              'A private project'
            )}
            {': '}
            <span className={end.isNoticeable ? 'text-signal' : end.isSooner ? 'font-semibold' : ''}>
              {endAfterSwap(end, lastNight)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
