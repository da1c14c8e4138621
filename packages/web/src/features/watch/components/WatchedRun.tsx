import type { ReactNode } from 'react';
import type { NightRun, RunAction, ShownOrder } from '@meridiem/contract';
import type { NightEnd } from '@meridiem/core';
import { clockSeconds } from '../../../words/format.ts';
import { alarmWords, isUnderWay, lastFacts, nowWords, roofState } from '../view-model.ts';
import { ActionTable } from './ActionTable.tsx';
import { ByHand } from './ByHand.tsx';

interface WatchedRunProps {
  readonly run: NightRun;
  /** The newest first. */
  readonly actions: readonly RunAction[];
  readonly endedAs: NightEnd | null;
  readonly isSimulated: boolean;
  readonly zone: string;
  readonly orders: readonly ShownOrder[];
  /** The newest exposure as a picture. */
  readonly latest: ReactNode;
  /** Whether the one who looks may say something to it. */
  readonly mayOrder: boolean;
}

/** What now, what next, how far, the last figures, and every step. */
export function WatchedRun({ run, actions, endedAs, isSimulated, zone, orders, latest, mayOrder }: WatchedRunProps) {
  const alarm = alarmWords(actions, endedAs);
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
      {isUnderWay(run) && <ByHand run={run} orders={orders} mayOrder={mayOrder} />}
      <div className="mt-3 flex flex-col gap-4 lg:flex-row lg:justify-between">
        <dl className="flex flex-wrap content-start gap-x-8 gap-y-2">
          <Fact
            name="Exposures"
            words={`${run.stepsDone} of ${run.stepsAll}`}
            remark={run.stepsLost > 0 ? `${run.stepsLost} not taken` : ''}
          />
          <Fact name="Roof" words={roofState(actions)} remark="as last confirmed" />
          {run.next && (
            <Fact
              name="Next"
              words={`${run.next.panelName}, ${run.next.filterLetter}`}
              remark={`planned ${clockSeconds(run.next.startsUtcMs, zone)}`}
            />
          )}
          {lastFacts(actions).map(({ name, words, utcMs }) => (
            <Fact key={name} name={name} words={words} remark={`at ${clockSeconds(utcMs, zone)}`} />
          ))}
        </dl>
        {latest}
      </div>
      <ActionTable actions={actions} zone={zone} />
    </>
  );
}

const Fact = ({ name, words, remark }: { name: string; words: string; remark: string }) => (
  <div>
    <dt className="text-sm text-soft">{name}</dt>
    <dd>
      <span className="font-serif text-lg">{words}</span> <span className="text-sm text-soft">{remark}</span>
    </dd>
  </div>
);
