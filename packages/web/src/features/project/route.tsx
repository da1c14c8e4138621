import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { ApiError, wordsOf } from '../../app/api.ts';
import { useNotice } from '../../app/notices.tsx';
import { useAccount } from '../../app/session.ts';
import { goalRecipes } from './goal-recipes.ts';
import { useShownZone } from '../../app/zone.ts';
import { framingOfProject } from '../../targets/framing-address.ts';
import { EditableText } from '../../ui/EditableText.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { duration, hours, percent } from '../../words/format.ts';
import { CopyProject } from './components/CopyProject.tsx';
import { History } from './components/History.tsx';
import { HoursAsked } from './components/HoursAsked.tsx';
import { LimitTable } from './components/LimitTable.tsx';
import { MosaicDepth } from './components/MosaicDepth.tsx';
import { NightsGathered } from './components/NightsGathered.tsx';
import { PanelGoals } from './components/PanelGoals.tsx';
import { PutGoals } from './components/PutGoals.tsx';
import { ProjectSwitches } from './components/ProjectSwitches.tsx';
import { SharedExposures } from './components/SharedExposures.tsx';
import { TimeSpent } from './components/TimeSpent.tsx';
import { useObservatory, useProject, useProjectChanges } from './queries.ts';
import { behindWords, classesOf, totalsOf } from './view-model.ts';

/** One project: panels × filters, limits with their origins, history. */
export default function ProjectPage() {
  const { id = '' } = useParams();
  const { data: project, error, isPending, refetch } = useProject(id);
  const { data: observatory } = useObservatory();
  const changes = useProjectChanges(id);
  const notice = useNotice();
  const account = useAccount();
  const { zone } = useShownZone(observatory?.timeZone ?? 'utc');
  const rig = observatory?.rigs.find((candidate) => candidate.id === project?.rigId);
  const recipes = observatory && rig ? goalRecipes(observatory, rig, account) : [];
  const framing = useMemo(
    () => (project && rig && !project.moves ? framingOfProject(project, rig) : null),
    [project, rig],
  );
  if (isPending) return <Loading what="the project" rows={8} />;
  if (error instanceof ApiError && error.code === 'NOT_FOUND') return <Empty title="There is no such project." />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const totals = totalsOf(project.panels);
  const attempt = (work: Promise<unknown>): void => void work.catch((reason: unknown) => notice(wordsOf(reason), true));
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-2xl">
          <EditableText
            label="Name of the project"
            width={420}
            disabled={!project.mayEdit}
            shown={project.name}
            text={project.name}
            onSave={(name) => changes.editProject({ version: project.version, name })}
          />
        </h1>
        <span className="text-soft">
          {project.ownerName} · {project.rigName} · {project.targetName}
        </span>
        {framing && (
          <Link className="word-link" to={framing}>
            Framing
          </Link>
        )}
        {(account.role === 'coordinator' || project.ownerId === account.personId) && (
          <Link className="word-link" to={`/projects/${project.id}/files`}>
            Files
          </Link>
        )}
        <Link className="word-link" to={`/projects/${project.id}/depth`}>
          Depth
        </Link>
        {account.role !== 'guest' && <CopyProject project={project} />}
      </div>
      <ProjectSwitches
        project={project}
        rig={rig}
        role={account.role}
        personId={account.personId}
        changes={changes}
        attempt={attempt}
      />
      <p className="mt-2 font-serif text-base italic">
        <EditableText
          label="Why"
          width={560}
          disabled={!project.mayEdit}
          shown={project.why ?? 'Say why this project wants what it wants'}
          text={project.why ?? ''}
          onSave={(why) => changes.editProject({ version: project.version, why: why || null })}
        />
      </p>
      {rig && <MosaicDepth project={project} rig={rig} />}
      <dl className="mt-3 flex flex-wrap gap-x-8 gap-y-1">
        <Fact name="Done" value={percent(project.share)} remark={behindWords(project.name, project.panels)} />
        <Fact
          name="Accepted"
          value={`${hours(totals.acceptedHours)} h`}
          remark={totals.wantedHours === null ? 'open-ended' : `of ${hours(totals.wantedHours)} h wanted`}
        />
        <Fact
          name="Effective"
          value={`${hours(totals.effectiveHours)} h`}
          remark="measured against the target’s best sky"
        />
        <Fact
          name="Still to spend"
          value={`${duration(totals.leftExposingSec)} exposing`}
          remark={`+ ${duration(totals.leftOverheadSec)} overhead`}
        />
      </dl>
      <HoursAsked project={project} zone={zone} />
      <SharedExposures project={project} />
      {project.mayEdit && rig && observatory && (
        <PutGoals
          project={project}
          rig={rig}
          recipes={recipes}
          filters={observatory.filters}
          observatory={observatory}
        />
      )}
      {project.panels.map((panel) => (
        <PanelGoals
          key={panel.id}
          project={project}
          panel={panel}
          zone={zone}
          rig={rig}
          recipes={recipes}
          filters={observatory?.filters ?? []}
          changes={changes}
          attempt={attempt}
        />
      ))}
      <section aria-label="Limits" className="mt-10">
        <h2 className="text-xl">Limits</h2>
        <p className="text-soft">
          In italics what is inherited, with its origin. The observatory’s bounds come on top; no limit overrides them.
        </p>
        {classesOf(project.panels).map((filterClass) => (
          <LimitTable
            key={filterClass}
            project={project}
            filterClass={filterClass}
            changes={changes}
            attempt={attempt}
          />
        ))}
        {classesOf(project.panels).length === 0 && (
          <p className="mt-2 text-soft">Limits show once the project has a goal.</p>
        )}
      </section>
      <NightsGathered projectId={id} />
      <TimeSpent projectId={id} />
      <History projectId={id} zone={zone} />
    </>
  );
}

const Fact = ({ name, value, remark }: { name: string; value: string; remark: string }) => (
  <div>
    <dt className="text-sm text-soft">{name}</dt>
    <dd>
      <span className="font-serif text-lg">{value}</span> <span className="text-soft">{remark}</span>
    </dd>
  </div>
);
