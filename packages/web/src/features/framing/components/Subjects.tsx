import type { SkyPosition } from '@meridiem/core';
import { middleOf } from '@meridiem/core';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { FramedSubject } from '../view-model.ts';
import { TargetSearch } from './TargetSearch.tsx';

interface SubjectsProps {
  readonly subject: FramedSubject;
  readonly others: readonly FramedSubject[];
  /** Corners so far while an outline is drawn. */
  readonly drawn: readonly SkyPosition[] | null;
  readonly onDraw: (corners: readonly SkyPosition[] | null) => void;
  readonly onSubject: (subject: FramedSubject) => void;
  readonly onOthers: (others: readonly FramedSubject[]) => void;
}

/** What should be inside: the target, an outline one draws and names, and neighbours wanted in the same field. */
export function Subjects({ subject, others, drawn, onDraw, onSubject, onOthers }: SubjectsProps) {
  const finish = (): void => {
    const middle = middleOf(drawn ?? []);
    if (drawn && drawn.length >= 3 && middle) onSubject({ ...subject, ...middle, outline: drawn });
    onDraw(null);
  };
  return (
    <section aria-label="Subjects">
      <p>
        <span className="text-soft">Named</span>{' '}
        <EditableText
          label="Name of the subject"
          shown={subject.name || 'not yet'}
          text={subject.name}
          width={200}
          onSave={async (name) => onSubject({ ...subject, name: name.trim() })}
        />
      </p>
      {drawn ? (
        <div role="status" className="mt-2">
          {drawn.length} {drawn.length === 1 ? 'corner' : 'corners'}: click on the sky around the subject
          {drawn.length < 3 ? ', three at least' : ''}.
          <p className="mt-1 flex flex-wrap gap-3">
            <button type="button" className="act act-strong" disabled={drawn.length < 3} onClick={finish}>
              Close the outline
            </button>
            <button type="button" className="act" onClick={() => onDraw(drawn.slice(0, -1))}>
              Remove last corner
            </button>
            <button type="button" className="act" onClick={() => onDraw(null)}>
              Cancel
            </button>
          </p>
        </div>
      ) : (
        <p className="mt-2 flex flex-wrap gap-3">
          <button type="button" className="act" onClick={() => onDraw([])}>
            Draw outline
          </button>
          {subject.outline && (
            <button type="button" className="act" onClick={() => onSubject({ ...subject, outline: null })}>
              Remove outline
            </button>
          )}
        </p>
      )}
      <div className="mt-3">
        <TargetSearch
          label="and in the same field"
          onChoose={({ designation, raDeg, decDeg, sizeArcmin }) =>
            onOthers([...others, { name: designation, raDeg, decDeg, sizeArcmin, outline: null }])
          }
        />
      </div>
      {others.length > 0 && (
        <ul aria-label="Others in the same field">
          {others.map((other, i) => (
            <li key={`${other.name} ${i}`} className="rule flex justify-between gap-2 py-1">
              {other.name}
              <button
                type="button"
                className="act"
                aria-label={`Without ${other.name}`}
                onClick={() => onOthers(others.filter((_, k) => k !== i))}
              >
                Leave out
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
