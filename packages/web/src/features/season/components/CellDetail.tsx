import type { Season } from '@meridiem/contract';
import { Link } from 'react-router';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { clock, dayOf, hours, percent } from '../../../words/format.ts';
import type { Chosen } from './RigSeason.tsx';

interface CellDetailProps {
  readonly season: Season;
  readonly chosen: Chosen;
  readonly zone: string;
}

/** What a chosen night would do for a project. */
export function CellDetail({ season, chosen, zone }: CellDetailProps) {
  const project = season.projects.find(({ projectId }) => projectId === chosen.projectId);
  const night = season.nights.find(
    ({ nightDate, cells }) =>
      nightDate === chosen.nightDate && cells.some(({ projectId }) => projectId === chosen.projectId),
  );
  const cell = night?.cells.find(({ projectId }) => projectId === chosen.projectId);
  if (!project || !night || !cell) return null;
  return (
    <section aria-label="The chosen night" className="mt-5 border-l-2 border-brass bg-raised px-3 py-2">
      <p className="font-serif text-lg">
        {dayOf(night.nightDate)}, {project.name}
      </p>
      <p>
        From {clock(cell.fromUtcMs, zone)} to {clock(cell.toUtcMs, zone)}: {hours(cell.exposingSec / 3600)}
        <span className="unit">h</span> of exposure at {percent(cell.meanRate)} of the target’s best light
      </p>
      <p className="flex flex-wrap gap-x-4">
        {cell.filters.map(({ letter, filterClass, exposures }) => (
          <span key={letter}>
            <FilterTab letter={letter} filterClass={filterClass} /> {exposures}
          </span>
        ))}
      </p>
      <p className="text-soft">
        Clear with odds of {percent(night.odds)}; {hours(night.darkHours)} h dark, {hours(night.moonlessHours)} h of
        them without the moon.{' '}
        <Link className="word-link" to={`/nights/${night.nightDate}`}>
          The night
        </Link>
      </p>
    </section>
  );
}
