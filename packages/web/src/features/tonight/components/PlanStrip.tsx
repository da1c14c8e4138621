import type { NightSky, RigPlan } from '@meridiem/contract';
import { xOf } from '../../../night-strip/geometry.ts';
import { NightStrip } from '../../../night-strip/NightStrip.tsx';
import { clock } from '../../../words/format.ts';
import type { BlockHand } from './BlockBars.tsx';
import { BlockBars } from './BlockBars.tsx';

interface PlanStripProps {
  readonly plan: RigPlan;
  readonly sky: NightSky;
  readonly zone: string;
  readonly nowUtcMs: number | null;
  /** What hands may do with a block; null where they may not. */
  readonly hand: BlockHand | null;
}

/** The plan on the night's axis: curves above, blocks with their runs as bars beneath. */
export function PlanStrip({ plan, sky, zone, nowUtcMs, hand }: PlanStripProps) {
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
      <BlockBars plan={plan} sky={sky} zone={zone} hand={hand} />
    </div>
  );
}

/** One curve a panel, however often it is visited. */
function panelCurves(plan: RigPlan) {
  const panels = new Map<string, RigPlan['blocks']>();
  for (const block of plan.blocks) panels.set(block.panelId, [...(panels.get(block.panelId) ?? []), block]);
  return [...panels].map(([key, blocks]) => ({ key, altitudeDeg: blocks[0].altitudeDeg, during: blocks }));
}
