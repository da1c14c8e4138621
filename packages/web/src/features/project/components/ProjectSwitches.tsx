import type { Project, Rig, Role } from '@meridiem/contract';
import { Choice } from '../../../ui/Choice.tsx';
import { DateField } from '../../../ui/DateField.tsx';
import { Toggle } from '../../../ui/Toggle.tsx';
import { shortDateOf } from '../../../words/format.ts';
import { refocusWords } from '../goal-rows.ts';
import {
  ARRIVAL_STEPS,
  COUNTING_OPTIONS,
  filterOptionsOf,
  GRADE_OPTIONS,
  PANEL_OPTIONS,
  RANK_OPTIONS,
  stateOptions,
} from '../project-settings.ts';
import type { ProjectChanges } from '../queries.ts';

interface ProjectSwitchesProps {
  readonly project: Project;
  readonly rig: Rig | undefined;
  readonly role: Role;
  readonly personId: string;
  readonly changes: ProjectChanges;
  readonly attempt: (work: Promise<unknown>) => void;
}

type Edit = (fields: Omit<Parameters<ProjectChanges['editProject']>[0], 'version'>) => void;

/** The project's settings as plain statements; each opens where it is clicked and is saved at once. */
export function ProjectSwitches({ project, rig, role, personId, changes, attempt }: ProjectSwitchesProps) {
  const refocus = rig ? refocusWords(project, rig) : null;
  const edit: Edit = (fields) => attempt(changes.editProject({ version: project.version, ...fields }));
  return (
    <div className="mt-2 grid gap-1">
      <p className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <Standing project={project} role={role} personId={personId} edit={edit} />
      </p>
      <p className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <Work project={project} edit={edit} />
      </p>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <LastNight project={project} edit={edit} />
      </div>
      {refocus && <p className="text-signal">{refocus}</p>}
      {project.complete && <strong className="font-serif">Complete: everything wanted has been taken.</strong>}
      {!project.mayEdit && <p className="text-soft">You may look; changes are its owner’s and the coordinator’s.</p>}
    </div>
  );
}

interface PartProps {
  readonly project: Project;
  readonly edit: Edit;
}

/** Where it stands among the others. */
function Standing({ project, role, personId, edit }: PartProps & Pick<ProjectSwitchesProps, 'role' | 'personId'>) {
  const isFixed = !project.mayEdit;
  return (
    <>
      <strong>
        <Choice
          label="State"
          value={project.state}
          options={stateOptions(project, role)}
          disabled={isFixed}
          onChoose={(state) => edit({ state: state as Project['state'] })}
        />
      </strong>
      <Toggle
        label="Resting"
        on="resting: no night plans it"
        off="not resting"
        isOn={project.resting}
        disabled={isFixed}
        onToggle={(resting) => edit({ resting })}
      />
      <Choice
        label="Grade"
        value={String(project.grade)}
        options={GRADE_OPTIONS}
        disabled={role !== 'coordinator'}
        onChoose={(grade) => edit({ grade: Number(grade) })}
      />
      {project.ownerId === personId && (
        <Choice
          label="Among your projects"
          value={String(project.ownRank)}
          options={RANK_OPTIONS}
          onChoose={(ownRank) => edit({ ownRank: Number(ownRank) })}
        />
      )}
      <Toggle
        label="Private"
        on="private: others see its hours as reserved"
        off="open to all members"
        isOn={project.private}
        disabled={isFixed}
        onToggle={(isPrivate) => edit({ private: isPrivate })}
      />
    </>
  );
}

/** How it is exposed and what counts. */
function Work({ project, edit }: PartProps) {
  const isFixed = !project.mayEdit;
  return (
    <>
      <Choice
        label="Filters"
        value={String(project.filterGroup)}
        options={filterOptionsOf(project)}
        disabled={isFixed}
        onChoose={(group) => edit({ filterGroup: Number(group) })}
      />
      {project.panels.length > 1 && (
        <Choice
          label="Panels"
          value={project.panelOrder}
          options={PANEL_OPTIONS}
          disabled={isFixed}
          onChoose={(order) => edit({ panelOrder: order as Project['panelOrder'] })}
        />
      )}
      {ARRIVAL_STEPS.map(({ key, ...words }) => (
        <Toggle
          key={key}
          {...words}
          isOn={project[key]}
          disabled={isFixed}
          onToggle={(isOn) => edit({ [key]: isOn })}
        />
      ))}
      <Choice
        label="Counting"
        value={project.counting}
        options={COUNTING_OPTIONS}
        disabled={isFixed}
        onChoose={(counting) => edit({ counting: counting as Project['counting'] })}
      />
      <Toggle
        label="Judged by rules"
        on="judged by rules"
        off="not judged by rules"
        isOn={project.judging}
        disabled={isFixed}
        onToggle={(judging) => edit({ judging })}
      />
      {project.counting === 'after_rules' && (
        <span className="basis-full text-sm text-soft">
          {project.judging
            ? 'Goals that want fewer than 8, and frames in which nothing was measured, count unless rejected.'
            : 'Rules are off here: all but rejected frames count.'}
        </span>
      )}
    </>
  );
}

/** Work of later nights counts nothing, or less and less; nights and the season are planned by it. */
function LastNight({ project, edit }: PartProps) {
  if (!project.mayEdit)
    return (
      <span>{project.deadline ? `last night that counts ${shortDateOf(project.deadline)}` : 'no last night'}</span>
    );
  return (
    <>
      <label>
        <span className="text-soft">Last night that counts</span>{' '}
        <DateField
          whenLeft
          nothing="none"
          value={project.deadline ?? ''}
          onChange={(date) => edit({ deadline: date || null })}
        />
      </label>
      {project.deadline && (
        <label>
          <span className="text-soft">after it work counts less each night, and nothing after</span>{' '}
          <input
            type="number"
            min={1}
            max={90}
            className="w-14 text-right"
            key={project.decayNights}
            defaultValue={project.decayNights ?? ''}
            placeholder="0"
            onBlur={({ target: { value } }) => edit({ decayNights: value === '' ? null : Number(value) })}
          />{' '}
          <span className="text-soft">nights</span>
        </label>
      )}
    </>
  );
}
