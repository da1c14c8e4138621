import type { Season } from '@meridiem/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { wordsOf } from '../../app/api.ts';
import { useShownZone } from '../../app/zone.ts';
import { Empty, Failure } from '../../ui/states.tsx';
import { WorkEnded, WorkUnderWay } from '../../ui/WorkUnderWay.tsx';
import { dayOf } from '../../words/format.ts';
import { CellDetail } from './components/CellDetail.tsx';
import { RigSeason } from './components/RigSeason.tsx';
import { WhatHelps } from './components/WhatHelps.tsx';
import { useRigNames, useSeason } from './queries.ts';
import { fairnessWords } from './what-if.ts';
import { lastNightOf, provenWords, seasonMembers, seasonRigs, shortWords, unfinished } from './view-model.ts';

/** The nights ahead: which project works in which night, and when each should end. */
export default function SeasonPage() {
  const { data, error, job, isWorking, share, stop, ask } = useSeason();
  // While another season is being planned, the one before stays in sight.
  const [kept, setKept] = useState<Season | null>(null);
  if (data?.season && data.season !== kept) setKept(data.season);
  const season = data?.season ?? kept;
  if (error) return <Failure words={wordsOf(error)} onRetry={ask} />;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-2xl">Season</h1>
        {season && season.nights.length > 0 && (
          <p className="text-soft">
            from {dayOf(season.nights[0].nightDate)} to {dayOf(lastNightOf(season.nights))}
          </p>
        )}
        <Link className="word-link ml-auto" to="/season/what-if">
          What if
        </Link>
      </div>
      {isWorking && (
        <WorkUnderWay
          words={
            season
              ? 'Something has changed; planning the nights ahead again'
              : 'Planning the nights ahead for all projects together'
          }
          measured="Season planned"
          share={share}
          onStop={stop}
        />
      )}
      {job?.state === 'stopped' && <WorkEnded words="Stopped." again="Plan the season" onAgain={ask} />}
      {job?.state === 'failed' && (
        <WorkEnded words={job.failure ?? 'It failed.'} again="Plan the season" onAgain={ask} />
      )}
      {season && <PlannedSeason season={season} isStale={!data?.season} />}
    </>
  );
}

function PlannedSeason({ season, isStale }: { season: Season; isStale: boolean }) {
  const [search, choose] = useAddress({ replace: true });
  const { data: observatory } = useRigNames();
  const { zone } = useShownZone(observatory?.timeZone ?? 'utc');
  const chosen = { projectId: search.get('project'), nightDate: search.get('night') };
  const isByMember = search.get('by') === 'member';
  const choice = (projectId: string, nightDate: string): void => choose({ project: projectId, night: nightDate });
  if (season.projects.length === 0)
    return (
      <Empty title="No project is granted, so there is no season to plan.">
        <Link className="word-link" to="/projects">
          Projects
        </Link>
      </Empty>
    );
  return (
    <div className={isStale ? 'opacity-60' : ''}>
      <Standing season={season} />
      <label className="mt-3 inline-block">
        <span className="text-soft">Projects by</span>{' '}
        <select
          value={isByMember ? 'member' : 'rig'}
          onChange={({ target }) => choose({ by: target.value === 'member' ? 'member' : null })}
        >
          <option value="rig">rig</option>
          <option value="member">member</option>
        </select>
      </label>
      {(isByMember ? seasonMembers(season) : seasonRigs(season)).map((rig) => (
        <RigSeason
          key={rig.rigId}
          rig={rig}
          name={isByMember ? rig.rigId : (observatory?.rigs.find(({ id }) => id === rig.rigId)?.name ?? '')}
          chosen={chosen}
          onChoose={choice}
        />
      ))}
      <CellDetail season={season} chosen={chosen} zone={zone} onChoose={choice} />
      <p className="mt-6 max-w-[75ch] text-soft">
        Bars are where the season would place the work, each if its night is clear. Ranges come from {season.draws}{' '}
        seasons played out under drawn weather, with exposures rejected as often as before: each clear hour goes to what
        gains most then, as nights are planned one by one, so they may lie before or after the bars. Eight in ten of
        these seasons end a project within its range. Moving targets are taken where they are tonight.
      </p>
    </div>
  );
}

/** What matters most: what can't be finished, and how good the plan is. */
function Standing({ season }: { season: Season }) {
  const open = unfinished(season);
  const lastNight = lastNightOf(season.nights);
  return (
    <>
      {open.length > 0 && (
        <section aria-label="Not to be finished" className="mt-3 border-l-2 border-signal pl-3">
          <p className="font-serif text-lg">
            {open.length === 1 ? 'One project' : `${open.length} projects`} will hardly be finished by{' '}
            {dayOf(lastNight)}
          </p>
          <ul className="mt-1">
            {open.map((project) => (
              <li key={project.projectId}>
                <Link className="word-link" to={`/projects/${project.projectId}`}>
                  {project.name}
                </Link>
                <span className="text-soft">, {shortWords(project)}</span>
                <WhatHelps projectId={project.projectId} />
              </li>
            ))}
          </ul>
        </section>
      )}
      <p className="mt-3 text-soft">
        {provenWords(season)} {fairnessWords(season)}{' '}
        {season.fairness && (
          <Link className="word-link" to="/standing">
            Standing
          </Link>
        )}
      </p>
    </>
  );
}
