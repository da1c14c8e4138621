import type { Season, SeasonCell, SeasonNight, SeasonProject } from '@meridiem/contract';
import { Link } from 'react-router';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { clock, dayOf, hours, percent } from '../../../words/format.ts';
import { nightsOfRig } from '../view-model.ts';
import { NightReason } from './NightReason.tsx';
import type { Chosen } from './RigSeason.tsx';

interface CellDetailProps {
  readonly season: Season;
  readonly chosen: Chosen;
  readonly zone: string;
  readonly onChoose: (projectId: string, nightDate: string) => void;
}

/** What a night does for a project, and why: chosen in the rows above, or here. */
export function CellDetail({ season, chosen, zone, onChoose }: CellDetailProps) {
  const project = season.projects.find(({ projectId }) => projectId === chosen.projectId);
  const nights = project ? nightsOfRig(season, project.rigId) : [];
  const night = nights.find(({ nightDate }) => nightDate === chosen.nightDate);
  return (
    <section aria-label="The chosen night" className="mt-6 border-l-2 border-brass bg-raised px-3 py-2">
      <h2 className="font-serif text-lg">Why, or why not, in a night</h2>
      <p className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
        <label>
          <span className="text-soft">Project</span>{' '}
          <select
            value={project?.projectId ?? ''}
            onChange={({ target }) => onChoose(target.value, chosen.nightDate ?? season.nights[0].nightDate)}
          >
            {!project && <option value="">choose one</option>}
            {season.projects.map(({ projectId, name }) => (
              <option key={projectId} value={projectId}>
                {name}
              </option>
            ))}
          </select>
        </label>
        {project && night && (
          <label>
            <span className="text-soft">Night</span>{' '}
            <select value={night.nightDate} onChange={({ target }) => onChoose(project.projectId, target.value)}>
              {nights.map(({ nightDate, cells }) => (
                <option key={nightDate} value={nightDate}>
                  {dayOf(nightDate)}
                  {cells.some(({ projectId }) => projectId === project.projectId) ? ', planned' : ''}
                </option>
              ))}
            </select>
          </label>
        )}
      </p>
      {project && night && <NightFacts {...{ project, night, zone, value: season.value }} />}
    </section>
  );
}

interface NightFactsProps {
  readonly project: SeasonProject;
  readonly night: SeasonNight;
  readonly zone: string;
  readonly value: number;
}

function NightFacts({ project: { projectId, name }, night, zone, value }: NightFactsProps) {
  const cell = night.cells.find((one) => one.projectId === projectId);
  return (
    <>
      <p className="mt-2 font-serif text-lg">
        {dayOf(night.nightDate)}, {name}
      </p>
      {cell ? <Planned cell={cell} zone={zone} /> : <p>Not planned in this night.</p>}
      <p className="text-soft">
        {night.odds > 0 ? `Clear with odds of ${percent(night.odds)}` : 'Closed'}; {hours(night.darkHours)} h dark,{' '}
        {hours(night.moonlessHours)} h of them without the moon.{' '}
        <Link className="word-link" to={`/nights/${night.nightDate}`}>
          The night
        </Link>
      </p>
      <NightReason
        key={`${projectId} ${night.nightDate}`}
        projectId={projectId}
        nightDate={night.nightDate}
        isThere={cell !== undefined}
        about={{ zone, value }}
      />
    </>
  );
}

const Planned = ({ cell, zone }: { cell: SeasonCell; zone: string }) => (
  <>
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
  </>
);
