import { Link, useSearchParams } from 'react-router';
import { wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { useShownZone } from '../../app/zone.ts';
import { ProgressBar } from '../../filters/ProgressBar.tsx';
import { FilterTab } from '../../filters/FilterTab.tsx';
import { NightStrip } from '../../night-strip/NightStrip.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { WhyMark } from '../../why/why-context.tsx';
import { count, hours, percent } from '../../words/format.ts';
import { longReason } from '../../words/reasons.ts';
import { NewProject } from './components/NewProject.tsx';
import { WaitingRequests } from './components/WaitingRequests.tsx';
import { useProjects, useShelved, useTonightSky } from './queries.ts';
import type { ProjectOrder } from './view-model.ts';
import {
  heldBackWords,
  NARROWINGS,
  narrowedProjects,
  orderedProjects,
  stateWords,
  tonightWords,
} from './view-model.ts';

const ORDERS: readonly { value: ProjectOrder; words: string }[] = [
  { value: 'state', words: 'as granted' },
  { value: 'tonight', words: 'by tonight’s chance' },
  { value: 'share', words: 'by progress' },
  { value: 'owner', words: 'by owner' },
];

/** The form begins with a target of the shelf where one is named. */
function NewProjectOf({ targetId }: { targetId: string | null }) {
  const { data, isPending } = useShelved(targetId);
  return targetId && isPending ? <Loading what="the target" rows={4} /> : <NewProject kept={data ?? null} />;
}

/** Every project: how far each filter is, whose it is, what tonight holds. */
export default function ProjectsPage() {
  const [search, setSearch] = useSearchParams();
  const { role, personId } = useAccount();
  const { data, error, isPending, refetch } = useProjects();
  const { data: night } = useTonightSky();
  const { zone } = useShownZone(night?.timeZone ?? 'utc');
  const order = ORDERS.find(({ value }) => value === search.get('order'))?.value ?? 'state';
  const narrowing = NARROWINGS.find(({ value }) => value === search.get('show'))?.value ?? 'all';
  if (isPending) return <Loading what="the projects" rows={10} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const adding = search.get('new') === '1';
  const shown = orderedProjects(narrowedProjects(data.projects, narrowing, personId), order);
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-4">
        <h1 className="text-2xl">Projects</h1>
        <Choice
          label="Show"
          value={narrowing}
          options={NARROWINGS}
          onChoose={(show) => setSearch({ order, show }, { replace: true })}
        />
        <Choice
          label="Order"
          value={order}
          options={ORDERS}
          onChoose={(chosen) => setSearch({ order: chosen, show: narrowing }, { replace: true })}
        />
        {role !== 'guest' && (
          <span className="ml-auto flex items-baseline gap-4">
            <Link className="word-link" to="/framing">
              Frame a target
            </Link>
            <button type="button" className="act" onClick={() => setSearch(adding ? {} : { new: '1' })}>
              {adding ? 'Close the form' : 'New project'}
            </button>
          </span>
        )}
      </div>
      {adding && <NewProjectOf targetId={search.get('target')} />}
      <WaitingRequests />
      {data.projects.length === 0 ? (
        <Empty title="No projects yet.">
          A member begins one with a target from the catalogue or with typed coordinates.
        </Empty>
      ) : shown.length === 0 ? (
        <Empty title="None of them.">Choose another view of the list above.</Empty>
      ) : (
        <table className="mt-4 w-full table-fixed">
          <thead>
            <tr className="rule">
              <th scope="col" className="w-[26%]">
                project
              </th>
              <th scope="col" className="w-[10%]">
                state
              </th>
              <th scope="col" className="w-[6%] text-right">
                done
              </th>
              <th scope="col" className="w-[30%]">
                accepted of wanted, by filter
              </th>
              <th scope="col">tonight {night && <span className="normal-case">({night.timeZone})</span>}</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((project) => (
              <tr key={project.id} className="rule">
                <td>
                  <Link className="word-link font-serif text-base" to={`/projects/${project.id}`}>
                    {project.name}
                  </Link>
                  <span className="block truncate text-xs text-soft">
                    {project.ownerName} · {project.rigName}
                    {project.panelCount > 1 && ` · ${project.panelCount} panels`}
                  </span>
                </td>
                <td className={project.state === 'granted' && !project.resting ? '' : 'italic text-soft'}>
                  {stateWords(project)}
                </td>
                <td className="text-right">
                  {percent(project.share)}
                  <span className="block text-xs text-soft">{heldBackWords(project)}</span>
                </td>
                <td>
                  {project.filters.map(({ filterLetter, filterClass, tally }) => (
                    <span key={filterLetter} className="grid grid-cols-[52px_1fr_80px_52px] items-center gap-2">
                      <FilterTab letter={filterLetter} filterClass={filterClass} />
                      <ProgressBar letter={filterLetter} filterClass={filterClass} tally={tally} />
                      <span className="text-right text-xs">
                        {count(tally.accepted)}/{tally.wanted ?? '∞'}
                      </span>
                      <span className="text-right text-xs text-soft">{hours(tally.acceptedHours)} h</span>
                    </span>
                  ))}
                </td>
                <td tabIndex={project.tonight.reason ? 0 : undefined}>
                  {night && project.state !== 'retired' && (
                    <NightStrip
                      sky={night.sky}
                      zone={zone}
                      height={14}
                      nowUtcMs={night.nowUtcMs}
                      windows={project.tonight.windows}
                      label={`${project.name} tonight: ${tonightWords(project)}`}
                    />
                  )}
                  <span className="text-sm">
                    {tonightWords(project)}
                    {project.tonight.reason && night && (
                      <WhyMark
                        note={{ title: project.name, paragraphs: [longReason(project.tonight.reason, night.timeZone)] }}
                      />
                    )}
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
