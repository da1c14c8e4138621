import type { RunAction } from '@meridiem/contract';
import { ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from 'recharts';
import { clock } from '../../../words/format.ts';

interface FocusChartProps {
  /** A focus with its curve. */
  readonly focus: RunAction;
  readonly zone: string;
}

/** Star sizes by place as they were tried, and the place that was found. */
export function FocusChart({ focus: { curve, endUtcMs, words }, zone }: FocusChartProps) {
  const { points, bestSteps } = curve!;
  const at = endUtcMs === null ? '' : ` at ${clock(endUtcMs, zone)}`;
  const found = bestSteps === null ? 'not found' : `${bestSteps} steps`;
  const [least, most] = [Math.min, Math.max].map((of) => of(...points.map(({ positionSteps }) => positionSteps)));
  return (
    <figure>
      <figcaption className="text-sm text-soft">
        Focus <span className={`font-serif text-base ${bestSteps === null ? 'text-signal' : 'text-ink'}`}>{found}</span>
        {at}
      </figcaption>
      <div
        role="img"
        aria-label={`Focus in ${words}${at}: ${found}; half-flux radius at ${points.length} places from ${least} to ${most} steps`}
        className="h-[84px]"
      >
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 240, height: 84 }}>
          <ScatterChart margin={{ top: 6, right: 8, bottom: 0, left: 0 }} accessibilityLayer={false}>
            <XAxis
              dataKey="positionSteps"
              type="number"
              domain={['dataMin', 'dataMax']}
              ticks={[least, most]}
              stroke="var(--hairline)"
              tick={{ fontSize: 11, fill: 'var(--ink-soft)' }}
            />
            <YAxis
              dataKey="halfFluxRadiusPx"
              unit=" px"
              width={40}
              domain={[0, (largest: number) => Math.ceil(largest)]}
              tickCount={3}
              stroke="var(--hairline)"
              tick={{ fontSize: 11, fill: 'var(--ink-soft)' }}
              tickLine={false}
            />
            {bestSteps !== null && <ReferenceLine x={bestSteps} stroke="var(--brass)" />}
            <Scatter data={[...points]} fill="var(--ink)" isAnimationActive={false} />
          </ScatterChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
