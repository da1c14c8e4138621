import type { Filter, Rig, RigWish } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Choice } from '../../../ui/Choice.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import { Fold } from '../../../ui/Fold.tsx';
import { dateOf } from '../../../words/format.ts';
import type { ObservatoryChanges } from '../queries.ts';
import type { RigChoice, RigField } from '../rig-fields.ts';
import { holderWords, isChoice, RIG_GROUPS } from '../rig-fields.ts';
import { DEVICE_WORDS, rigFacts } from '../view-model.ts';
import { CameraModes } from './CameraModes.tsx';
import { FilterHolder } from './FilterHolder.tsx';
import { GearChanges } from './GearChanges.tsx';
import { MeasuredTimes } from './MeasuredTimes.tsx';
import { RigActions } from './RigActions.tsx';
import { RigDevices } from './RigDevices.tsx';
import { useRigChange } from './RigChange.tsx';
import { RigSteps } from './RigSteps.tsx';
import { RuleSheet } from './RuleSheet.tsx';
import { Line } from './Sheet.tsx';

interface RigSheetProps {
  readonly rig: Rig;
  readonly filters: readonly Filter[];
  readonly zone: string;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** A rig as plain statements that open into its settings; every change is a dated revision. */
export function RigSheet({ rig, filters, zone, mayEdit, changes }: RigSheetProps) {
  const facts = rigFacts(rig);
  const { change, question } = useRigChange(rig, changes);
  return (
    <section aria-label={rig.name}>
      <h2 className="text-xl">
        <EditableText
          label={`Name of ${rig.name}`}
          width={260}
          disabled={!mayEdit}
          shown={rig.name}
          text={rig.name}
          onSave={(name) => changes.renameRig(rig, name.trim())}
        />
      </h2>
      <p className="text-soft">
        revision {rig.revisionSeq}, in force since {dateOf(rig.since, zone)}
      </p>
      <p className="mt-1 font-serif text-lg">
        {facts.field} at {facts.scale}
        <span className="unit">″/px</span>, {facts.focalRatio}
      </p>
      {facts.doubts.map((doubt) => (
        <p key={doubt} role="alert" className="text-signal">
          {doubt}
        </p>
      ))}
      <div className="mt-1">
        {RIG_GROUPS.map(({ title, summary, items }) => (
          <Fold key={title} title={title} summary={summary(rig)}>
            <dl>
              {items(rig).map((item) => (
                <RigItem key={item.name} item={item} rig={rig} mayEdit={mayEdit} change={change} />
              ))}
            </dl>
            {title === 'Times' && (
              <MeasuredTimes
                rig={rig}
                mayEdit={mayEdit}
                change={change}
                onLearn={(learnsTimes) => changes.learnsTimes(rig, learnsTimes)}
              />
            )}
          </Fold>
        ))}
        <Fold title="Changes" summary="star size, guiding and overhead before and after each">
          <GearChanges rig={rig} zone={zone} />
        </Fold>
        <Fold title="Filters" summary={holderWords(rig)}>
          <FilterHolder rig={rig} filters={filters} mayEdit={mayEdit} change={change} />
        </Fold>
        <Fold title="Camera modes" summary={rig.cameraModes.map(({ name }) => name).join(', ')}>
          <CameraModes rig={rig} zone={zone} mayEdit={mayEdit} changes={changes} />
        </Fold>
        <Fold title="Own steps" summary={stepsWords(rig)}>
          <RigSteps rig={rig} mayEdit={mayEdit} changes={changes} />
        </Fold>
        {mayEdit && (
          <Fold title="Devices" summary={DEVICE_WORDS[rig.devices]}>
            <RigDevices rig={rig} />
          </Fold>
        )}
        <Fold title="Judging" summary="what rejects a frame by itself">
          <RuleSheet rig={rig} zone={zone} mayEdit={mayEdit} />
        </Fold>
      </div>
      {mayEdit && <RigActions rig={rig} changes={changes} />}
      {question}
    </section>
  );
}

const stepsWords = ({ steps }: Rig): string =>
  steps.length === 0 ? 'none: slew, centre, focus and guiding only' : steps.map(({ words }) => words).join('; ');

interface RigItemProps {
  readonly item: RigField | RigChoice;
  readonly rig: Rig;
  readonly mayEdit: boolean;
  readonly change: (wish: RigWish) => Promise<void>;
}

function RigItem({ item, rig, mayEdit, change }: RigItemProps) {
  const notice = useNotice();
  const label = `${item.name}, ${rig.name}`;
  if (isChoice(item))
    return (
      <Line name={item.name} help={item.help}>
        <Choice
          label={label}
          value={item.value(rig)}
          options={item.options}
          disabled={!mayEdit}
          onChoose={(value) => void change(item.wish(value, rig)).catch((error) => notice(wordsOf(error), true))}
        />
      </Line>
    );
  return (
    <Line name={item.name} unit={item.unit} help={item.help}>
      <EditableText
        label={label}
        width={item.unit ? 90 : 200}
        disabled={!mayEdit}
        shown={item.shown(rig)}
        text={item.text(rig)}
        onSave={async (text) => change(item.wish(text, rig))}
      />
    </Line>
  );
}
