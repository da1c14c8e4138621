import type { NightSky, RigPlan } from '@meridiem/contract';
import { memo, useDeferredValue, useEffect, useMemo } from 'react';
import { useAccount } from '../../../app/session.ts';
import { Empty } from '../../../ui/states.tsx';
import { clock, dayAndClock } from '../../../words/format.ts';
import { leftOutBlock, movedBlock, stretchedBlock } from '../hand-changes.ts';
import type { PlanWish } from '../queries.ts';
import { useReplan } from '../use-replan.ts';
import type { MarkedBlock } from '../night-picture.ts';
import { isDayAt, planSummary } from '../view-model.ts';
import { AskWhy } from './AskWhy.tsx';
import type { BlockHand } from './BlockBars.tsx';
import { BlockBars } from './BlockBars.tsx';
import { BlockTable } from './BlockTable.tsx';
import { ComparePlans } from './ComparePlans.tsx';
import { EarlyEnds } from './EarlyEnds.tsx';
import { HandList } from './HandList.tsx';
import { NotPlannedList } from './NotPlannedList.tsx';
import { NightControls } from './NightControls.tsx';
import { ReserveList } from './ReserveList.tsx';
import { RunLine } from './RunLine.tsx';

interface RigNightProps {
  readonly plan: RigPlan;
  readonly sky: NightSky;
  readonly zone: string;
  readonly nowUtcMs: number;
  readonly isTonight: boolean;
  /** Whether the night is not over. */
  readonly isOpen: boolean;
  /** The plan it is compared with, if any. */
  readonly against: PlanWish | undefined;
  readonly onWish: (wish: PlanWish | undefined) => void;
  readonly onAgainst: (against: PlanWish | undefined) => void;
  /** Told the plan that is shown, the page's own while it is ahead: the picture of the night draws it. */
  readonly onPlan: (plan: RigPlan) => void;
  readonly onMark: (marked: MarkedBlock) => void;
}

/** One rig's night: its row of blocks under the picture of all rigs, and its tables below all rows; the working plan is changed by hand here. */
export const RigNight = memo(function RigNight({ plan: server, ...props }: RigNightProps) {
  const { sky, zone, nowUtcMs, isTonight, isOpen, against, onWish, onAgainst, onPlan, onMark } = props;
  const { role } = useAccount();
  const playing = server.run && ['requested', 'running', 'stopping'].includes(server.run.state);
  const mayEdit = role === 'coordinator' && isOpen && server.state === 'working' && !playing;
  const replan = useReplan(server, sky, mayEdit);
  const { plan, change } = replan;
  useEffect(() => onPlan(plan), [plan, onPlan]);
  // A hand that moves on sees the blocks on the axis first; the table follows as soon as the page has time.
  const listed = useDeferredValue(useMemo(() => ({ plan, change }), [plan, change]));
  const hand: BlockHand | null = mayEdit
    ? {
        move: (block, byMs) => change(movedBlock(plan, block, byMs)),
        stretch: (block, byMs) => {
          const step = stretchedBlock(plan, block, byMs);
          if (step) change(step);
        },
        pin: (block) => change(movedBlock(plan, block, 0)),
        leaveOut: (block) => change(leftOutBlock(plan, block)),
      }
    : null;
  return (
    <section aria-label={plan.rigName} className="contents">
      <div className="order-1 mt-3">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h2 className="text-lg">{plan.rigName}</h2>
          <p>{planSummary(plan)}</p>
          <p className={plan.state === 'published' ? 'text-soft' : 'italic text-soft'}>
            {stateWords(plan, zone)}
            {plan.stale && <span className="ml-2 text-signal">goals, limits or the ledger have changed since</span>}
          </p>
          <NightControls
            plan={plan}
            nightDate={sky.nightDate}
            nowUtcMs={nowUtcMs}
            isDay={isTonight && isDayAt(sky, nowUtcMs)}
          />
        </div>
        <BlockBars plan={plan} sky={sky} zone={zone} hand={hand} onMark={onMark} />
        {plan.run && (
          <RunLine
            run={plan.run}
            zone={zone}
            watchAt={plan.devices === 'none' ? null : `/nights/${sky.nightDate}/watch?rig=${plan.rigId}`}
            isSimulated={plan.devices !== 'address'}
          />
        )}
      </div>
      <div className="order-2 mt-8">
        <h3 className="rule pb-1 text-xl">{plan.rigName}</h3>
        <p className="no-print flex flex-wrap gap-x-4 text-soft">
          {plan.versions.length > 0 && (
            <button
              type="button"
              className="word-link cursor-pointer"
              onClick={() => onWish(plan.state === 'working' ? undefined : 'working')}
            >
              {plan.state === 'working' ? 'show the published plan' : 'show the working plan'}
            </button>
          )}
          <label>
            compare with{' '}
            <select value={against ?? ''} onChange={(event) => onAgainst(event.target.value || undefined)}>
              <option value="">nothing</option>
              {plan.state !== 'working' && <option value="working">the working plan</option>}
              <option value="automatic">the plan without hand changes</option>
              {plan.versions.map(({ seq, by, publishedUtcMs, reason }) => (
                <option key={seq} value={`v${seq}`}>
                  version {seq}, {by} {clock(publishedUtcMs, zone)}
                  {reason && `: ${reason}`}
                </option>
              ))}
            </select>
          </label>
          {plan.versions.length > 0 && (
            <a className="word-link" href={`/api/exports/nights/${sky.nightDate}/calendar`} download>
              calendar file
            </a>
          )}
          {isOpen && (
            <span>
              cut-off {clock(plan.cutOffUtcMs, zone)}
              {nowUtcMs >= plan.cutOffUtcMs &&
                (plan.versions.length > 0 ? ', passed: changes need a reason' : ', passed and not published')}
            </span>
          )}
        </p>
        {against && <ComparePlans plan={plan} sky={sky} zone={zone} against={against} />}
        <HandList plan={plan} nightDate={sky.nightDate} zone={zone} change={mayEdit ? change : null} />
        <div className="mt-3 grid gap-8 lg:grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)]">
          {listed.plan.blocks.length > 0 ? (
            <BlockTable plan={listed.plan} zone={zone} change={mayEdit ? listed.change : null} />
          ) : (
            <Empty title="Nothing can be exposed on this rig in what is left of this night.">
              The rig stays parked. Each goal’s reason is listed beside; a project may still be unfinished.
            </Empty>
          )}
          <div aria-busy={replan.isAhead}>
            <p className="no-print h-4 text-xs text-soft">
              {replan.isAhead && 'Reasons of the plan before; the new ones follow'}
            </p>
            <NotPlannedList rigName={plan.rigName} leftOut={plan.leftOut} zone={zone} />
            <ReserveList rigName={plan.rigName} reserve={plan.reserve} zone={zone} />
            {isOpen && plan.blocks.length > 0 && (
              <EarlyEnds rigId={plan.rigId} rigName={plan.rigName} nightDate={sky.nightDate} zone={zone} />
            )}
            {mayEdit && <AskWhy goals={replan.goals} ask={replan.ask} answer={replan.answer} sky={sky} zone={zone} />}
          </div>
        </div>
      </div>
    </section>
  );
});

function stateWords(plan: RigPlan, zone: string): string {
  switch (plan.state) {
    case 'published':
      return `published, version ${plan.seq}, ${dayAndClock(plan.publishedUtcMs!, zone)}`;
    case 'superseded':
      return `version ${plan.seq} as it was published ${dayAndClock(plan.publishedUtcMs!, zone)}, no longer in force`;
    case 'automatic':
      return 'the plan without hand changes';
    case 'working':
      return plan.versions.length > 0 ? 'working plan, not in force' : 'working plan, not published';
  }
}
