import type { ReactNode } from 'react';
import { lazy, Suspense } from 'react';
import type { NightRun, RunAction, ShownOrder, ShownTestShot, SiteReading, WatchedStep } from '@meridiem/contract';
import type { NightEnd } from '@meridiem/core';
import { clockSeconds } from '../../../words/format.ts';
import { missed, siteFacts, stayLeft } from '../progress.ts';
import { alarmWords, isHeld, isUnderWay, lastFacts, nowWords, roofNow } from '../view-model.ts';
import { ActionTable } from './ActionTable.tsx';
import { ByHand } from './ByHand.tsx';
import { TestShots } from './TestShots.tsx';
import { NightProgress } from './NightProgress.tsx';
import { NightReview } from './NightReview.tsx';

const Traces = lazy(() => import('./Traces.tsx'));

interface WatchedRunProps {
  readonly run: NightRun;
  readonly steps: readonly WatchedStep[];
  /** In their order. */
  readonly readings: readonly SiteReading[];
  /** The newest first. */
  readonly actions: readonly RunAction[];
  readonly endedAs: NightEnd | null;
  readonly isSimulated: boolean;
  readonly zone: string;
  readonly orders: readonly ShownOrder[];
  readonly testShots: readonly ShownTestShot[];
  /** The newest exposure as a picture. */
  readonly latest: ReactNode;
  /** Whether the one who looks may say something to it. */
  readonly mayOrder: boolean;
}

/** What now, what next, how far, the last figures, and every step. */
export function WatchedRun(props: WatchedRunProps) {
  const { run, steps, readings, actions, endedAs, isSimulated, zone, orders, testShots, latest, mayOrder } = props;
  const alarm = alarmWords(actions, endedAs);
  // What it said of its end comes before the list hears of it.
  const isOn = isUnderWay(run) && endedAs === null;
  const left = isOn ? stayLeft(steps, zone) : null;
  const site = readings.at(-1);
  const roof = roofNow(actions, site);
  const isHeldNow = isOn && isHeld(orders);
  return (
    <>
      {isSimulated && <p className="mt-2 text-brass">Simulated: no real sky, no real telescope. {run.speed}× time.</p>}
      {alarm && (
        <p role="alert" className="mt-3 border-l-4 border-signal py-1 pl-3 font-serif text-lg text-signal">
          {alarm}
        </p>
      )}
      {run.silent && run.heardUtcMs !== null && (
        <p role="alert" className="mt-3 border-l-4 border-signal py-1 pl-3 text-signal">
          No contact with the runner since {clockSeconds(run.heardUtcMs, zone)}; it closes by itself at the end of the
          night.
        </p>
      )}
      <p className="mt-3 font-serif text-xl" role="status">
        {nowWords(run, actions, endedAs, zone)}
      </p>
      {isOn && <ByHand run={run} orders={orders} mayOrder={mayOrder} />}
      {mayOrder && (isHeldNow || testShots.length > 0) && (
        <TestShots runId={run.id} isHeld={isHeldNow} filterLetters={lettersOf(steps)} shots={testShots} />
      )}
      <div className="mt-3 flex flex-col gap-4 lg:flex-row lg:justify-between">
        <dl className="flex flex-wrap content-start gap-x-8 gap-y-2">
          <Fact
            name="Exposures"
            words={`${run.stepsDone} of ${run.stepsAll}`}
            remark={run.stepsLost > 0 ? `${run.stepsLost} not taken` : ''}
          />
          {left && <Fact name="Left of this stay" words={left} remark="" />}
          <Fact
            name="Roof"
            words={roof.words}
            remark={roof.utcMs === null ? '' : `at ${clockSeconds(roof.utcMs, zone)}`}
          />
          {isOn && run.next && (
            <Fact
              name="Next"
              words={`${run.next.panelName}, ${run.next.filterLetter}`}
              remark={`planned ${clockSeconds(run.next.startsUtcMs, zone)}`}
            />
          )}
          {site &&
            isOn &&
            siteFacts(site).map(({ name, words }) => (
              <Fact key={name} name={name} words={words} remark={`at ${clockSeconds(site.utcMs, zone)}`} />
            ))}
          {lastFacts(actions).map(({ name, words, utcMs }) => (
            <Fact key={name} name={name} words={words} remark={`at ${clockSeconds(utcMs, zone)}`} />
          ))}
        </dl>
        {latest}
      </div>
      <NightProgress steps={steps} zone={zone} clockUtcMs={isOn ? (site?.utcMs ?? run.clockUtcMs) : null} />
      {missed(steps).length > 0 && (
        <ul aria-label="Not taken" className="mt-2">
          {missed(steps).map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
      {endedAs !== null && run.kind === 'night' && <NightReview runId={run.id} />}
      <Suspense fallback={null}>
        <Traces readings={readings} steps={steps} actions={actions} zone={zone} />
      </Suspense>
      <ActionTable actions={actions} zone={zone} />
    </>
  );
}

const lettersOf = (steps: readonly WatchedStep[]): string[] => [
  ...new Set(steps.map(({ filterLetter }) => filterLetter)),
];

const Fact = ({ name, words, remark }: { name: string; words: string; remark: string }) => (
  <div>
    <dt className="text-sm text-soft">{name}</dt>
    <dd>
      <span className="font-serif text-lg">{words}</span> <span className="text-sm text-soft">{remark}</span>
    </dd>
  </div>
);
