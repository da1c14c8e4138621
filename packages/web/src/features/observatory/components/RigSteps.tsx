import type { Rig } from '@meridiem/contract';
import type { StepMoment } from '@meridiem/core';
import { STEP_MOMENTS } from '@meridiem/core';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { ObservatoryChanges } from '../queries.ts';

const MOMENT_WORDS: Readonly<Record<StepMoment, string>> = {
  arriving: 'After arriving',
  leaving: 'Before leaving',
  before_wait: 'Before a wait',
  after_wait: 'After a wait',
};

interface RigStepsProps {
  readonly rig: Rig;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** Steps that people add to the rig's chain, each once per stay. */
export function RigSteps({ rig, mayEdit, changes }: RigStepsProps) {
  const save = (moment: StepMoment, text: string): Promise<unknown> => {
    const own = text
      .split(/[;\n]/)
      .map((words) => words.trim())
      .filter((words) => words !== '')
      .map((words) => ({ moment, words }));
    return changes.steps(rig, [...rig.steps.filter((step) => step.moment !== moment), ...own]);
  };
  return (
    <section aria-label={`Steps of ${rig.name}`} className="mt-4">
      <h3 className="text-base">Steps around a stay</h3>
      <p className="text-soft">
        Slew, centre, focus and guiding come by themselves; a project may switch them off. What is added here is done
        once per stay; several with ;
      </p>
      <dl>
        {STEP_MOMENTS.map((moment) => {
          const text = rig.steps
            .filter((step) => step.moment === moment)
            .map(({ words }) => words)
            .join('; ');
          return (
            <div key={moment} className="rule flex items-baseline gap-3 py-1">
              <dt className="text-soft">{MOMENT_WORDS[moment]}</dt>
              <dd className="ml-auto text-right">
                <EditableText
                  label={`${MOMENT_WORDS[moment]}, ${rig.name}`}
                  width={260}
                  disabled={!mayEdit}
                  shown={text || 'nothing more'}
                  text={text}
                  onSave={(typed) => save(moment, typed)}
                />
              </dd>
            </div>
          );
        })}
      </dl>
    </section>
  );
}
