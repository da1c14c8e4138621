import type { LimitKey } from '@meridiem/core';
import { LIMIT_KEYS, limitRow, limitText, typedLimit } from '@meridiem/core';
import { useState } from 'react';
import { EditableText } from '../../../ui/EditableText.tsx';
import { settingOf } from '../../../words/limit-setting.ts';
import type { ProjectChanges } from '../queries.ts';
import { useProject } from '../queries.ts';

interface GoalLimitsProps {
  readonly projectId: string;
  readonly goalId: string;
  readonly changes: ProjectChanges;
}

/** The limits in force for one goal with where each comes from; any of them can be made the goal's own. */
export function GoalLimits({ projectId, goalId, changes }: GoalLimitsProps) {
  const { data: project } = useProject(projectId);
  const [added, setAdded] = useState<LimitKey | null>(null);
  const goal = project?.panels.flatMap((panel) => panel.goals).find(({ id }) => id === goalId);
  if (!project || !goal) return null;
  const own = new Set(goal.ownLimits.map(({ key }) => key));
  const isShown = (key: LimitKey, value: number | null): boolean => value !== null || own.has(key) || key === added;
  const set = (key: LimitKey, setting: Parameters<ProjectChanges['setLimit']>[0]['setting']): Promise<unknown> =>
    changes.setLimit({ scope: 'goal', scopeId: goalId, class: null, key, setting });
  return (
    <section aria-label={`Limits of this goal, ${goal.filterLetter}`} className="mt-3 border-t border-hairline pt-2">
      <h3 className="text-base">Limits of this goal</h3>
      <dl>
        {goal.limits
          .filter(({ key, value }) => isShown(key, value))
          .map(({ key, value, origin }) => (
            <div key={key} className="rule py-1">
              <div className="flex items-baseline gap-2">
                <dt className="text-soft" title={limitRow(key).help}>
                  {limitRow(key).name}
                </dt>
                <dd className={`ml-auto text-right ${own.has(key) ? 'font-semibold' : 'italic'}`}>
                  <EditableText
                    label={`${limitRow(key).name}, this goal`}
                    draftKey={`limit ${key} ${goalId}`}
                    disabled={!project.mayEdit}
                    shown={limitText(key, value)}
                    text={value === null ? '' : typedLimit(key, value)}
                    onSave={(text) => set(key, settingOf(key, text))}
                  />
                </dd>
              </div>
              <dd className="text-right text-xs text-soft">
                {own.has(key) && project.mayEdit ? (
                  <button
                    type="button"
                    className="word-link cursor-pointer"
                    aria-label={`Reset to inherited: ${limitRow(key).name}, this goal`}
                    onClick={() => void set(key, { inherit: true })}
                  >
                    this goal’s own: reset
                  </button>
                ) : (
                  `from: ${origin}`
                )}
              </dd>
            </div>
          ))}
      </dl>
      {project.mayEdit && (
        <select
          aria-label="Set another limit for this goal"
          className="mt-2 w-full"
          value=""
          onChange={(event) => setAdded(event.target.value as LimitKey)}
        >
          <option value="">another limit…</option>
          {LIMIT_KEYS.filter((key) => !goal.limits.some((limit) => limit.key === key && isShown(key, limit.value))).map(
            (key) => (
              <option key={key} value={key}>
                {limitRow(key).name}
              </option>
            ),
          )}
        </select>
      )}
    </section>
  );
}
