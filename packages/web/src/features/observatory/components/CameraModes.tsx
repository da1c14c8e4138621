import type { CameraMode, Rig } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Choice } from '../../../ui/Choice.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import { dateOf } from '../../../words/format.ts';
import { typedNumber } from '../../../words/typed.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { Line } from './Sheet.tsx';
import { GAIN_KINDS, likeLastMode } from '../view-model.ts';

type NumberKey = 'gain' | 'readNoiseE' | 'fullWellE' | 'typicalOffset';
const NUMBERS: readonly { key: NumberKey; name: string; unit?: string; help?: string }[] = [
  { key: 'gain', name: 'Gain', help: 'as the camera numbers it' },
  { key: 'readNoiseE', name: 'Read noise', unit: 'e⁻' },
  { key: 'fullWellE', name: 'Full well', unit: 'e⁻', help: 'when stars saturate' },
  { key: 'typicalOffset', name: 'Usual offset', help: 'recipes begin with it' },
];

interface CameraModesProps {
  readonly rig: Rig;
  readonly zone: string;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** The camera's modes; a corrected number is a revision, and frames taken before keep the old one. */
export function CameraModes({ rig, zone, mayEdit, changes }: CameraModesProps) {
  const notice = useNotice();
  return (
    <>
      <ul className="grid gap-4">
        {rig.cameraModes.map((mode) => (
          <li key={mode.id} aria-label={`Mode ${mode.name}, ${rig.name}`}>
            <ModeSheet mode={mode} rig={rig} zone={zone} mayEdit={mayEdit} changes={changes} />
            {mayEdit && rig.cameraModes.length > 1 && (
              <button
                type="button"
                className="act mt-1"
                onClick={() =>
                  void changes
                    .retireMode(mode)
                    .then(() => notice(`${mode.name} is retired; bring it back at the end of this page`))
                    .catch((error) => notice(wordsOf(error), true))
                }
              >
                Retire this mode
              </button>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && <AddMode rig={rig} changes={changes} />}
    </>
  );
}

function ModeSheet({ mode, rig, zone, mayEdit, changes }: CameraModesProps & { mode: CameraMode }) {
  const notice = useNotice();
  const of = `${mode.name}, ${rig.name}`;
  return (
    <>
      <h3 className="text-base">
        <EditableText
          label={`Name of mode ${of}`}
          width={200}
          disabled={!mayEdit}
          shown={mode.name}
          text={mode.name}
          onSave={(name) => changes.mode(mode, { name: name.trim() })}
        />{' '}
        <span className="text-sm text-soft">
          {mode.revisionSeq > 1 && `corrected, revision ${mode.revisionSeq}, `}since {dateOf(mode.since, zone)}
        </span>
      </h3>
      <dl>
        <Line name="Counted as">
          <Choice
            label={`Gain is counted as, ${of}`}
            value={mode.gainKind}
            options={GAIN_KINDS}
            disabled={!mayEdit}
            onChoose={(gainKind) =>
              void changes
                .mode(mode, { gainKind: gainKind as CameraMode['gainKind'] })
                .catch((error) => notice(wordsOf(error), true))
            }
          />
        </Line>
        {NUMBERS.map(({ key, name, unit, help }) => (
          <Line
            key={key}
            name={key === 'gain' && mode.gainKind === 'sensitivity' ? 'Sensitivity' : name}
            unit={unit}
            help={help}
          >
            <EditableText
              label={`${name} of ${of}`}
              disabled={!mayEdit}
              shown={String(mode[key])}
              text={String(mode[key])}
              onSave={async (text) => changes.mode(mode, { [key]: typedNumber(text, name.toLowerCase()) })}
            />
          </Line>
        ))}
        <Line name="Electrons a count" unit="e⁻/ADU">
          <EditableText
            label={`Electrons a count of ${of}`}
            disabled={!mayEdit}
            shown={mode.ePerAdu === null ? 'not measured' : String(mode.ePerAdu)}
            text={String(mode.ePerAdu ?? '')}
            onSave={async (text) =>
              changes.mode(mode, { ePerAdu: text.trim() === '' ? null : typedNumber(text, 'conversion') })
            }
          />
        </Line>
      </dl>
    </>
  );
}

/** A new mode begins with the numbers of the last one; each is then corrected in its place. */
function AddMode({ rig, changes }: { rig: Rig; changes: ObservatoryChanges }) {
  const [name, setName] = useState('');
  const [gain, setGain] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const add = async (): Promise<void> => {
    try {
      if (name.trim() === '') throw new Error('Give the mode the name that the camera has for it');
      await changes.addMode(rig, { ...likeLastMode(rig), name: name.trim(), gain: typedNumber(gain, 'gain') });
      setName('');
      setGain('');
      setProblem(null);
    } catch (error) {
      setProblem(wordsOf(error));
    }
  };
  return (
    <form
      aria-label={`New mode of ${rig.name}`}
      className="mt-3 flex flex-wrap items-baseline gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <input
        aria-label="Name of the mode"
        placeholder="name"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <input
        aria-label="Gain of the mode"
        placeholder="gain"
        className="w-20"
        value={gain}
        onChange={(event) => setGain(event.target.value)}
      />
      <button type="submit" className="act">
        Add mode
      </button>
      {problem && (
        <span role="alert" className="text-signal">
          {problem}
        </span>
      )}
    </form>
  );
}
