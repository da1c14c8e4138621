import type { Person, ShareSwap, Standing } from '@meridiem/contract';
import { useState } from 'react';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import { dayOf, hours } from '../../../words/format.ts';
import { SKY_WORDS } from '../../../words/shares.ts';
import type { ShareActs } from '../queries.ts';
import { advisedSwaps } from '../view-model.ts';
import { SwapDates } from './SwapDates.tsx';

interface SwapsProps {
  readonly standing: Standing;
  readonly people: readonly Person[];
  readonly youId: string;
  readonly isGuest: boolean;
  readonly isCoordinator: boolean;
  readonly acts: ShareActs;
}

/** Hours given and swapped: what is offered, what would be worth offering, what was done. */
export function Swaps({ standing, people, youId, isGuest, isCoordinator, acts }: SwapsProps) {
  const notice = useNotice();
  const attempt = (work: Promise<unknown>, done: string): void =>
    void work.then(
      () => notice(done),
      (error: unknown) => notice(wordsOf(error), true),
    );
  const nameOf = (id: string): string => people.find((person) => person.id === id)?.name ?? 'another member';
  const rigName = (id: string): string => standing.counted.find(({ rigId }) => rigId === id)?.rigName ?? '';
  const advice = advisedSwaps(standing);
  return (
    <section aria-label="Hours given and swapped" className="mt-10">
      <h2 className="text-xl">Hours given and swapped</h2>
      {standing.swaps.map((swap) => (
        <OfferedSwap
          key={swap.id}
          swap={swap}
          youId={youId}
          rigName={rigName(swap.rigId)}
          acts={acts}
          attempt={attempt}
          people={people}
        />
      ))}
      {advice.length > 0 && (
        <ul aria-label="Suggested swaps" className="mt-2">
          {advice.map(({ rigId, givesBrightId, givesDarkId, brightHours, darkHours }) => (
            <li key={`${rigId} ${givesBrightId} ${givesDarkId}`} className="max-w-[75ch]">
              A swap on {rigName(rigId)} would bring both nearer to their shares: {nameOf(givesBrightId)} gives{' '}
              {hours(brightHours)} h moonlit, {nameOf(givesDarkId)} gives {hours(darkHours)} h moonless.{' '}
              {(youId === givesBrightId || youId === givesDarkId) && (
                <button
                  type="button"
                  className="act"
                  onClick={() =>
                    attempt(
                      acts.propose({
                        rigId,
                        toId: youId === givesBrightId ? givesDarkId : givesBrightId,
                        givesSky: youId === givesBrightId ? 'bright' : 'dark',
                        givesHours: rounded(youId === givesBrightId ? brightHours : darkHours),
                        getsHours: rounded(youId === givesBrightId ? darkHours : brightHours),
                        words: '',
                      }),
                      'Swap offered',
                    )
                  }
                >
                  Offer this swap
                </button>
              )}
              {(isCoordinator || youId === givesBrightId || youId === givesDarkId) && (
                <SwapDates
                  people={people}
                  swap={{
                    rigId,
                    fromId: givesBrightId,
                    toId: givesDarkId,
                    givesSky: 'bright',
                    givesHours: rounded(brightHours),
                    getsHours: rounded(darkHours),
                  }}
                />
              )}
            </li>
          ))}
        </ul>
      )}
      {standing.gifts.length > 0 && (
        <ul aria-label="Hours given" className="mt-2">
          {standing.gifts.map((gift) => (
            <li key={gift.id} className="rule flex flex-wrap gap-x-3 py-1">
              <span className="text-soft">{dayOf(gift.nightDate)}</span>
              <span>
                {gift.fromName} gave {gift.toName} {hours(gift.hours)} h {SKY_WORDS[gift.skyClass]} on{' '}
                {rigName(gift.rigId)}
                {gift.isOfSwap && ' (swap)'}
              </span>
              {gift.words && <span className="italic">{gift.words}</span>}
            </li>
          ))}
        </ul>
      )}
      {standing.gifts.length === 0 && standing.swaps.length === 0 && advice.length === 0 && (
        <p className="text-soft">No hours were given or swapped.</p>
      )}
      {!isGuest && <GiveForm standing={standing} people={people} youId={youId} acts={acts} />}
    </section>
  );
}

const rounded = (value: number): number => Math.round(value * 10) / 10;

interface OfferedSwapProps {
  readonly swap: ShareSwap;
  readonly youId: string;
  readonly rigName: string;
  readonly acts: ShareActs;
  readonly attempt: (work: Promise<unknown>, done: string) => void;
  readonly people: readonly Person[];
}

function OfferedSwap({ swap, youId, rigName, acts, attempt, people }: OfferedSwapProps) {
  const isYours = swap.fromId === youId;
  const gives = `${hours(swap.givesHours)} h ${SKY_WORDS[swap.givesSky]}`;
  const gets = `${hours(swap.getsHours)} h ${SKY_WORDS[swap.getsSky]}`;
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-3 border-l-2 border-brass pl-3">
      <p>
        {isYours
          ? `You offered ${swap.toName} ${gives} for ${gets} on ${rigName}.`
          : `${swap.fromName} offers you ${gives} for ${gets} of yours on ${rigName}.`}
        {swap.words && <span className="italic"> {swap.words}</span>}
      </p>
      {isYours ? (
        <button
          type="button"
          className="act"
          onClick={() => attempt(acts.answer(swap.id, 'withdrawn'), 'Offer withdrawn')}
        >
          Withdraw offer
        </button>
      ) : (
        <>
          <button
            type="button"
            className="act act-strong"
            onClick={() => attempt(acts.answer(swap.id, 'accepted'), 'Hours swapped')}
          >
            Accept swap
          </button>
          <button
            type="button"
            className="act"
            onClick={() => attempt(acts.answer(swap.id, 'declined'), 'Swap declined')}
          >
            Decline swap
          </button>
        </>
      )}
      <SwapDates swap={swap} people={people} />
    </div>
  );
}

/** Gives hours, or offers them for hours of the other sky. */
function GiveForm({ standing, people, youId, acts }: Omit<SwapsProps, 'isGuest' | 'isCoordinator'>) {
  const others = people.filter(({ id, role, suspended }) => id !== youId && role !== 'guest' && !suspended);
  const unwritten = {
    rigId: standing.counted[0]?.rigId ?? '',
    toId: '',
    sky: 'dark' as const,
    hours: '',
    back: '',
    words: '',
  };
  const [written, setWritten] =
    useState<{ [K in keyof typeof unwritten]: K extends 'sky' ? 'dark' | 'bright' : string }>(unwritten);
  const [problem, setProblem] = useState<{ field: string | null; words: string } | null>(null);
  const notice = useNotice();
  const number = (text: string): number => Number(text.replace(',', '.').replace('h', '').trim());
  const send = async (): Promise<void> => {
    const given = number(written.hours);
    const { rigId, toId, sky, words } = written;
    if (!toId) return setProblem({ field: 'toId', words: 'Choose a member' });
    if (!(given > 0)) return setProblem({ field: 'hours', words: 'Write hours like 2.5' });
    if (written.back && !(number(written.back) > 0))
      return setProblem({ field: 'back', words: 'Write hours like 2.5' });
    try {
      if (written.back)
        await acts.propose({ rigId, toId, givesSky: sky, givesHours: given, getsHours: number(written.back), words });
      else await acts.give({ rigId, toId, skyClass: sky, hours: given, words });
      notice(written.back ? 'Swap offered' : 'Hours given');
      setWritten(unwritten);
      setProblem(null);
    } catch (error) {
      setProblem({ field: error instanceof ApiError ? (error.field ?? null) : null, words: wordsOf(error) });
    }
  };
  const of = (field: string): string | undefined => (problem?.field === field ? problem.words : undefined);
  const write = (fields: Partial<typeof written>): void => {
    setWritten((now) => ({ ...now, ...fields }));
    setProblem(null);
  };
  return (
    <form
      aria-label="Give or swap hours"
      className="mt-3 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <Labelled label="Give to" error={of('toId')}>
        <select value={written.toId} onChange={(event) => write({ toId: event.target.value })}>
          <option value="">choose</option>
          {others.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="Rig" error={of('rigId')}>
        <select value={written.rigId} onChange={(event) => write({ rigId: event.target.value })}>
          {standing.counted.map(({ rigId, rigName }) => (
            <option key={rigId} value={rigId}>
              {rigName}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="Sky" error={undefined}>
        <select value={written.sky} onChange={(event) => write({ sky: event.target.value as 'dark' | 'bright' })}>
          <option value="dark">moonless</option>
          <option value="bright">moonlit</option>
        </select>
      </Labelled>
      <Labelled label="Hours" error={of('hours')}>
        <input
          className="w-16 text-right"
          value={written.hours}
          onChange={(event) => write({ hours: event.target.value })}
        />
      </Labelled>
      <Labelled
        label={`For ${written.sky === 'dark' ? 'moonlit' : 'moonless'} hours, empty for none`}
        error={of('back')}
      >
        <input
          className="w-16 text-right"
          value={written.back}
          onChange={(event) => write({ back: event.target.value })}
        />
      </Labelled>
      <Labelled label="Remark" error={of('words')}>
        <input value={written.words} maxLength={300} onChange={(event) => write({ words: event.target.value })} />
      </Labelled>
      <button type="submit" className="act">
        {written.back ? 'Offer swap' : 'Give hours'}
      </button>
      {problem && !['toId', 'rigId', 'hours', 'back', 'words'].includes(problem.field ?? '') && (
        <span role="alert" className="text-signal">
          {problem.words}
        </span>
      )}
    </form>
  );
}
