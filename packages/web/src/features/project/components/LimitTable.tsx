import type { Project } from '@meridiem/contract';
import type { FilterClass, LimitKey } from '@meridiem/core';
import { limitRow, limitText, typedLimit } from '@meridiem/core';
import { useState } from 'react';
import { EditableText } from '../../../ui/EditableText.tsx';
import { proposedOf, settingOf } from '../../../words/limit-setting.ts';
import type { ProjectChanges } from '../queries.ts';
import { limitLines } from '../view-model.ts';
import { LimitPicture } from './LimitPicture.tsx';

interface LimitTableProps {
  readonly project: Project;
  readonly filterClass: FilterClass;
  readonly changes: ProjectChanges;
  readonly attempt: (work: Promise<unknown>) => void;
}

/** The limits of one class of filter: the value that will be used, where it comes from, and how to make it one's own. */
export function LimitTable({ project, filterClass, changes, attempt }: LimitTableProps) {
  const set = (
    key: (typeof lines)[number]['key'],
    setting: Parameters<ProjectChanges['setLimit']>[0]['setting'],
  ): Promise<unknown> => changes.setLimit({ scope: 'project', scopeId: project.id, class: filterClass, key, setting });
  const lines = limitLines(project, filterClass);
  const [looked, setLooked] = useState<{ key: LimitKey; typed: string | null } | null>(null);
  const proposed = looked && looked.typed !== null ? proposedOf(looked.key, looked.typed) : undefined;
  return (
    <section aria-label={`Limits, ${filterClass}`} className="mt-3">
      <h3 className="text-base capitalize">{filterClass}</h3>
      <dl className="grid gap-x-10 md:grid-cols-2 lg:grid-cols-3">
        {lines.map(({ key, value, origin, own }) => (
          <div key={key} className="rule flex items-baseline gap-2 py-1">
            <dt className="text-soft" title={limitRow(key).help}>
              <button
                type="button"
                className="cursor-pointer text-left hover:text-ink"
                aria-label={`What this costs: ${limitRow(key).name}, ${filterClass}`}
                onClick={() => setLooked(looked?.key === key ? null : { key, typed: null })}
              >
                {limitRow(key).name}
              </button>
            </dt>
            <dd className={`ml-auto text-right ${own ? 'font-semibold' : 'italic'}`}>
              <EditableText
                label={`${limitRow(key).name}, ${filterClass}`}
                disabled={!project.mayEdit}
                shown={limitText(key, value)}
                text={value === null ? '' : typedLimit(key, value)}
                onType={(typed) => setLooked({ key, typed })}
                onSave={(text) => set(key, settingOf(key, text)).finally(() => setLooked({ key, typed: null }))}
              />
            </dd>
            <dd className="w-[118px] text-right text-xs text-soft">
              {own && project.mayEdit ? (
                <button
                  type="button"
                  className="word-link cursor-pointer"
                  onClick={() => attempt(set(key, { inherit: true }))}
                >
                  Reset to inherited
                </button>
              ) : (
                origin
              )}
            </dd>
          </div>
        ))}
      </dl>
      {looked && (
        <LimitPicture
          projectId={project.id}
          filterClass={filterClass}
          limitKey={looked.key}
          proposed={proposed}
          onClose={() => setLooked(null)}
        />
      )}
    </section>
  );
}
