import type { RunAction, SiteReading, WatchedStep } from '@meridiem/contract';
import { Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { clock } from '../../../words/format.ts';
import { FocusChart } from './FocusChart.tsx';

interface Trace {
  readonly name: string;
  readonly unit: string;
  readonly digits: number;
  readonly points: readonly { readonly utcMs: number; readonly value: number }[];
}

const tracesOf = (readings: readonly SiteReading[], steps: readonly WatchedStep[]): Trace[] => {
  const read = (name: string, unit: string, digits: number, of: (reading: SiteReading) => number | null): Trace => ({
    name,
    unit,
    digits,
    points: readings.flatMap((reading) => {
      const value = of(reading);
      return value === null ? [] : [{ utcMs: reading.utcMs, value }];
    }),
  });
  const stars = steps.flatMap(({ takenUtcMs, halfFluxRadiusPx }) =>
    takenUtcMs === null || halfFluxRadiusPx === null ? [] : [{ utcMs: takenUtcMs, value: halfFluxRadiusPx }],
  );
  return [
    read('Guiding', '″', 2, ({ guidingRmsArcsec }) => guidingRmsArcsec),
    { name: 'Half-flux radius', unit: ' px', digits: 2, points: stars },
    read('Sensor', ' °C', 1, ({ sensorC }) => sensorC),
    read('Wind', ' m/s', 0, ({ windMPerSec }) => windMPerSec),
  ];
};

interface TracesProps {
  readonly readings: readonly SiteReading[];
  readonly steps: readonly WatchedStep[];
  /** The newest first. */
  readonly actions: readonly RunAction[];
  readonly zone: string;
}

/** Guiding, star size, sensor and wind through the night, each with its newest value, and the last focus. */
export default function Traces({ readings, steps, actions, zone }: TracesProps) {
  const focus = actions.find(({ curve }) => curve);
  return (
    <section aria-label="Through the night" className="mt-5 grid gap-x-8 gap-y-3 sm:grid-cols-2 lg:grid-cols-5">
      {tracesOf(readings, steps)
        .filter(({ points }) => points.length > 1)
        .map((trace) => (
          <TraceChart key={trace.name} trace={trace} zone={zone} />
        ))}
      {focus && <FocusChart focus={focus} zone={zone} />}
    </section>
  );
}

function TraceChart({ trace: { name, unit, digits, points }, zone }: { readonly trace: Trace; readonly zone: string }) {
  const words = (value: number): string => `${value.toFixed(digits).replace('-', '−')}${unit}`;
  const values = points.map(({ value }) => value);
  const newest = words(values.at(-1)!);
  const range = `between ${words(Math.min(...values))} and ${words(Math.max(...values))}`;
  return (
    <figure>
      <figcaption className="text-sm text-soft">
        {name} <span className="font-serif text-base text-ink">{newest}</span>
      </figcaption>
      <div role="img" aria-label={`${name}: ${newest} now, ${range}`} className="h-[84px]">
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 240, height: 84 }}>
          <LineChart data={[...points]} margin={{ top: 6, right: 2, bottom: 0, left: 0 }} accessibilityLayer={false}>
            <XAxis
              dataKey="utcMs"
              type="number"
              domain={['dataMin', 'dataMax']}
              tickFormatter={(utcMs: number) => clock(utcMs, zone)}
              ticks={[points[0].utcMs, points.at(-1)!.utcMs]}
              stroke="var(--hairline)"
              tick={{ fontSize: 11, fill: 'var(--ink-soft)' }}
            />
            <YAxis
              width={40}
              domain={[(least: number) => Math.floor(least), (most: number) => Math.ceil(most)]}
              tickCount={3}
              stroke="var(--hairline)"
              tick={{ fontSize: 11, fill: 'var(--ink-soft)' }}
              tickLine={false}
            />
            <Line dataKey="value" stroke="var(--ink)" strokeWidth={1.4} dot={false} isAnimationActive={false} />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
