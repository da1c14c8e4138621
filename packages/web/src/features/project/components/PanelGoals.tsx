import type { Filter, Goal, Panel, Project, Recipe, Rig } from '@meridiem/contract';
import { formatDeclination, formatRightAscension, parsePosition, parseWish } from '@meridiem/core';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { ProgressBar } from '../../../filters/ProgressBar.tsx';
import { Choice } from '../../../ui/Choice.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import { WhyMark } from '../../../why/why-context.tsx';
import { clock, count, degrees, duration, hours, percent } from '../../../words/format.ts';
import { longReason } from '../../../words/reasons.ts';
import type { ProjectChanges } from '../queries.ts';
import { ditherWords, revisionWords } from '../goal-rows.ts';
import { leftWords, panelCost, tonightOf } from '../view-model.ts';
import { AddGoal } from './AddGoal.tsx';
import { Fits } from './Fits.tsx';
import { GoalLimits } from './GoalLimits.tsx';
import { GoalHistory } from './GoalHistory.tsx';

interface PanelGoalsProps {
  readonly project: Project;
  readonly panel: Panel;
  readonly zone: string;
  readonly rig: Rig | undefined;
  readonly recipes: readonly Recipe[];
  readonly filters: readonly Filter[];
  readonly changes: ProjectChanges;
  readonly attempt: (work: Promise<unknown>) => void;
}

/** One panel: where it points, and each goal's four numbers with what is left. */
export function PanelGoals({ project, panel, zone, rig, recipes, filters, changes, attempt }: PanelGoalsProps) {
  const left = panelCost(panel);
  const unused = recipes.filter((recipe) => !panel.goals.some((goal) => goal.recipeId === recipe.id));
  return (
    <section aria-label={panel.name} className="mt-8">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-lg">{panel.name}</h2>
        <Pointing project={project} panel={panel} changes={changes} />
        <span className="text-soft">{percent(panel.share)} done</span>
        {left.exposingSec > 0 && (
          <span className="text-soft">
            left {duration(left.exposingSec)} exposing + {duration(left.overheadSec)} overhead
          </span>
        )}
      </div>
      <table className="mt-1 w-full">
        <thead>
          <tr className="rule">
            <th scope="col">goal</th>
            <th scope="col" className="w-[150px]">
              progress
            </th>
            <th scope="col" className="text-right">
              accepted
            </th>
            <th scope="col" className="text-right">
              undecided
            </th>
            <th scope="col" className="text-right">
              rejected
            </th>
            <th scope="col" className="text-right">
              wanted
            </th>
            <th scope="col" className="text-right">
              effective
            </th>
            <th scope="col">left: exposing + overhead</th>
            <th scope="col">tonight</th>
          </tr>
        </thead>
        <tbody>
          {panel.goals.map((goal) => (
            <GoalRow
              key={goal.id}
              goal={goal}
              project={project}
              zone={zone}
              panelGoals={panel.goals}
              recipes={recipes}
              changes={changes}
              attempt={attempt}
            />
          ))}
          {panel.goals.length === 0 && (
            <tr>
              <td colSpan={9} className="text-soft">
                No goals yet: nothing of this panel is wanted.
              </td>
            </tr>
          )}
        </tbody>
      </table>
      {project.mayEdit && unused.length > 0 && (
        <AddGoal
          panel={panel}
          panelCount={project.panels.length}
          rig={rig}
          recipes={unused}
          filters={filters}
          changes={changes}
        />
      )}
    </section>
  );
}

function Pointing({ project, panel, changes }: Pick<PanelGoalsProps, 'project' | 'panel' | 'changes'>) {
  const placed = panel.raDeg !== null && panel.decDeg !== null;
  const text = placed ? `${formatRightAscension(panel.raDeg!)}, ${formatDeclination(panel.decDeg!)}` : '';
  const save = (typed: string): Promise<unknown> => {
    const [raText = '', decText = ''] = typed.split(',').map((part) => part.trim());
    return changes.editPanel(panel.id, { raText, decText, positionAngleDeg: panel.positionAngleDeg });
  };
  const read = (typed: string): string => {
    const [raText = '', decText = ''] = typed.split(',');
    const position = parsePosition(raText, decText);
    return position ? `${formatRightAscension(position.raDeg)}, ${formatDeclination(position.decDeg)}` : 'no position';
  };
  return (
    <span className={placed ? 'text-soft' : 'text-signal'}>
      <EditableText
        label={`Position of ${panel.name}`}
        width={240}
        disabled={!project.mayEdit}
        shown={placed ? text : 'no position yet'}
        text={text}
        read={read}
        onSave={save}
      />
      , angle {degrees(panel.positionAngleDeg, 0)}
    </span>
  );
}

function GoalRow({
  goal,
  panelGoals,
  project,
  zone,
  recipes,
  changes,
  attempt,
}: { goal: Goal; panelGoals: readonly Goal[] } & Pick<
  PanelGoalsProps,
  'project' | 'zone' | 'recipes' | 'changes' | 'attempt'
>) {
  const { tally } = goal;
  const pair = (number: number, inHours: number) => (
    <>
      {count(number)}
      <span className="unit inline-block w-[46px] text-right">{hours(inHours)} h</span>
    </>
  );
  return (
    <tr className={`rule ${goal.enabled ? '' : 'text-soft italic'}`}>
      <td className="whitespace-nowrap">
        <FilterTab letter={goal.filterLetter} filterClass={goal.filterClass} /> {goal.exposureSec}
        <span className="unit">s</span> <span className="text-soft">gain {goal.gain}</span>
        <GoalNote
          goal={goal}
          projectId={project.id}
          zone={zone}
          changes={changes}
          onTake={project.mayEdit ? (wanted) => attempt(changes.editGoal(goal, { wanted })) : null}
        />
        {goal.newerRevisionSeq !== null && project.mayEdit && (
          <button
            type="button"
            className="word-link ml-2 cursor-pointer text-xs"
            onClick={() => attempt(changes.editGoal(goal, { takeNewestRevision: true }))}
          >
            take revision {goal.newerRevisionSeq}:{' '}
            {revisionWords(
              goal,
              recipes.find(({ id }) => id === goal.recipeId),
            )}
          </button>
        )}
        {project.mayEdit && (
          <GoalActions goal={goal} panelGoals={panelGoals} recipes={recipes} changes={changes} attempt={attempt} />
        )}
        {project.mayEdit && (
          <label className="ml-2 text-xs text-soft">
            <input
              type="checkbox"
              aria-label={`${goal.filterLetter} switched on`}
              checked={goal.enabled}
              onChange={(event) => attempt(changes.editGoal(goal, { enabled: event.target.checked }))}
            />{' '}
            on
          </label>
        )}
      </td>
      <td className="pr-4">
        <ProgressBar letter={goal.filterLetter} filterClass={goal.filterClass} tally={tally} />
      </td>
      <td className="whitespace-nowrap text-right">{pair(tally.accepted, tally.acceptedHours)}</td>
      <td className="whitespace-nowrap text-right">{pair(tally.undecided, tally.undecidedHours)}</td>
      <td className="whitespace-nowrap text-right">{pair(tally.rejected, tally.rejectedHours)}</td>
      <td className="whitespace-nowrap text-right">
        <EditableText
          label={`Wanted through ${goal.filterLetter}`}
          draftKey={`wanted ${goal.id}`}
          disabled={!project.mayEdit}
          shown={goal.wanted === null ? 'open-ended' : pair(goal.wanted, tally.wantedHours ?? 0)}
          text={goal.wanted === null ? 'open' : String(goal.wanted)}
          read={(text) => parseWish(text, goal.exposureSec).words}
          onSave={(text) => changes.editGoal(goal, { wanted: parseWish(text, goal.exposureSec).count })}
        />
      </td>
      <td className="whitespace-nowrap text-right">
        {hours(tally.effectiveHours)}
        <span className="unit">h</span>
      </td>
      <td className="whitespace-nowrap">{leftWords(goal)}</td>
      <td>
        {goal.differs && <span className="block text-signal">differs from earlier exposures: {goal.differs}</span>}
        {goal.mixed && <span className="block text-signal">mixes {goal.mixed}</span>}
        {tonightOf(goal, zone)}
        {goal.tonight?.reason && (
          <WhyMark
            note={{ title: `${goal.filterLetter} tonight`, paragraphs: [longReason(goal.tonight.reason, zone)] }}
          />
        )}
      </td>
    </tr>
  );
}

interface GoalActionsProps extends Pick<PanelGoalsProps, 'recipes' | 'changes' | 'attempt'> {
  readonly goal: Goal;
  readonly panelGoals: readonly Goal[];
}

/** Another recipe of the same filter, whose exposures keep their credit; a goal without exposures is removed. */
function GoalActions({ goal, panelGoals, recipes, changes, attempt }: GoalActionsProps) {
  const taken = panelGoals.filter(({ id }) => id !== goal.id).map(({ recipeId }) => recipeId);
  const others = recipes.filter(({ id, filterId }) => filterId === goal.filterId && !taken.includes(id));
  const isEmpty = goal.tally.accepted + goal.tally.undecided + goal.tally.rejected === 0;
  return (
    <span className="ml-2 text-xs text-soft">
      {others.some(({ id }) => id !== goal.recipeId) && (
        <Choice
          label={`Recipe of ${goal.filterLetter}`}
          value={goal.recipeId}
          nothing={goal.recipeName}
          options={others.map(({ id, name, exposureSec }) => ({ value: id, words: `${name}, ${exposureSec} s` }))}
          onChoose={(recipeId) => attempt(changes.editGoal(goal, { recipeId }))}
        />
      )}
      {isEmpty && (
        <button
          type="button"
          className="word-link ml-2 cursor-pointer"
          aria-label={`Remove goal ${goal.filterLetter}, ${goal.recipeName}`}
          onClick={() => attempt(changes.removeGoal(goal.id))}
        >
          remove
        </button>
      )}
    </span>
  );
}

/** The values this goal will really be exposed with, and where its limits come from. */
function GoalNote({
  goal,
  projectId,
  zone,
  changes,
  onTake,
}: {
  goal: Goal;
  projectId: string;
  zone: string;
  changes: ProjectChanges;
  onTake: ((wanted: number) => void) | null;
}) {
  const windows = goal.tonight?.windows
    .map((window) => `${clock(window.startUtcMs, zone)}–${clock(window.endUtcMs, zone)}`)
    .join(', ');
  return (
    <WhyMark
      note={{
        title: `${goal.filterLetter}: what will be used`,
        paragraphs: [
          ...(goal.why ? [`Why: ${goal.why}.`] : []),
          `Recipe “${goal.recipeName}”, revision ${goal.recipeRevisionSeq}: ${goal.exposureSec} s, gain ${goal.gain}, offset ${goal.offset}, binning ${goal.binning}, ${ditherWords(goal)}${goal.region ? `, only ${goal.region.widthPx} × ${goal.region.heightPx} px of the sensor` : ''}.`,
          windows ? `Every limit is met tonight at ${windows}.` : 'Tonight no stretch meets every limit.',
        ],
        more: (
          <>
            <Fits goal={goal} onTake={onTake} />
            <GoalLimits projectId={projectId} goalId={goal.id} changes={changes} />
            <GoalHistory goalId={goal.id} zone={zone} />
          </>
        ),
      }}
    />
  );
}
