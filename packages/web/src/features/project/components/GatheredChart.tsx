import type { ProjectNight } from '@meridiem/contract';
import { CartesianGrid, LabelList, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { filterColour } from '../../../filters/filter-look.ts';
import { dayOf, hours } from '../../../words/format.ts';
import { endLabels, gatheredHours } from '../view-model.ts';

/** Accepted hours per filter, night after night; the line's end is labelled with its filter. */
export default function GatheredChart({ nights }: { nights: readonly ProjectNight[] }) {
  const { points, filters } = gatheredHours(nights);
  const labels = endLabels(points, filters);
  const summary = filters.map(({ letter }) => `${letter} ${hours(points.at(-1)![letter] as number)} h`).join(', ');
  return (
    <figure>
      <figcaption className="text-soft">Accepted hours, night after night</figcaption>
      <div role="img" aria-label={`Accepted hours grown to: ${summary}`} className="h-[240px]">
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 600, height: 240 }}>
          <LineChart data={points} margin={{ top: 8, right: 76, bottom: 4, left: 0 }} accessibilityLayer={false}>
            <CartesianGrid stroke="var(--hairline)" vertical={false} />
            <XAxis
              dataKey="nightDate"
              tickFormatter={dayOf}
              stroke="var(--ink-soft)"
              tick={{ fontSize: 12, fill: 'var(--ink-soft)' }}
              minTickGap={40}
            />
            <YAxis
              width={44}
              unit=" h"
              stroke="var(--ink-soft)"
              tick={{ fontSize: 12, fill: 'var(--ink-soft)' }}
              tickLine={false}
            />
            {filters.map(({ letter, filterClass }) => (
              <Line
                key={letter}
                dataKey={letter}
                type="stepAfter"
                stroke={filterColour(letter)}
                strokeDasharray={filterClass === 'narrowband' ? '6 3' : undefined}
                strokeWidth={1.8}
                dot={false}
                isAnimationActive={false}
              >
                <LabelList
                  dataKey={letter}
                  content={({ x, y, index }) =>
                    index === points.length - 1 ? (
                      <text x={Number(x) + 6} y={Number(y) + 4} fontSize={12} fontWeight={600} fill="var(--ink)">
                        {labels.get(letter)}
                      </text>
                    ) : null
                  }
                />
              </Line>
            ))}
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
