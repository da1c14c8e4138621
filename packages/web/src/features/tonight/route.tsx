import { useCallback, useEffect, useState } from 'react';
import type { NightSky, RigPlan } from '@meridiem/contract';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { wordsOf } from '../../app/api.ts';
import { listenForCommands } from '../../app/commands.ts';
import { useShownZone } from '../../app/zone.ts';
import { Failure, Loading } from '../../ui/states.tsx';
import { dayOf, longDayOf, nightAfter } from '../../words/format.ts';
import { EveryProject } from './components/EveryProject.tsx';
import { ForecastLine } from './components/ForecastLine.tsx';
import { NightPicture } from './components/NightPicture.tsx';
import { RigNight } from './components/RigNight.tsx';
import type { MarkedBlock } from './night-picture.ts';
import { blockWords, markedBlock, plansSentence } from './night-picture.ts';
import { useNight } from './queries.ts';
import { skyFacts } from './view-model.ts';

/** A night: its sky, and each rig's plan with what is left out and why. */
export default function TonightPage() {
  const { nightDate = 'tonight' } = useParams();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const [wish, against] = [search.get('plan') ?? undefined, search.get('against') ?? undefined];
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
  const { sky, nowUtcMs, isTonight, isEstimate, preparationMin, rigs } = data;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-2xl">{isTonight ? `Tonight, ${dayOf(sky.nightDate)}` : longDayOf(sky.nightDate)}</h1>
        {isEstimate && <span className="font-serif text-lg italic text-soft">an estimate</span>}
        <span className="no-print ml-auto flex flex-wrap gap-x-4 text-soft">
          <button type="button" className="word-link cursor-pointer" onClick={() => window.print()}>
            print
          </button>
          <Link className="word-link whitespace-nowrap" to={`/nights/${nightAfter(sky.nightDate, -1)}`}>
            night before <kbd className="font-sans text-xs">[</kbd>
          </Link>
          {!isTonight && (
            <Link className="word-link whitespace-nowrap" to="/tonight">
              tonight
            </Link>
          )}
          <Link className="word-link whitespace-nowrap" to={`/nights/${nightAfter(sky.nightDate, 1)}`}>
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
      <AllRigs
        rigs={rigs}
        sky={sky}
        zone={zone}
        nowUtcMs={nowUtcMs}
        isTonight={isTonight}
        isOpen={isTonight || isEstimate}
        against={against}
        preparationMin={preparationMin}
      />
      <EveryProject nightDate={sky.nightDate} zone={zone} />
    </>
  );
}

interface AllRigsProps {
  readonly rigs: readonly RigPlan[];
  readonly sky: NightSky;
  readonly zone: string;
  readonly nowUtcMs: number;
  readonly isTonight: boolean;
  readonly isOpen: boolean;
  readonly against: string | undefined;
  /** Before the first stay. */
  readonly preparationMin: number;
}

/** All rigs on one axis: the picture, each rig's row of blocks, the block that is looked at; then each rig's tables. */
function AllRigs({ rigs, sky, zone, nowUtcMs, isTonight, isOpen, against, preparationMin }: AllRigsProps) {
  const [, setSearch] = useSearchParams();
  const set = useCallback(
    (key: 'plan' | 'against', value: string | undefined): void =>
      setSearch((now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      }),
    [setSearch],
  );
  const onWish = useCallback((value: string | undefined) => set('plan', value), [set]);
  const onAgainst = useCallback((value: string | undefined) => set('against', value), [set]);
  const [ahead, setAhead] = useState<Readonly<Record<string, RigPlan>>>({});
  const onPlan = useCallback((plan: RigPlan) => setAhead((now) => (now[plan.rigId] === plan ? now : { ...now, [plan.rigId]: plan })), []); // prettier-ignore
  const [marked, onMark] = useState<MarkedBlock | null>(null);
  const plans = rigs.map((rig) => ahead[rig.rigId] ?? rig);
  const lookedAt = markedBlock(plans, marked);
  const playing = rigs.find(({ run }) => run && ['requested', 'running', 'stopping'].includes(run.state));
  return (
    <>
      <p className="font-serif text-base">{plansSentence(plans, zone, { preparationMin, nowUtcMs })}</p>
      <div className="grid grid-cols-[minmax(0,1fr)]">
        <NightPicture
          plans={plans}
          sky={sky}
          zone={zone}
          nowUtcMs={playing?.run?.clockUtcMs ?? (isTonight ? nowUtcMs : null)}
          marked={marked}
        />
        {rigs.map((plan) => (
          <RigNight
            key={plan.rigId}
            plan={plan}
            sky={sky}
            zone={zone}
            nowUtcMs={nowUtcMs}
            isTonight={isTonight}
            isOpen={isOpen}
            against={against}
            onWish={onWish}
            onAgainst={onAgainst}
            onPlan={onPlan}
            onMark={onMark}
          />
        ))}
        <p className="no-print order-1 mt-1 min-h-[21px] text-soft" aria-live="polite">
          {lookedAt
            ? blockWords(lookedAt.plan, lookedAt.block, zone)
            : 'Point at a block, or focus it, for its times, counts and signal rate.'}
        </p>
      </div>
    </>
  );
}
