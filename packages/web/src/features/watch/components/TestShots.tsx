import type { ShownTestShot } from '@meridiem/contract';
import { LONGEST_TEST_SHOT_SEC, testShotPicture } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { Choice } from '../../../ui/Choice.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import { useTestShot } from '../queries.ts';
import type { TestShotField, TestShotTexts } from '../test-shots.ts';
import { FieldProblem, NO_TEST_SHOT, testShotFrom, testShotOutcome, testShotWords } from '../test-shots.ts';

interface TestShotsProps {
  readonly runId: string;
  readonly isHeld: boolean;
  /** Filters that can be set, by their short names. */
  readonly filterLetters: readonly string[];
  /** The newest first. */
  readonly shots: readonly ShownTestShot[];
}

/** Pointing and test shots by hand, while a night is held; what came of the last ones. */
export function TestShots({ runId, isHeld, filterLetters, shots }: TestShotsProps) {
  const withPicture = shots.find(({ hasPicture }) => hasPicture);
  return (
    <section aria-label="Test shots" className="mt-4 flex flex-col gap-4 lg:flex-row lg:justify-between">
      <div>
        {isHeld && <Asking runId={runId} filterLetters={filterLetters} isBusy={shots[0]?.outcome === null} />}
        <ul className="mt-2">
          {shots.map((shot) => (
            <li key={shot.id} className={shot.outcome === 'refused' ? 'text-signal' : ''}>
              {testShotWords(shot)}: {testShotOutcome(shot, isHeld)} <span className="text-soft">{shot.by}</span>
            </li>
          ))}
        </ul>
      </div>
      {withPicture && (
        <figure className="shrink-0 lg:w-[340px]">
          <img
            src={`/api${testShotPicture.path.replace(':id', runId).replace(':shotId', withPicture.id)}`}
            alt={`Test shot: ${testShotWords(withPicture)}`}
            className="w-full bg-black"
          />
          <figcaption className="text-sm text-soft">
            Test shot, {testShotWords(withPicture)}; brightened for looking at, kept in no ledger
          </figcaption>
        </figure>
      )}
    </section>
  );
}

const BINNINGS = [1, 2, 3, 4].map((n) => ({ value: String(n), words: `${n}×${n}` }));

type Problem = { readonly field: TestShotField | null; readonly words: string } | null;

function Asking({
  runId,
  filterLetters,
  isBusy,
}: Pick<TestShotsProps, 'runId' | 'filterLetters'> & { isBusy: boolean }) {
  const [texts, setTexts] = useState(NO_TEST_SHOT);
  const [problem, setProblem] = useState<Problem>(null);
  const order = useTestShot(runId);
  const ask = async (isPhotographed: boolean): Promise<void> => {
    try {
      await order.mutateAsync(testShotFrom(texts, isPhotographed));
      setProblem(null);
    } catch (error) {
      setProblem({ field: error instanceof FieldProblem ? error.field : null, words: wordsOf(error) });
    }
  };
  const set = <F extends TestShotField>(field: F, value: TestShotTexts[F]): void => {
    setTexts({ ...texts, [field]: value });
    setProblem(null);
  };
  const text = (field: Exclude<TestShotField, 'binning'>, label: string, width: string) => (
    <Labelled label={label} error={problem?.field === field ? problem.words : undefined}>
      <input
        className={width}
        value={texts[field]}
        aria-invalid={problem?.field === field}
        onChange={(event) => set(field, event.target.value)}
      />
    </Labelled>
  );
  const isWaiting = isBusy || order.isPending;
  return (
    <form
      aria-label="Test shot"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void ask(true);
      }}
    >
      <div className="flex flex-wrap items-start gap-3">
        {text('raText', 'Right ascension', 'w-36')}
        {text('decText', 'Declination', 'w-36')}
        <div className="grid gap-0.5">
          <span>Filter</span>
          <Choice
            label="Filter of the test shot"
            value={texts.filterLetter}
            options={[{ value: '', words: 'as it is' }, ...filterLetters.map((value) => ({ value, words: value }))]}
            onChoose={(value) => set('filterLetter', value)}
          />
        </div>
        <div className="grid gap-0.5">
          <span>Binning</span>
          <Choice
            label="Binning of the test shot"
            value={String(texts.binning)}
            options={BINNINGS}
            onChoose={(value) => set('binning', Number(value))}
          />
        </div>
        {text('exposureText', `Exposure, s (at most ${LONGEST_TEST_SHOT_SEC})`, 'w-20')}
      </div>
      <p className="mt-2 flex flex-wrap gap-2">
        <button type="submit" className="act" disabled={isWaiting}>
          Take a test shot
        </button>
        <button type="button" className="act" disabled={isWaiting} onClick={() => void ask(false)}>
          Only point there
        </button>
      </p>
      {problem?.field === null && (
        <p role="alert" className="mt-1 text-signal">
          {problem.words}
        </p>
      )}
      <p className="mt-1 max-w-[60ch] text-sm text-soft">
        Without a place: where the telescope points now. The night’s own limits hold, a closed roof is opened, and
        nothing of it counts for anybody.
      </p>
    </form>
  );
}
