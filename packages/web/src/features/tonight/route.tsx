import { useEffect } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { wordsOf } from '../../app/api.ts';
import { listenForCommands } from '../../app/commands.ts';
import { useShownZone } from '../../app/zone.ts';
import { Failure, Loading } from '../../ui/states.tsx';
import { dayOf, longDayOf, nightAfter } from '../../words/format.ts';
import { EveryProject } from './components/EveryProject.tsx';
import { ForecastLine } from './components/ForecastLine.tsx';
import { RigNight } from './components/RigNight.tsx';
import { useNight } from './queries.ts';
import { skyFacts } from './view-model.ts';

/** A night: its sky, and each rig's plan with what is left out and why. */
export default function TonightPage() {
  const { nightDate = 'tonight' } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const [wish, against] = [search.get('plan') ?? undefined, search.get('against') ?? undefined];
  const choose = (key: 'plan' | 'against') => (value: string | undefined) =>
    setSearch((now) => {
      const next = new URLSearchParams(now);
      if (value) next.set(key, value);
      else next.delete(key);
      return next;
    });
  const { data, error, isPending, refetch } = useNight(nightDate, wish);
  const shown = data?.sky.nightDate;
  const { zone, words: zoneWords } = useShownZone(data?.timeZone ?? 'utc');
  useEffect(() => {
    if (!shown) return;
    const go = (nights: number) => () => void navigate(`/nights/${nightAfter(shown, nights)}`);
    return listenForCommands([
      { words: 'The night before', keys: '[', run: go(-1) },
      { words: 'The night after', keys: ']', run: go(1) },
      { words: 'Print this night’s plan', keys: 'gq', run: () => window.print() },
    ]);
  }, [shown, navigate]);
  if (isPending) return <Loading what="the night" rows={8} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const { sky, nowUtcMs, isTonight, isEstimate, rigs } = data;
  return (
    <>
      <div className="flex items-baseline gap-4">
        <h1 className="text-2xl">{isTonight ? `Tonight, ${dayOf(sky.nightDate)}` : longDayOf(sky.nightDate)}</h1>
        {isEstimate && <span className="font-serif text-lg italic text-soft">an estimate</span>}
        <span className="no-print ml-auto flex gap-4 text-soft">
          <button type="button" className="word-link cursor-pointer" onClick={() => window.print()}>
            print
          </button>
          <Link className="word-link" to={`/nights/${nightAfter(sky.nightDate, -1)}`}>
            night before <kbd className="font-sans text-xs">[</kbd>
          </Link>
          {!isTonight && (
            <Link className="word-link" to="/tonight">
              tonight
            </Link>
          )}
          <Link className="word-link" to={`/nights/${nightAfter(sky.nightDate, 1)}`}>
            night after <kbd className="font-sans text-xs">]</kbd>
          </Link>
        </span>
      </div>
      <div className="mt-2 flex flex-wrap justify-between gap-x-8">
        <dl className="flex flex-wrap gap-x-8 gap-y-1">
          {skyFacts(sky, zone).map(({ name, value }) => (
            <div key={name} className="flex gap-2">
              <dt className="text-soft">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
        <p className="text-soft">
          times in {zoneWords} <kbd className="font-sans text-xs">tz</kbd>
        </p>
      </div>
      <ForecastLine sky={sky} zone={zone} />
      {rigs.map((plan) => (
        <RigNight
          key={plan.rigId}
          plan={plan}
          sky={sky}
          zone={zone}
          nowUtcMs={nowUtcMs}
          isTonight={isTonight}
          isOpen={isTonight || isEstimate}
          against={against}
          onWish={choose('plan')}
          onAgainst={choose('against')}
        />
      ))}
      <EveryProject nightDate={sky.nightDate} zone={zone} />
    </>
  );
}
