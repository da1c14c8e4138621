import type { NightSky, RigPlan } from '@meridiem/contract';
import { xOf } from '../../../night-strip/geometry.ts';
import { NightStrip } from '../../../night-strip/NightStrip.tsx';
import { clock } from '../../../words/format.ts';
import { nightCurves, type MarkedBlock } from '../night-picture.ts';

interface NightPictureProps {
  readonly plans: readonly RigPlan[];
  readonly sky: NightSky;
  readonly zone: string;
  readonly nowUtcMs: number | null;
  readonly marked: MarkedBlock | null;
}

const HEIGHT = 170;

/** Every rig's targets under one sky, on the axis that the blocks below share. */
export function NightPicture({ plans, sky, zone, nowUtcMs, marked }: NightPictureProps) {
  const blocks = plans.flatMap((plan) => plan.blocks);
  const label =
    blocks.length === 0
      ? 'The night: nothing planned'
      : `The night: ${blocks.map((block) => `${block.panelName} ${clock(block.startUtcMs, zone)} to ${clock(block.endUtcMs, zone)}`).join(', ')}`;
  return (
    <div className="mt-2">
      <NightStrip
        sky={sky}
        zone={zone}
        height={HEIGHT}
        nowUtcMs={nowUtcMs}
        label={label}
        curves={nightCurves(plans, marked)}
        brackets={(plans[0]?.usable ?? []).map((usable) => ({ name: usable.class, windows: usable.windows }))}
      >
        {(scale) =>
          blocks.map(
            ({ flipUtcMs, panelId }) =>
              flipUtcMs !== null && (
                <path
                  key={`${panelId} ${flipUtcMs}`}
                  d={`M${xOf(scale, flipUtcMs) - 4} ${HEIGHT - 24}a4 4 0 1 1 8 0m-3 -2 3 3 2 -4`}
                  fill="none"
                  stroke="var(--sky-ink)"
                  strokeWidth={1.25}
                >
                  <title>Meridian flip at {clock(flipUtcMs, zone)}</title>
                </path>
              ),
          )
        }
      </NightStrip>
    </div>
  );
}
