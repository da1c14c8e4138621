import type { Person, SharePeriod, Standing } from '@meridiem/contract';
import type { SharedSky } from '@meridiem/core';
import { useState } from 'react';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import { percent } from '../../../words/format.ts';
import type { PeriodFields, ShareActs } from '../queries.ts';
import { spanWords, typedShare } from '../view-model.ts';
import { DateField } from '../../../ui/DateField.tsx';

interface SharePeriodsProps {
  readonly standing: Standing;
  readonly people: readonly Person[];
  readonly tonight: string;
  readonly mayEdit: boolean;
  readonly acts: ShareActs;
}

/** Periods with agreed shares, and the form that agrees on another. */
export function SharePeriods({ standing, people, tonight, mayEdit, acts }: SharePeriodsProps) {
  const [open, setOpen] = useState<string | 'new' | null>(null);
  const notice = useNotice();
  const nameOf = (memberId: string): string => people.find(({ id }) => id === memberId)?.name ?? 'a former member';
  const remove = (id: string): void =>
    void acts.removePeriod(id).catch((error: unknown) => notice(wordsOf(error), true));
  return (
    <section aria-label="Agreed shares" className="mt-10">
      <h2 className="text-xl">Agreed shares</h2>
      {standing.periods.length === 0 && <p className="text-soft">No shares are agreed; all members have the same.</p>}
      <ul className="mt-1">
        {standing.periods.map((period) => (
          <li key={period.id} className="rule py-2">
            <div className="flex flex-wrap items-baseline gap-x-4">
              <span>{spanWords(period)}</span>
              <span className="text-soft">{shareLine(period, nameOf, standing)}</span>
              {mayEdit && (
                <span className="ml-auto flex gap-2">
                  <button type="button" className="act" onClick={() => setOpen(open === period.id ? null : period.id)}>
                    Change shares
                  </button>
                  <button type="button" className="act" onClick={() => remove(period.id)}>
                    Remove period
                  </button>
                </span>
              )}
            </div>
            {open === period.id && (
              <PeriodForm
                period={period}
                people={people}
                onSave={(fields) => acts.editPeriod(period.id, fields)}
                onClose={() => setOpen(null)}
              />
            )}
          </li>
        ))}
      </ul>
      {mayEdit &&
        (open === 'new' ? (
          <PeriodForm
            period={{ firstNight: tonight, lastNight: null, allotments: [] }}
            people={people}
            onSave={acts.addPeriod}
            onClose={() => setOpen(null)}
          />
        ) : (
          <button type="button" className="act mt-2" onClick={() => setOpen('new')}>
            Agree on shares
          </button>
        ))}
    </section>
  );
}

const shareLine = (
  { allotments }: SharePeriod,
  nameOf: (id: string) => string,
  { counted }: Pick<Standing, 'counted'>,
): string =>
  allotments
    .map(({ memberId, rigId, skyClass, share }) => {
      const only = [
        counted.find((rig) => rig.rigId === rigId)?.rigName,
        skyClass && { dark: 'moonless', bright: 'moonlit' }[skyClass],
      ].filter(Boolean);
      return `${nameOf(memberId)} ${percent(share)}${only.length > 0 ? ` (${only.join(', ')})` : ''}`;
    })
    .join(' · ');

interface PeriodFormProps {
  readonly period: PeriodFields;
  readonly people: readonly Person[];
  readonly onSave: (fields: PeriodFields) => Promise<unknown>;
  readonly onClose: () => void;
}

/** One share for each member; where a sky has shares of its own, two. */
function PeriodForm({ period, people, onSave, onClose }: PeriodFormProps) {
  const members = people.filter(({ role, suspended }) => role !== 'guest' && !suspended);
  const rigShares = period.allotments.filter(({ rigId }) => rigId !== null);
  const [bySky, setBySky] = useState(
    period.allotments.some(({ rigId, skyClass }) => rigId === null && skyClass !== null),
  );
  const [span, setSpan] = useState({ firstNight: period.firstNight, lastNight: period.lastNight ?? '' });
  const [typed, setTyped] = useState<Record<string, string>>(() => textsOf(period));
  const [problem, setProblem] = useState<{ field: string | null; words: string } | null>(null);
  const skies = bySky ? (['dark', 'bright'] as const) : ([null] as const);
  const sums = skies.map((sky) => members.reduce((sum, { id }) => sum + (typedShare(textOf(typed, id, sky)) ?? 0), 0));
  const save = async (): Promise<void> => {
    const cells = members.flatMap(({ id, name }) =>
      skies.map((sky) => ({ id, name, sky, text: textOf(typed, id, sky) })),
    );
    const wrong = cells.find(({ text }) => text.trim() !== '' && typedShare(text) === null);
    if (wrong)
      return setProblem({
        field: 'allotments',
        words: `${wrong.name}: “${wrong.text}” is no percentage from 0 to 100`,
      });
    const allotments = cells.flatMap(({ id, sky, text }) => {
      const share = typedShare(text);
      return share === null ? [] : [{ memberId: id, rigId: null, skyClass: sky, share }];
    });
    try {
      await onSave({ firstNight: span.firstNight, lastNight: span.lastNight || null, allotments: [...allotments, ...rigShares] }); // prettier-ignore
      onClose();
    } catch (error) {
      setProblem({ field: error instanceof ApiError ? (error.field ?? null) : null, words: wordsOf(error) });
    }
  };
  const of = (field: string): string | undefined => (problem?.field === field ? problem.words : undefined);
  return (
    <form
      aria-label="Shares of a period"
      className="mt-3 max-w-3xl"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className="flex flex-wrap items-end gap-4">
        <Labelled label="First night" error={of('firstNight')}>
          <DateField value={span.firstNight} onChange={(firstNight) => setSpan({ ...span, firstNight })} />
        </Labelled>
        <Labelled label="Last night, empty for none" error={of('lastNight')}>
          <DateField
            value={span.lastNight}
            near={span.firstNight}
            onChange={(lastNight) => setSpan({ ...span, lastNight })}
          />
        </Labelled>
        <label className="pb-1">
          <input type="checkbox" checked={bySky} onChange={(event) => setBySky(event.target.checked)} /> different
          shares of moonless and moonlit hours
        </label>
      </div>
      <table className="mt-2">
        <thead>
          <tr className="rule">
            <th scope="col">member</th>
            {skies.map((sky) => (
              <th key={sky ?? 'all'} scope="col" className="text-right">
                {sky === null ? 'share' : sky === 'dark' ? 'moonless' : 'moonlit'}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {members.map(({ id, name }) => (
            <tr key={id}>
              <td>{name}</td>
              {skies.map((sky) => (
                <td key={sky ?? 'all'} className="text-right">
                  <input
                    className="w-16 text-right"
                    aria-label={`${name}: share${sky ? ` of ${sky === 'dark' ? 'moonless' : 'moonlit'} hours` : ''}, percent`}
                    value={textOf(typed, id, sky)}
                    onChange={(event) => {
                      setTyped({ ...typed, [`${id} ${sky ?? ''}`]: event.target.value });
                      setProblem(null);
                    }}
                  />
                  <span className="unit">%</span>
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <td className="text-soft">in all</td>
            {sums.map((sum, i) => (
              <td key={skies[i] ?? 'all'} className={`text-right ${sum > 1.0001 ? 'text-signal' : 'text-soft'}`}>
                {percent(sum)}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p className="text-soft">
        An empty field is no share. Less than 100 % leaves the rest to members who have work at the time.
        {rigShares.length > 0 && ' Shares of single rigs are kept as they are.'}
      </p>
      <div className="mt-2 flex flex-wrap items-baseline gap-3">
        <button type="submit" className="act act-strong">
          Save shares
        </button>
        <button type="button" className="act" onClick={onClose}>
          Cancel
        </button>
        {problem && !['firstNight', 'lastNight'].includes(problem.field ?? '') && (
          <span role="alert" className="text-signal">
            {problem.words}
          </span>
        )}
      </div>
    </form>
  );
}

/** What is typed for a member and a sky; where a sky has nothing of its own, the share of all hours. */
const textOf = (typed: Readonly<Record<string, string>>, memberId: string, sky: SharedSky | null): string =>
  typed[`${memberId} ${sky ?? ''}`] ?? typed[`${memberId} `] ?? '';

const textsOf = ({ allotments }: PeriodFields): Record<string, string> =>
  Object.fromEntries(
    allotments
      .filter(({ rigId }) => rigId === null)
      .map(({ memberId, skyClass, share }) => [`${memberId} ${skyClass ?? ''}`, String(Math.round(share * 1000) / 10)]),
  );
