import type { Project, Rig, Role } from '@meridiem/contract';
import { COUNTING_POLICIES, PROJECT_STATES } from '@meridiem/contract';
import type { PanelOrder } from '@meridiem/core';
import { PANEL_ORDERS } from '@meridiem/core';
import { refocusWords } from '../goal-rows.ts';
import type { ProjectChanges } from '../queries.ts';

const COUNTING_WORDS = {
  all: 'count all but rejected',
  after_rules: 'count after rules',
  after_person: 'count after a person',
} as const;
const PANEL_ORDER_WORDS: Readonly<Record<PanelOrder, string>> = {
  free: 'as it is worth most',
  one_per_night: 'one a night',
  in_turn: 'in turn every night',
};
const OWNER_STATES: readonly string[] = ['draft', 'proposed', 'retired'];

interface ProjectSwitchesProps {
  readonly project: Project;
  readonly rig: Rig | undefined;
  readonly role: Role;
  readonly personId: string;
  readonly changes: ProjectChanges;
  readonly attempt: (work: Promise<unknown>) => void;
}

/** State, rest, counting and grade; each saved at once. */
export function ProjectSwitches({ project, rig, role, personId, changes, attempt }: ProjectSwitchesProps) {
  const refocus = rig ? refocusWords(project, rig) : null;
  const states =
    role === 'coordinator'
      ? PROJECT_STATES
      : PROJECT_STATES.filter((state) => OWNER_STATES.includes(state) || state === project.state);
  const edit = (fields: Omit<Parameters<ProjectChanges['editProject']>[0], 'version'>): void =>
    attempt(changes.editProject({ version: project.version, ...fields }));
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <label>
        <span className="text-soft">State</span>{' '}
        <select
          disabled={!project.mayEdit}
          value={project.state}
          onChange={(event) => edit({ state: event.target.value as Project['state'] })}
        >
          {states.map((state) => (
            <option key={state}>{state}</option>
          ))}
        </select>
      </label>
      <label>
        <input
          type="checkbox"
          disabled={!project.mayEdit}
          checked={project.resting}
          onChange={(event) => edit({ resting: event.target.checked })}
        />{' '}
        <span className="text-soft">resting</span>
      </label>
      <label>
        <span className="text-soft">Counting</span>{' '}
        <select
          disabled={!project.mayEdit}
          value={project.counting}
          onChange={(event) => edit({ counting: event.target.value as Project['counting'] })}
        >
          {COUNTING_POLICIES.map((policy) => (
            <option key={policy} value={policy}>
              {COUNTING_WORDS[policy]}
            </option>
          ))}
        </select>
      </label>
      {project.counting === 'after_rules' && (
        <span className="text-sm text-soft">
          {project.judging
            ? 'Goals that want fewer than 8, and exposures in which nothing was measured, count unless rejected.'
            : 'Rules are off here: all but rejected count.'}
        </span>
      )}
      <label title="Star size, star count, guiding and background are held against earlier exposures of the same goal">
        <input
          type="checkbox"
          disabled={!project.mayEdit}
          checked={project.judging}
          onChange={(event) => edit({ judging: event.target.checked })}
        />{' '}
        <span className="text-soft">judged by rules</span>
      </label>
      <label title="Others see its hours as reserved; you and the coordinators see it whole">
        <input
          type="checkbox"
          disabled={!project.mayEdit}
          checked={project.private}
          onChange={(event) => edit({ private: event.target.checked })}
        />{' '}
        <span className="text-soft">private</span>
      </label>
      <label>
        <span className="text-soft">Grade</span>{' '}
        <select
          disabled={role !== 'coordinator'}
          value={project.grade}
          onChange={(event) => edit({ grade: Number(event.target.value) })}
        >
          <option value={1}>1, low</option>
          <option value={2}>2, usual</option>
          <option value={3}>3, high</option>
        </select>
      </label>
      {project.ownerId === personId && (
        <label title="Your own order: what you put first counts more than your other projects, not more than other members’">
          <span className="text-soft">Among your projects</span>{' '}
          <select value={project.ownRank} onChange={(event) => edit({ ownRank: Number(event.target.value) })}>
            <option value={3}>first</option>
            <option value={2}>in the middle</option>
            <option value={1}>last</option>
          </select>
        </label>
      )}
      <label title="Work of later nights counts nothing, or less and less; nights and the season are planned by it">
        <span className="text-soft">Last night that counts</span>{' '}
        <input
          type="date"
          disabled={!project.mayEdit}
          value={project.deadline ?? ''}
          onChange={(event) => edit({ deadline: event.target.value || null })}
        />
      </label>
      {project.deadline && (
        <label title="After its last night a project’s work counts less each night, and nothing after so many; empty: nothing at once">
          <span className="text-soft">fading over nights</span>{' '}
          <input
            type="number"
            min={1}
            max={90}
            className="w-14 text-right"
            disabled={!project.mayEdit}
            key={project.decayNights}
            defaultValue={project.decayNights ?? ''}
            onBlur={({ target: { value } }) => edit({ decayNights: value === '' ? null : Number(value) })}
          />
        </label>
      )}
      {project.panels.length > 1 && (
        <label>
          <span className="text-soft">Panels</span>{' '}
          <select
            disabled={!project.mayEdit}
            value={project.panelOrder}
            onChange={(event) => edit({ panelOrder: event.target.value as Project['panelOrder'] })}
          >
            {PANEL_ORDERS.map((order) => (
              <option key={order} value={order}>
                {PANEL_ORDER_WORDS[order]}
              </option>
            ))}
          </select>
        </label>
      )}
      <label>
        <span className="text-soft">Filters</span>{' '}
        <select
          disabled={!project.mayEdit}
          value={project.filterGroup}
          onChange={(event) => edit({ filterGroup: Number(event.target.value) })}
        >
          <option value={0}>one after the other</option>
          {[...new Set([1, 2, 3, 5, 10, ...(project.filterGroup > 0 ? [project.filterGroup] : [])])]
            .sort((a, b) => a - b)
            .map((group) => (
              <option key={group} value={group}>
                alternating, {group} of each, a dither a round
              </option>
            ))}
        </select>
      </label>
      {(
        [
          ['stepGuide', 'guide'],
          ['stepCentre', 'centre'],
          ['stepFocus', 'focus'],
        ] as const
      ).map(([step, words]) => (
        <label key={step} title={`Whether arriving at a panel of this project includes: ${words}`}>
          <input
            type="checkbox"
            disabled={!project.mayEdit}
            checked={project[step]}
            onChange={(event) => edit({ [step]: event.target.checked })}
          />{' '}
          <span className="text-soft">{words}</span>
        </label>
      ))}
      {refocus && <span className="basis-full text-signal">{refocus}</span>}
      {project.complete && <strong className="font-serif">Complete: everything wanted has been taken.</strong>}
      {!project.mayEdit && (
        <span className="text-soft">You may look; changes are its owner’s and the coordinator’s.</span>
      )}
    </div>
  );
}
