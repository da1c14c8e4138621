import type { Filter } from '@meridiem/contract';
import { useState } from 'react';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { Choice } from '../../../ui/Choice.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import type { FilterTexts } from '../filter-texts.ts';
import { FILTER_CLASSES, FILTER_LABELS, filterFrom, filterTextsOf } from '../filter-texts.ts';
import type { ObservatoryChanges } from '../queries.ts';

interface AddFilterProps {
  /** What the form begins with: empty, or the numbers of a filter that is duplicated. */
  readonly texts: FilterTexts;
  readonly isOpen: boolean;
  readonly changes: ObservatoryChanges;
}

/** A new filter; numbers nobody has measured are those of the usual filter nearest to it. */
export function AddFilter({ texts, isOpen, changes }: AddFilterProps) {
  const [open, setOpen] = useState(isOpen);
  const [typed, setTyped] = useState(texts);
  const [problem, setProblem] = useState<{ field: string | undefined; words: string } | null>(null);
  if (!open)
    return (
      <button type="button" className="act mt-2" onClick={() => setOpen(true)}>
        Add a filter
      </button>
    );
  const add = async (): Promise<void> => {
    try {
      await changes.addFilter(filterFrom(typed));
      setTyped(filterTextsOf(null));
      setProblem(null);
      setOpen(false);
    } catch (error) {
      const field = error instanceof ApiError ? error.field : (error as { field?: string }).field;
      setProblem({ field: field ?? 'letter', words: wordsOf(error) });
    }
  };
  return (
    <form
      aria-label="New filter"
      className="mt-3 grid max-w-3xl gap-3 sm:grid-cols-4"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      {FILTER_LABELS.map(({ key, label, mayWait }) => (
        <Labelled key={key} label={label} error={problem?.field === key ? problem.words : undefined}>
          <input
            value={typed[key]}
            placeholder={mayWait ? 'as usual' : undefined}
            aria-invalid={problem?.field === key}
            onChange={(event) => {
              setTyped({ ...typed, [key]: event.target.value });
              setProblem(null);
            }}
          />
        </Labelled>
      ))}
      <p className="grid content-start gap-0.5">
        <span>Class</span>
        <span>
          <Choice
            label="Class of the new filter"
            value={typed.class}
            options={FILTER_CLASSES}
            onChoose={(chosen) => setTyped({ ...typed, class: chosen as Filter['class'] })}
          />
        </span>
      </p>
      <p className="flex items-end gap-3 sm:col-span-4">
        <button type="submit" className="act act-strong">
          Add filter
        </button>
        <button type="button" className="act" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </p>
    </form>
  );
}
