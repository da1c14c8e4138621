import type { ExposurePage } from '@meridiem/contract';
import { Bar, BarChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { count } from '../../../words/format.ts';
import { decadeBins, histogramBars, saturatedWords } from './view-model.ts';

/** How the picture's values are spread. */
export function HistogramChart({ figures }: { readonly figures: NonNullable<ExposurePage['figures']> }) {
  const bars = histogramBars(figures);
  const decades = decadeBins(figures).filter(({ bin }) => bin < bars.length);
  const sky = bars.reduce((best, bar) =>
    Math.abs(bar.value - figures.background) < Math.abs(best.value - figures.background) ? bar : best,
  );
  return (
    <figure aria-label="Spread of values">
      <div className="h-[120px]">
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 320, height: 120 }}>
          <BarChart data={bars} margin={{ top: 4, right: 4, bottom: 0, left: 0 }} barCategoryGap={0}>
            <XAxis
              dataKey="bin"
              ticks={decades.map(({ bin }) => bin)}
              tickFormatter={(bin: number) => count(decades.find((decade) => decade.bin === bin)?.value ?? 0)}
              stroke="var(--ink-soft)"
              tick={{ fontSize: 12, fill: 'var(--ink-soft)' }}
            />
            <YAxis hide />
            <Bar dataKey="height" fill="var(--ink-soft)" isAnimationActive={false} />
            <ReferenceLine x={sky.bin} stroke="var(--brass)" strokeWidth={2} />
          </BarChart>
        </ResponsiveContainer>
      </div>
      <figcaption className="text-sm text-soft">
        Pixels by value, both scales logarithmic; the line is the sky at {count(Math.round(figures.background))}. At the
        end of the scale: {saturatedWords(figures.histogram.saturatedShare)}.
      </figcaption>
    </figure>
  );
}
