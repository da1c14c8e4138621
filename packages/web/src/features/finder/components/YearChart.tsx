import type { yearOfHours } from '@meridiem/core';
import { DateTime } from 'luxon';

const [WIDTH, HEIGHT, BASE] = [360, 84, 68];
const MOST_HOURS = 12;

interface YearChartProps {
  readonly year: ReturnType<typeof yearOfHours>;
  readonly firstNight: string;
  /** Index of the class drawn solid, and its name; the others stand behind it, lighter. */
  readonly byClass: number;
  readonly classNames: readonly string[];
}

/** A year of nights side by side: darkness as ground, usable hours as ink, the moon as a pale thread. */
export function YearChart({ year, firstNight, byClass, classNames }: YearChartProps) {
  const x = (night: number): number => (night / year.length) * WIDTH;
  const y = (hours: number): number => BASE - (Math.min(MOST_HOURS, hours) / MOST_HOURS) * (BASE - 4);
  const area = (value: (night: YearChartProps['year'][number]) => number): string =>
    `M0 ${BASE}${year.map((night, i) => `L${x(i).toFixed(1)} ${y(value(night)).toFixed(1)}`).join('')}L${WIDTH} ${BASE}Z`;
  const other = year[0]?.hours.findIndex((_, c) => c !== byClass) ?? -1;
  const months = Array.from({ length: 11 }, (_, i) =>
    DateTime.fromISO(firstNight)
      .startOf('month')
      .plus({ months: i + 1 }),
  );
  const days = (at: DateTime): number => at.diff(DateTime.fromISO(firstNight), 'days').days;
  const best = Math.max(...year.map((night) => night.hours[byClass] ?? 0));
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
        role="img"
        aria-label={`Usable hours through the coming year, at most ${best.toFixed(1)} hours a night`}
      >
        <path
          d={area((night) => night.darkHours)}
          fill="color-mix(in oklab, var(--sky-night) 28%, var(--ground-raised))"
        />
        {other >= 0 && <path d={area((night) => night.hours[other])} fill="var(--brass)" opacity={0.35} />}
        <path d={area((night) => night.hours[byClass] ?? 0)} fill="var(--ink)" opacity={0.82} />
        <path
          d={`M${year.map((night, i) => `${x(i).toFixed(1)} ${(4 - 2.5 * night.moonLitShare).toFixed(1)}`).join('L')}`}
          fill="none"
          stroke="var(--ink-soft)"
          strokeWidth={0.7}
        />
        {months.map((month) => (
          <g key={month.toISODate()}>
            <line
              x1={x(days(month))}
              x2={x(days(month))}
              y1={BASE}
              y2={BASE + 4}
              stroke="var(--ink-soft)"
              strokeWidth={0.6}
            />
            <text x={x(days(month)) + 2} y={BASE + 13} fontSize={9} fill="var(--ink-soft)">
              {month.toFormat('LLL')}
            </text>
          </g>
        ))}
        {[4, 8].map((mark) => (
          <line
            key={mark}
            x1={0}
            x2={WIDTH}
            y1={y(mark)}
            y2={y(mark)}
            stroke="var(--ground-raised)"
            strokeWidth={0.5}
          />
        ))}
      </svg>
      <figcaption className="text-sm text-soft">
        Usable hours a night from tonight on, lines at 4 and 8 h: {classNames[byClass]} in ink
        {other >= 0 ? `, ${classNames[other]} in brass behind` : ''}; darkness as ground, the moon’s light as the thread
        above.
      </figcaption>
    </figure>
  );
}
