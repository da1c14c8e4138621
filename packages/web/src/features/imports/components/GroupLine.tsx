import type { ImportPreview } from '@meridiem/contract';
import { useState } from 'react';
import { duration } from '../../../words/format.ts';
import type { FileGroup } from '../view-model.ts';

interface Choice {
  readonly rigId?: string;
  readonly filterId?: string;
  readonly panelId?: string | null;
}

interface GroupLineProps {
  readonly group: FileGroup;
  readonly preview: ImportPreview;
  readonly isOpen: boolean;
  readonly onMatch: (choice: Choice) => void;
  /** Null for whoever may not teach. */
  readonly onTeach: ((body: { name: string; filterId: string }) => void) | null;
}

const SHOWN = 200;
const NO_PANEL = 'none';

/** Files that share a fate: how many, what they count for, why; changed by hand for all of them at once. */
export function GroupLine({ group, preview, isOpen, onMatch, onTeach }: GroupLineProps) {
  const [unfolded, setUnfolded] = useState(false);
  const { rows, state, reasons, doubts } = group;
  const [first] = rows;
  const mayChange = isOpen && (state === 'choose' || state === 'look' || state === 'ready' || state === 'uncredited');
  return (
    <li className="rule py-2">
      <div className="grid grid-cols-[110px_1fr_320px] gap-x-4">
        <button
          type="button"
          className="word-link self-start text-left"
          aria-expanded={unfolded}
          onClick={() => setUnfolded(!unfolded)}
        >
          {rows.length} {rows.length === 1 ? 'file' : 'files'}
          <span className="block text-xs text-soft">{duration(group.hours * 3600)}</span>
        </button>
        <div>
          <p className="font-serif text-base">{group.goal}</p>
          <p className="text-soft">{reasons.join('; ')}</p>
          {doubts.map((doubt) => (
            <p key={doubt} className="text-signal">
              {doubt}
            </p>
          ))}
        </div>
        {mayChange && (
          <div className="flex flex-col gap-1">
            {state === 'look' && (
              <button type="button" className="act self-start" onClick={() => onMatch({ panelId: first.panelId })}>
                Yes, this panel
              </button>
            )}
            {state === 'choose' && (
              <>
                <Choose
                  words="Rig"
                  value={first.rigId}
                  options={preview.rigs.map(({ id, name }) => ({ id, words: name }))}
                  onChoose={(rigId) => onMatch({ rigId })}
                />
                <Choose
                  words="Filter"
                  value={first.filterId}
                  options={preview.filters.map(({ id, letter }) => ({ id, words: letter }))}
                  onChoose={(filterId) => onMatch({ filterId })}
                />
                {onTeach && first.filterName !== null && first.filterId === null && (
                  <Choose
                    words={`Always read “${first.filterName}” as`}
                    value={null}
                    options={preview.filters.map(({ id, letter }) => ({ id, words: letter }))}
                    onChoose={(filterId) => onTeach({ name: first.filterName!, filterId })}
                  />
                )}
              </>
            )}
            {first.kind === 'light' && (
              <Choose
                words="Panel"
                value={first.panelId ?? (first.isByHand ? NO_PANEL : null)}
                options={[
                  { id: NO_PANEL, words: 'none: keep without credit' },
                  ...preview.panels
                    .filter((panel) => first.rigId === null || panel.rigId === first.rigId)
                    .map(({ id, name, projectName }) => ({
                      id,
                      words: name.startsWith(projectName) ? name : `${projectName}, ${name}`,
                    })),
                ]}
                onChoose={(panelId) => onMatch({ panelId: panelId === NO_PANEL ? null : panelId })}
              />
            )}
          </div>
        )}
      </div>
      {unfolded && (
        <ul className="mt-1 max-h-60 overflow-y-auto pl-[126px] text-sm text-soft">
          {rows.slice(0, SHOWN).map((row) => (
            <li key={row.id}>
              {row.name}
              {row.coverage !== null && `, covers ${Math.round(row.coverage * 100)} %`}
            </li>
          ))}
          {rows.length > SHOWN && <li>and {rows.length - SHOWN} more</li>}
        </ul>
      )}
    </li>
  );
}

interface ChooseProps {
  readonly words: string;
  readonly value: string | null;
  readonly options: readonly { id: string; words: string }[];
  readonly onChoose: (id: string) => void;
}

const Choose = ({ words, value, options, onChoose }: ChooseProps) => (
  <label className="flex items-baseline gap-2">
    <span className="min-w-12 text-soft">{words}</span>
    <select className="min-w-0 flex-1" value={value ?? ''} onChange={(event) => onChoose(event.target.value)}>
      <option value="" disabled>
        choose
      </option>
      {options.map((option) => (
        <option key={option.id} value={option.id}>
          {option.words}
        </option>
      ))}
    </select>
  </label>
);
