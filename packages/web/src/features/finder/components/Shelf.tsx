import type { ShelvedTarget } from '@meridiem/contract';
import { addTheme, editTheme, readShelf, shelveOrbits, unshelve } from '@meridiem/contract';
import type { Site } from '@meridiem/core';
import {
  formatDeclination,
  formatRightAscension,
  longestUntrailedSec,
  movingPlace,
  movingRate,
  orbitWarnings,
} from '@meridiem/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Empty, Failure, Loading } from '../../../ui/states.tsx';
import { degrees } from '../../../words/format.ts';
import type { FinderTarget } from './ChosenTarget.tsx';

interface ShelfProps {
  readonly site: Site;
  readonly nowUtcMs: number;
  readonly imageScaleArcsecPerPx: number;
  readonly mayChange: boolean;
  readonly onChoose: (target: FinderTarget) => void;
}

const WARNINGS = {
  OLD_ELEMENTS: 'its elements are old: fetch newer ones before pointing',
  NEAR_EARTH: 'nearer than 0.2 AU: these elements are good for hours only',
  NO_EPOCH: 'the line names no epoch, so its age is unknown',
} as const;

/** Targets kept for later, with themes; what moves among them with its place now. */
export function Shelf({ site, nowUtcMs, imageScaleArcsecPerPx, mayChange, onChoose }: ShelfProps) {
  const queryClient = useQueryClient();
  const notice = useNotice();
  const { data, error } = useQuery({ queryKey: ['shelf'], queryFn: ({ signal }) => call(readShelf, { signal }) });
  const changed = (work: Promise<unknown>): Promise<void> =>
    work.then(
      () => queryClient.invalidateQueries({ queryKey: ['shelf'] }),
      (failure: unknown) => notice(wordsOf(failure), true),
    );
  if (error) return <Failure words={wordsOf(error)} />;
  if (!data) return <Loading what="the shelf" rows={4} />;
  const placed = data.targets.map((target) => ({ target, place: placeOf(target, site, nowUtcMs) }));
  return (
    <section aria-label="The shelf">
      {data.targets.length === 0 ? (
        <Empty title="Nothing on the shelf yet.">Choose a target in the list and keep it here for later.</Empty>
      ) : (
        <table className="w-full">
          <thead>
            <tr className="rule">
              <th>target</th>
              <th>place now (J2000)</th>
              <th>moves</th>
              <th>themes</th>
              <th>projects</th>
              <th aria-label="Actions" />
            </tr>
          </thead>
          <tbody>
            {placed.map(({ target, place }) => (
              <tr key={target.id} className="rule">
                <td>
                  <button
                    type="button"
                    className="word-link cursor-pointer font-semibold"
                    onClick={() =>
                      onChoose({
                        designation: target.name,
                        name: null,
                        kind: target.orbit ? target.orbit.kind.replace('_', ' ') : 'kept target',
                        mag: null,
                        sizeArcmin: target.sizeArcmin,
                        constellation: null,
                        ...place,
                      })
                    }
                  >
                    {target.name}
                  </button>
                </td>
                <td className="whitespace-nowrap">
                  {formatRightAscension(place.raDeg)}, {formatDeclination(place.decDeg)}
                </td>
                <td>
                  {target.orbit && (
                    <Motion target={target} site={site} nowUtcMs={nowUtcMs} scale={imageScaleArcsecPerPx} />
                  )}
                </td>
                <td>
                  {data.themes.map((theme) => {
                    const own = target.themeIds.includes(theme.id);
                    const members = data.targets
                      .filter(({ themeIds }) => themeIds.includes(theme.id))
                      .map(({ id }) => id);
                    return (
                      <label key={theme.id} className="mr-3 whitespace-nowrap">
                        <input
                          type="checkbox"
                          checked={own}
                          disabled={!mayChange}
                          onChange={() =>
                            void changed(
                              call(editTheme, {
                                params: { id: theme.id },
                                body: {
                                  targetIds: own ? members.filter((id) => id !== target.id) : [...members, target.id],
                                },
                              }),
                            )
                          }
                        />{' '}
                        {theme.name} <span className="text-soft">({theme.take === 'any' ? 'any one' : 'all'})</span>
                      </label>
                    );
                  })}
                </td>
                <td>{target.projects || ''}</td>
                <td>
                  {target.composition && (
                    <Link className="word-link mr-3" to={`/framing?${target.composition}`}>
                      As framed
                    </Link>
                  )}
                  {mayChange && (
                    <Link className="act mr-2 inline-block" to={`/projects?new=1&target=${target.id}`}>
                      New project
                    </Link>
                  )}
                  {mayChange && (
                    <button
                      type="button"
                      className="act"
                      onClick={() => void changed(call(unshelve, { params: { id: target.id } }))}
                    >
                      Take off
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {mayChange && (
        <div className="mt-6 grid gap-8 md:grid-cols-2">
          <OrbitForm onDone={() => void queryClient.invalidateQueries({ queryKey: ['shelf'] })} />
          <ThemeForm onDone={() => void queryClient.invalidateQueries({ queryKey: ['shelf'] })} />
        </div>
      )}
    </section>
  );
}

const placeOf = (target: ShelvedTarget, site: Site, utcMs: number): { raDeg: number; decDeg: number } =>
  target.orbit
    ? movingPlace(target.orbit, utcMs, site).position
    : { raDeg: target.raDeg ?? 0, decDeg: target.decDeg ?? 0 };

function Motion({
  target,
  site,
  nowUtcMs,
  scale,
}: {
  target: ShelvedTarget;
  site: Site;
  nowUtcMs: number;
  scale: number;
}) {
  const orbit = target.orbit!;
  const rate = movingRate(orbit, nowUtcMs, site);
  const { distanceAu } = movingPlace(orbit, nowUtcMs, site);
  const { ageDays, warnings } = orbitWarnings(orbit, nowUtcMs, distanceAu);
  return (
    <>
      {rate.arcsecPerMin.toFixed(2)}″ a minute towards {degrees(rate.positionAngleDeg, 0)}; {distanceAu.toFixed(2)} AU
      away; at most {Math.floor(longestUntrailedSec(rate, scale))} s before it trails by a pixel
      {ageDays !== null && <span className="text-soft">; elements {ageDays.toFixed(0)} days old</span>}
      {warnings.map((warning) => (
        <span key={warning} className="block text-signal">
          {WARNINGS[warning]}
        </span>
      ))}
    </>
  );
}

function OrbitForm({ onDone }: { onDone: () => void }) {
  const [text, setText] = useState('');
  const [answer, setAnswer] = useState<readonly string[]>([]);
  const keep = async (): Promise<void> => {
    try {
      const { names, problems } = await call(shelveOrbits, { body: { text } });
      setAnswer([
        ...(names.length > 0 ? [`Kept: ${names.join(', ')}.`] : []),
        ...problems.map(({ lineNumber, words }) => `Line ${lineNumber}: ${words}.`),
      ]);
      if (problems.length === 0) setText('');
      onDone();
    } catch (failure) {
      setAnswer([wordsOf(failure)]);
    }
  };
  return (
    <form
      aria-label="Add comets and minor planets"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <label className="grid gap-1">
        <span>Comets and minor planets by their one-line orbits</span>
        <textarea
          rows={4}
          className="w-full font-mono text-xs"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <label className="mt-1 block text-soft">
        or a file of them <input type="file" onChange={(event) => void event.target.files?.[0]?.text().then(setText)} />
      </label>
      <button type="submit" className="act mt-2" disabled={text.trim() === ''}>
        Keep them
      </button>
      {answer.map((line) => (
        <p key={line} role="status" className="mt-1">
          {line}
        </p>
      ))}
    </form>
  );
}

function ThemeForm({ onDone }: { onDone: () => void }) {
  const [name, setName] = useState('');
  const [take, setTake] = useState<'any' | 'all'>('any');
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <form
      aria-label="A new theme"
      onSubmit={(event) => {
        event.preventDefault();
        void call(addTheme, { body: { name, take } }).then(
          () => {
            setName('');
            onDone();
          },
          (failure: unknown) => setProblem(wordsOf(failure)),
        );
      }}
    >
      <label className="grid gap-1">
        <span>A new theme</span>
        <input
          value={name}
          onChange={(event) => {
            setName(event.target.value);
            setProblem(null);
          }}
        />
      </label>
      <label className="mt-2 block">
        <span className="text-soft">wanted of it</span>{' '}
        <select value={take} onChange={(event) => setTake(event.target.value as typeof take)}>
          <option value="any">any one of its targets</option>
          <option value="all">all of its targets</option>
        </select>
      </label>
      {problem && (
        <p role="alert" className="text-signal">
          {problem}
        </p>
      )}
      <button type="submit" className="act mt-2" disabled={name.trim() === ''}>
        Add the theme
      </button>
    </form>
  );
}
