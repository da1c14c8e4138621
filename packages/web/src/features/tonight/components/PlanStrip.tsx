import type { NightSky, RigPlan } from '@meridiem/contract';
import { filterColour, filterTexture } from '../../../filters/filter-look.ts';
import { stripScale, xOf } from '../../../night-strip/geometry.ts';
import { NightStrip } from '../../../night-strip/NightStrip.tsx';
import { clock } from '../../../words/format.ts';

interface PlanStripProps {
  readonly plan: RigPlan;
  readonly sky: NightSky;
  readonly zone: string;
  readonly nowUtcMs: number | null;
}

/** The plan on the night's axis: curves above, blocks with their runs as bars beneath. */
export function PlanStrip({ plan, sky, zone, nowUtcMs }: PlanStripProps) {
  const percentOf = stripScale(sky, 100);
  const curves = panelCurves(plan);
  const label =
    plan.blocks.length === 0
      ? `${plan.rigName}: nothing planned`
      : `${plan.rigName}: ${plan.blocks.map((block) => `${block.panelName} ${clock(block.startUtcMs, zone)} to ${clock(block.endUtcMs, zone)}`).join(', ')}`;
  return (
    <div className="mt-2">
      <NightStrip
        sky={sky}
        zone={zone}
        height={120}
        nowUtcMs={nowUtcMs}
        label={label}
        curves={curves}
        brackets={plan.usable.map((usable) => ({ name: usable.class, windows: usable.windows }))}
      >
        {(scale) =>
          plan.blocks.map((block) =>
            block.flipUtcMs === null ? null : (
              <path
                key={block.startUtcMs}
                d={`M${xOf(scale, block.flipUtcMs) - 4} 96a4 4 0 1 1 8 0m-3 -2 3 3 2 -4`}
                fill="none"
                stroke="var(--sky-ink)"
                strokeWidth={1.25}
              >
                <title>Meridian flip at {clock(block.flipUtcMs, zone)}</title>
              </path>
            ),
          )
        }
      </NightStrip>
      <div className="relative h-[34px]" aria-hidden>
        {plan.blocks.map((block, i) => (
          <div
            key={block.startUtcMs}
            className="absolute top-1 h-[30px] border-l border-soft"
            style={{
              left: `${xOf(percentOf, block.startUtcMs)}%`,
              width: `${xOf(percentOf, block.endUtcMs) - xOf(percentOf, block.startUtcMs)}%`,
            }}
          >
            <span className="absolute left-1 top-0 text-xs text-soft">{i + 1}</span>
          </div>
        ))}
        {plan.blocks.flatMap((block) =>
          block.runs.map((run) => (
            <div
              key={`${run.goalId}${run.startUtcMs}`}
              title={`${block.projectName}: ${run.filterLetter} ${run.count} × ${run.exposureSec} s, ${clock(run.startUtcMs, zone)}–${clock(run.endUtcMs, zone)}`}
              className={`absolute bottom-0 h-[14px] overflow-hidden border-r border-ground text-xs ${filterTexture(run.filterClass)}`}
              style={{
                left: `${xOf(percentOf, run.startUtcMs)}%`,
                width: `${xOf(percentOf, run.endUtcMs) - xOf(percentOf, run.startUtcMs)}%`,
                backgroundColor: filterColour(run.filterLetter),
              }}
            />
          )),
        )}
      </div>
    </div>
  );
}

/** One curve a panel, however often it is visited. */
function panelCurves(plan: RigPlan) {
  const panels = new Map<string, RigPlan['blocks']>();
  for (const block of plan.blocks) panels.set(block.panelId, [...(panels.get(block.panelId) ?? []), block]);
  return [...panels].map(([key, blocks]) => ({ key, altitudeDeg: blocks[0].altitudeDeg, during: blocks }));
}
