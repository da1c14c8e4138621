import { catalogueAround, catalogueObjects, readNightSky, readObservatory, shelve } from '@meridiem/contract';
import { fieldOf } from '@meridiem/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { useNotice } from '../../app/notices.tsx';
import { useAccount } from '../../app/session.ts';
import { useShownZone } from '../../app/zone.ts';
import { FoundTargets } from '../../targets/FoundTargets.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { framingOfTarget } from '../../targets/framing-address.ts';
import type { FinderTarget } from './components/ChosenTarget.tsx';
import { ChosenTarget } from './components/ChosenTarget.tsx';
import { Filters } from './components/Filters.tsx';
import { MOST_COMPARED, RankedList } from './components/RankedList.tsx';
import { Shelf } from './components/Shelf.tsx';
import { SideBySide } from './components/SideBySide.tsx';
import { WholeSky } from './components/WholeSky.tsx';
import { passing } from './filters.ts';
import { nightsFrom, shorterSideDeg, worthSetting } from '../../targets/worth-setting.ts';
import { useRanking } from './use-ranking.ts';

const VIEWS = [
  ['worth', 'Best targets'],
  ['sky', 'Tonight’s sky'],
  ['shelf', 'The shelf'],
] as const;
const SAMPLED = 500;
const YEAR_NIGHTS = 365;
const ON_THE_CHART = 60;
/** Bright stars that make the whole sky's figures known again. */
const CHART_STARS = { raDeg: 0, decDeg: 0, radiusDeg: 180 };

/** From "what is worth this rig's time" to one target that is framed or kept. */
export default function FinderPage() {
  const [search, change] = useAddress({ replace: true });
  const navigate = useNavigate();
  const notice = useNotice();
  const queryClient = useQueryClient();
  const { role } = useAccount();
  const { data: observatory, error } = useQuery({
    queryKey: ['observatory'],
    queryFn: ({ signal }) => call(readObservatory, { signal }),
  });
  const { data: night } = useQuery({
    queryKey: ['sky', 'tonight'],
    queryFn: ({ signal }) => call(readNightSky, { params: { nightDate: 'tonight' }, signal }),
  });
  const { data: catalogue } = useQuery({
    queryKey: ['catalogue', 'objects'],
    queryFn: ({ signal }) => call(catalogueObjects, { signal }),
    staleTime: Infinity,
  });
  const view = VIEWS.find(([key]) => key === search.get('view'))?.[0] ?? 'worth';
  const { data: around } = useQuery({
    queryKey: ['catalogue', 'around', CHART_STARS],
    queryFn: ({ signal }) => call(catalogueAround, { query: CHART_STARS, signal }),
    staleTime: Infinity,
    enabled: view === 'sky',
  });
  const { zone, words: zoneWords } = useShownZone(observatory?.timeZone ?? 'utc');
  const [typed, setTyped] = useState<FinderTarget | null>(null);

  const rig = observatory?.rigs.find(({ id }) => id === search.get('rig')) ?? observatory?.rigs[0];
  // The observatory is read anew now and then; what is ranked under changes only with what it says.
  const settingKey = observatory && rig ? JSON.stringify([worthSetting(observatory, rig), observatory.tonight]) : null;
  const setting = useMemo(() => (observatory && rig ? worthSetting(observatory, rig) : null), [settingKey]); // eslint-disable-line react-hooks/exhaustive-deps
  const year = useMemo(() => (observatory ? nightsFrom(observatory, YEAR_NIGHTS) : []), [settingKey]); // eslint-disable-line react-hooks/exhaustive-deps
  const targets = useMemo(
    (): FinderTarget[] =>
      (catalogue?.objects ?? []).map(([designation, name, kind, mag, sizeArcmin, raDeg, decDeg, constellation]) => ({
        designation,
        name,
        kind,
        mag,
        sizeArcmin,
        raDeg,
        decDeg,
        constellation,
      })),
    [catalogue],
  );

  const classNames = setting?.classes.map((one) => one.class) ?? [];
  const byClass = Math.max(
    0,
    classNames.findIndex((name) => name === search.get('light')),
  );
  const nightCount = Math.min(90, Math.max(1, Number(search.get('nights')) || 30));
  const fieldDeg = rig ? shorterSideDeg(rig) : 1;
  const order = useMemo(
    () =>
      setting && setting.classes.length > 0 && targets.length > 0
        ? {
            setting,
            wish: {
              objects: targets.map(({ raDeg, decDeg, sizeArcmin }) => ({ raDeg, decDeg, sizeArcmin })),
              nights: year.slice(0, nightCount),
              by: byClass,
              fieldDeg,
              sampled: SAMPLED,
            },
          }
        : null,
    [setting, targets, year, nightCount, byClass, fieldDeg],
  );
  const { ranked, share, tookMs, cancel } = useRanking(order);
  const kinds = useMemo(() => [...new Set(targets.map(({ kind }) => kind))].sort(), [targets]);
  const rows = useMemo(
    () =>
      ranked && setting && year[0] ? passing(ranked, targets, search, { site: setting.site, night: year[0] }) : [],
    [ranked, targets, search, setting, year],
  );

  if (error) return <Failure words={wordsOf(error)} />;
  if (!observatory || !setting || !night) return <Loading what="the catalogue" rows={8} />;
  if (!rig)
    return <Empty title="There is no rig to choose targets for yet.">Add the first one on the Observatory page.</Empty>;
  if (setting.classes.length === 0)
    return <Empty title="This rig has no filters.">Say on the Observatory page which filters its wheel carries.</Empty>;

  const named = search.get('target');
  const chosen =
    typed && typed.designation === named ? typed : (targets.find(({ designation }) => designation === named) ?? null);
  const choose = (target: FinderTarget): void => {
    setTyped(target);
    change({ target: target.designation });
  };
  const compared = comparedIn(search);
  const compare = ({ designation }: FinderTarget): void => {
    // From the address itself: two choices in quick succession both hold.
    const now = comparedIn(new URLSearchParams(window.location.search));
    const next = now.includes(designation)
      ? now.filter((other) => other !== designation)
      : [...now, designation].slice(0, MOST_COMPARED);
    change({ beside: next.join(',') });
  };
  const keep = (target: FinderTarget): void =>
    void call(shelve, {
      body: {
        name: target.name ?? target.designation,
        raDeg: target.raDeg,
        decDeg: target.decDeg,
        sizeArcmin: target.sizeArcmin,
      },
    }).then(
      () => {
        notice(`${target.name ?? target.designation} is on the shelf`);
        void queryClient.invalidateQueries({ queryKey: ['shelf'] });
      },
      (failure: unknown) => notice(wordsOf(failure), true),
    );
  const framingOf = (target: FinderTarget): string => framingOfTarget(rig.id, target);
  const shared = { setting, classNames, byClass, sky: night.sky, zone, nights: year, fieldDeg };
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl">Finder</h1>
        <nav aria-label="Ways to find" className="flex gap-4">
          {VIEWS.map(([key, words]) => (
            <button
              key={key}
              type="button"
              aria-current={view === key ? 'page' : undefined}
              className={`cursor-pointer pb-0.5 ${view === key ? 'border-b-2 border-brass font-semibold' : 'text-soft hover:text-ink'}`}
              onClick={() => change({ view: key === 'worth' ? null : key })}
            >
              {words}
            </button>
          ))}
        </nav>
        <div className="relative ml-auto">
          <SoughtTarget onChoose={choose} />
        </div>
      </div>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <label>
          <span className="text-soft">for</span>{' '}
          <select value={rig.id} onChange={(event) => change({ rig: event.target.value })}>
            {observatory.rigs.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="text-soft">in the next</span>{' '}
          <select value={nightCount} onChange={(event) => change({ nights: event.target.value })}>
            {[7, 14, 30, 60, 90].map((count) => (
              <option key={count} value={count}>
                {count} nights
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="text-soft">through</span>{' '}
          <select value={classNames[byClass]} onChange={(event) => change({ light: event.target.value })}>
            {classNames.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <Filters search={search} kinds={kinds} onChange={change} />
        <span className="ml-auto text-soft" role="status">
          {share !== null ? (
            <>
              Ranking, {Math.round(100 * share)} %{' '}
              <button type="button" className="act" onClick={cancel}>
                Stop
              </button>
            </>
          ) : (
            tookMs !== null && `${rows.length} targets, times in ${zoneWords}`
          )}
        </span>
      </div>
      <div className="mt-3 grid gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
        <div>
          {view === 'shelf' && (
            <Shelf
              site={setting.site}
              nowUtcMs={observatory.nowUtcMs}
              imageScaleArcsecPerPx={fieldOf(rig).imageScaleArcsecPerPx}
              mayChange={role !== 'guest'}
              onChoose={choose}
            />
          )}
          {view === 'sky' && (
            <WholeSky
              setting={setting}
              sky={night.sky}
              nowUtcMs={night.nowUtcMs}
              zone={zone}
              stars={(around?.stars ?? []).filter(([, , mag]) => mag < 4.2)}
              targets={rows.slice(0, ON_THE_CHART).map(({ target }) => target)}
              chosen={chosen}
              onChoose={choose}
            />
          )}
          {view === 'worth' &&
            (ranked === null ? (
              <Loading what="the ranking" rows={10} />
            ) : rows.length === 0 ? (
              <Empty title="Nothing fits.">Ask for fewer limits: another kind, fainter objects, or more nights.</Empty>
            ) : (
              <RankedList
                rows={rows}
                classNames={classNames}
                nights={year}
                chosen={chosen?.designation ?? null}
                compared={compared}
                onChoose={choose}
                onCompare={compare}
              />
            ))}
        </div>
        <aside className="lg:sticky lg:top-4 lg:self-start">
          {chosen ? (
            <ChosenTarget target={chosen} nowUtcMs={night.nowUtcMs} {...shared}>
              {role !== 'guest' && (
                <p className="mt-4 flex flex-wrap gap-3">
                  <button type="button" className="act act-strong" onClick={() => void navigate(framingOf(chosen))}>
                    Frame it
                  </button>
                  <button type="button" className="act" onClick={() => keep(chosen)}>
                    Save to shelf
                  </button>
                </p>
              )}
            </ChosenTarget>
          ) : (
            <Empty title="Choose a target.">Its night, its year and the Moon’s effect appear here.</Empty>
          )}
        </aside>
      </div>
      {compared.length > 0 && (
        <SideBySide
          targets={targets.filter(({ designation }) => compared.includes(designation))}
          onRemove={compare}
          {...shared}
        />
      )}
    </>
  );
}

const comparedIn = (search: URLSearchParams): string[] =>
  (search.get('beside') ?? '').split(',').filter((designation) => designation !== '');

function SoughtTarget({ onChoose }: { onChoose: (target: FinderTarget) => void }) {
  const [sought, setSought] = useState('');
  return (
    <>
      <label>
        <span className="text-soft">look up</span>{' '}
        <input
          className="w-64"
          value={sought}
          placeholder="name, number, or coordinates"
          onChange={(event) => setSought(event.target.value)}
        />
      </label>
      <FoundTargets
        sought={sought}
        className="absolute right-0 z-10 mt-1 max-h-72 w-[420px] overflow-auto border border-hairline bg-raised p-2 shadow-lg"
        onChoose={(target) => {
          setSought('');
          onChoose(target);
        }}
      />
    </>
  );
}
