import type { ProjectRow, Rig, Standing, WhatIf } from '@meridiem/contract';
import type { AddressChanges } from '../../../app/address.ts';
import { Labelled } from '../../../ui/Labelled.tsx';
import { percent } from '../../../words/format.ts';
import { withEntry, withGrade, withLimits, withShares } from '../what-if.ts';
import { DateField } from '../../../ui/DateField.tsx';
import { TriedLimits } from './TriedLimits.tsx';
import { TriedShares } from './TriedShares.tsx';

const FAIRNESS = [0, 0.25, 0.5, 0.75, 1];
const GRADE_WORDS: Readonly<Record<number, string>> = { 1: 'low', 2: 'usual', 3: 'high' };

interface TriedChangesProps {
  readonly whatIf: WhatIf;
  readonly projects: readonly ProjectRow[];
  readonly rigs: readonly Pick<Rig, 'id' | 'name'>[];
  readonly tonight: string;
  readonly standing: Standing;
  readonly change: (changes: AddressChanges) => void;
}

/** The changes that are tried: who is in, at what grade, nights closed, fairness, limits, shares. */
export function TriedChanges({ whatIf, projects, rigs, tonight, standing, change }: TriedChangesProps) {
  const { fairness } = standing;
  const [closed] = whatIf.closed ?? [];
  const leftOut = whatIf.leftOut ?? [];
  const granted = whatIf.granted ?? [];
  const isIn = ({ id, state, resting }: ProjectRow): boolean =>
    granted.includes(id) || (state === 'granted' && !resting && !leftOut.includes(id));
  const turn = (project: ProjectRow, on: boolean): void => {
    const isReal = project.state === 'granted' && !project.resting;
    if (isReal) change({ without: withEntry(leftOut, project.id, !on) });
    else change({ granted: withEntry(granted, project.id, on) });
  };
  const gradeOf = (project: ProjectRow): number =>
    whatIf.grades?.find(({ projectId }) => projectId === project.id)?.grade ?? project.grade;
  return (
    <section aria-label="Changes tried" className="mt-4">
      <div className="flex flex-wrap items-end gap-4">
        <Labelled label="Close from" error={undefined}>
          <DateField
            near={tonight}
            value={closed?.firstNight ?? ''}
            onChange={(date) => change({ closedFrom: date, closedTo: closed?.lastNight ?? date })}
          />
        </Labelled>
        <Labelled label="to" error={undefined}>
          <DateField
            near={closed?.firstNight ?? tonight}
            value={closed?.lastNight ?? ''}
            onChange={(date) => change({ closedTo: date, closedFrom: closed?.firstNight ?? date })}
          />
        </Labelled>
        <Labelled label="What is closed" error={undefined}>
          <select value={closed?.rigId ?? ''} onChange={(event) => change({ closedRig: event.target.value || null })}>
            <option value="">everything</option>
            {rigs.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label="Fairness counts" error={undefined}>
          <select
            value={whatIf.fairness ?? fairness}
            onChange={(event) =>
              change({ fairness: Number(event.target.value) === fairness ? null : event.target.value })
            }
          >
            {[...new Set([...FAIRNESS, fairness])]
              .toSorted((a, b) => a - b)
              .map((step) => (
                <option key={step} value={step}>
                  {percent(step)}
                  {step === fairness ? ', as it is' : ''}
                </option>
              ))}
          </select>
        </Labelled>
        <button
          type="button"
          className="act"
          onClick={() =>
            change({
              granted: null,
              without: null,
              grades: null,
              fairness: null,
              closedFrom: null,
              closedTo: null,
              closedRig: null,
              limits: null,
              shares: null,
            })
          }
        >
          Discard all
        </button>
      </div>
      <ul className="mt-3 grid gap-x-8 sm:grid-cols-2">
        {projects.map((project) => (
          <li key={project.id} className="rule flex items-baseline gap-3 py-1">
            <label className="grow">
              <input
                type="checkbox"
                checked={isIn(project)}
                onChange={(event) => turn(project, event.target.checked)}
              />{' '}
              {project.name}{' '}
              <span className="text-sm text-soft">
                {project.ownerName}
                {project.state !== 'granted' ? `, ${project.state}` : project.resting ? ', resting' : ''}
              </span>
            </label>
            <select
              aria-label={`Grade of ${project.name}`}
              value={gradeOf(project)}
              onChange={(event) =>
                change({
                  grades: withGrade(
                    whatIf,
                    project.id,
                    Number(event.target.value) === project.grade ? null : Number(event.target.value),
                  ),
                })
              }
            >
              {[1, 2, 3].map((grade) => (
                <option key={grade} value={grade}>
                  {grade}, {GRADE_WORDS[grade]}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
      <TriedLimits
        tried={whatIf.limits ?? []}
        projects={projects}
        onChange={(tried) => change({ limits: withLimits(tried) || null })}
      />
      <TriedShares
        key={whatIf.shares ? 'tried' : 'as they are'}
        standing={standing}
        tried={whatIf.shares}
        onChange={(shares) => change({ shares: withShares(shares) })}
      />
    </section>
  );
}
