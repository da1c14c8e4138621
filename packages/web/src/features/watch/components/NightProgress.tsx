import type { WatchedStep } from '@meridiem/contract';
import { filterColour, filterTexture } from '../../../filters/filter-look.ts';
import { clock } from '../../../words/format.ts';
import { filterCounts, staysOf } from '../progress.ts';

const MINUTE_MS = 60_000;

interface NightProgressProps {
  readonly steps: readonly WatchedStep[];
  readonly zone: string;
  /** The observatory's own time; null where nothing has been heard. */
  readonly clockUtcMs: number | null;
}

/** The plan above, what happened below, on one axis of time; and the counts of each filter. */
export function NightProgress({ steps, zone, clockUtcMs }: NightProgressProps) {
  if (steps.length === 0) return null;
  const stays = staysOf(steps);
  const ends = steps.map((step) => (step.takenUtcMs ?? step.plannedUtcMs) + 1000 * step.exposureSec);
  const fromUtcMs = Math.min(...steps.map(({ plannedUtcMs, takenUtcMs }) => Math.min(plannedUtcMs, takenUtcMs ?? plannedUtcMs))) - 10 * MINUTE_MS; // prettier-ignore
  const spanMs = Math.max(...ends) + 10 * MINUTE_MS - fromUtcMs;
  const place = (startUtcMs: number, lastsMs: number) => ({
    left: `${(100 * (startUtcMs - fromUtcMs)) / spanMs}%`,
    width: `max(2px, ${(100 * lastsMs) / spanMs}%)`,
  });
  return (
    <section aria-label="Plan and outcome" className="mt-5">
      <h2 className="text-xl">Plan and outcome</h2>
      <div className="relative mt-2 h-[58px]" aria-hidden>
        {stays.map(({ panelName, startUtcMs, endUtcMs }) => (
          <span
            key={startUtcMs}
            title={panelName}
            className="absolute top-0 h-[18px] overflow-hidden border-b-2 border-hairline text-xs whitespace-nowrap text-soft"
            style={place(startUtcMs, endUtcMs - startUtcMs)}
          >
            {panelName.split(', ').at(-1)}
          </span>
        ))}
        {steps.map(({ plannedUtcMs, takenUtcMs, exposureSec, filterLetter, filterClass, outcome, isUnderWay }) => (
          <span
            key={plannedUtcMs}
            className={`absolute top-[22px] h-[14px] ${outcome === 'done' ? filterTexture(filterClass) : ''} ${isUnderWay && clockUtcMs !== null ? 'border border-brass' : ''} ${outcome === 'lost' ? 'border-b-2 border-signal' : ''}`}
            style={{
              ...place(takenUtcMs ?? plannedUtcMs, 1000 * exposureSec),
              backgroundColor:
                outcome === 'done' ? filterColour(filterLetter) : outcome === null ? 'var(--wash)' : undefined,
            }}
          />
        ))}
        {clockUtcMs !== null && (
          <span className="absolute top-0 h-[38px] w-px bg-brass" style={{ left: place(clockUtcMs, 0).left }} />
        )}
        <span className="absolute bottom-0 left-0 text-xs text-soft">{clock(fromUtcMs, zone)}</span>
        <span className="absolute right-0 bottom-0 text-xs text-soft">{clock(fromUtcMs + spanMs, zone)}</span>
      </div>
      <p className="mt-1">
        {filterCounts(steps).map(({ filterLetter, taken, lost, all }) => (
          <span key={filterLetter} className="mr-5 whitespace-nowrap">
            <span className="font-semibold" style={{ color: filterColour(filterLetter) }}>
              {filterLetter}
            </span>{' '}
            {taken} of {all}
            {lost > 0 && <span className="text-signal">, {lost} not taken</span>}
          </span>
        ))}
      </p>
    </section>
  );
}
