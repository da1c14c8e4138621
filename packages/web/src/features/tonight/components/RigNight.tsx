import type { NightSky, RigPlan } from '@meridiem/contract';
import { Empty } from '../../../ui/states.tsx';
import { dayAndClock } from '../../../words/format.ts';
import type { PlanWish } from '../queries.ts';
import { planSummary } from '../view-model.ts';
import { BlockTable } from './BlockTable.tsx';
import { LeftOutList } from './LeftOutList.tsx';
import { NightControls } from './NightControls.tsx';
import { PlanStrip } from './PlanStrip.tsx';
import { RunLine } from './RunLine.tsx';

interface RigNightProps {
  readonly plan: RigPlan;
  readonly sky: NightSky;
  readonly zone: string;
  readonly nowUtcMs: number;
  readonly isTonight: boolean;
  readonly wish: PlanWish | undefined;
  readonly onWish: (wish: PlanWish | undefined) => void;
}

/** One rig's night: what it will do, on one axis and in a table, and what is left out. */
export function RigNight({ plan, sky, zone, nowUtcMs, isTonight, wish, onWish }: RigNightProps) {
  const version =
    plan.state === 'published'
      ? `published, version ${plan.seq}, ${dayAndClock(plan.publishedUtcMs!, zone)}`
      : 'working plan, not published';
  const playing = plan.run && ['requested', 'running', 'stopping'].includes(plan.run.state);
  const plumbUtcMs = playing ? (plan.run!.clockUtcMs ?? nowUtcMs) : isTonight ? nowUtcMs : null;
  return (
    <section aria-label={plan.rigName} className="mt-8">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-xl">{plan.rigName}</h2>
        <p>{planSummary(plan)}</p>
        <p className={plan.state === 'published' ? 'text-soft' : 'italic text-soft'}>
          {version}
          {plan.stale && <span className="ml-2 text-signal">wishes or ledger have changed since</span>}
          {plan.state === 'published' && (
            <a className="word-link ml-2" href={`/api/exports/nights/${sky.nightDate}/calendar`} download>
              calendar file
            </a>
          )}
          {(plan.state === 'published' || wish === 'working') && (
            <button
              type="button"
              className="word-link ml-2 cursor-pointer"
              onClick={() => onWish(wish === 'working' ? undefined : 'working')}
            >
              {wish === 'working' ? 'show the published plan' : 'show the working plan'}
            </button>
          )}
        </p>
        <NightControls plan={plan} nightDate={sky.nightDate} />
      </div>
      <PlanStrip plan={plan} sky={sky} zone={zone} nowUtcMs={plumbUtcMs} />
      {plan.run && <RunLine run={plan.run} zone={zone} />}
      <div className="mt-3 grid gap-8 lg:grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)]">
        {plan.blocks.length > 0 ? (
          <BlockTable plan={plan} zone={zone} />
        ) : (
          <Empty title="Nothing can be exposed on this rig in what is left of this night.">
            Everything stays stowed. Each goal’s reason stands beside; this says nothing about whether a project is
            finished.
          </Empty>
        )}
        <LeftOutList leftOut={plan.leftOut} zone={zone} />
      </div>
    </section>
  );
}
