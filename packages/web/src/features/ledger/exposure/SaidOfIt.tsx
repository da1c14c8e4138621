import type { ExposurePage } from '@meridiem/contract';
import { useState } from 'react';
import { dayAndClock } from '../../../words/format.ts';
import { disputeWords, verdictLine } from './view-model.ts';

interface SaidOfItProps extends Pick<ExposurePage, 'verdicts' | 'notes'> {
  readonly zone: string;
  /** null: the one who looks writes no notes here. */
  readonly onNote: ((words: string) => Promise<unknown>) | null;
}

/** Every verdict with who gave it, and notes on what eyes see. */
export function SaidOfIt({ verdicts, notes, zone, onNote }: SaidOfItProps) {
  const dispute = disputeWords(verdicts);
  return (
    <>
      {dispute && (
        <p role="note" className="mt-4 border-l-4 border-brass py-1 pl-3">
          {dispute}
        </p>
      )}
      <h2 className="mt-4 text-lg">Verdicts</h2>
      {verdicts.length === 0 && <p className="text-soft">None yet.</p>}
      <ul>
        {verdicts.map((given, i) => (
          <li key={i} className="rule py-0.5">
            {verdictLine(given)} <span className="text-sm text-soft">{dayAndClock(given.givenUtcMs, zone)}</span>
          </li>
        ))}
      </ul>
      <h2 className="mt-4 text-lg">Notes</h2>
      {notes.length === 0 && <p className="text-soft">None: halos, gradients and satellites are for eyes.</p>}
      <ul>
        {notes.map(({ by, words, writtenUtcMs }) => (
          <li key={writtenUtcMs} className="rule py-0.5">
            {words}{' '}
            <span className="text-sm text-soft">
              {by}, {dayAndClock(writtenUtcMs, zone)}
            </span>
          </li>
        ))}
      </ul>
      {onNote && <NoteForm onNote={onNote} />}
    </>
  );
}

function NoteForm({ onNote }: { readonly onNote: (words: string) => Promise<unknown> }) {
  const [words, setWords] = useState('');
  return (
    <form
      aria-label="Write a note"
      className="mt-1 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        // What could not be kept stays in the field.
        void onNote(words).then(
          () => setWords(''),
          () => undefined,
        );
      }}
    >
      <input
        aria-label="Note"
        placeholder="what you see"
        maxLength={300}
        className="w-full"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <button type="submit" className="act" disabled={words.trim() === ''}>
        Note it
      </button>
    </form>
  );
}
