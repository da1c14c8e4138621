import { Link, useNavigate } from 'react-router';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Empty, Failure, Loading } from '../../../ui/states.tsx';
import { useAccount } from '../../../app/session.ts';
import { useImport, useImportActs, useWriting } from '../queries.ts';
import { stopReading, useReading } from '../reading.ts';
import { groupsOf, STATE_ORDER, STATE_WORDS, summaryOf, toWrite, writtenWords } from '../view-model.ts';
import { GroupLine } from './GroupLine.tsx';
import { WriteImport } from './WriteImport.tsx';

/** What the files of an import would count for, and why; then the one act that writes them. */
export function Preview({ id }: { id: string }) {
  const reading = useReading();
  const isReading = reading.importId === id && (reading.stage === 'headers' || reading.stage === 'hashes');
  const { data, error, isPending, refetch } = useImport(id, isReading);
  const { match, teach, discard } = useImportActs(id);
  const { underWay, written } = useWriting(id);
  const isCoordinator = useAccount().role === 'coordinator';
  const notice = useNotice();
  const navigate = useNavigate();
  if (isPending) return <Loading what="the import" rows={8} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const { rows, state } = data;
  const groups = groupsOf(data);
  const isOpen = state === 'preview';
  const fail = (failure: unknown): void => notice(wordsOf(failure), true);
  const forget = (): void => discard.mutate(undefined, { onSuccess: () => void navigate('/imports'), onError: fail });
  return (
    <>
      <p>
        <Link className="word-link" to="/imports">
          Imports
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-2xl">{data.source}</h1>
        <p className="text-soft">
          {rows.length} files: {summaryOf(rows)}
        </p>
        {isOpen && (
          <span className="ml-auto flex gap-3">
            <button type="button" className="act" onClick={forget} disabled={isReading || underWay !== null}>
              Discard import
            </button>
            <WriteImport id={id} count={toWrite(rows)} isReading={isReading} />
          </span>
        )}
        {state === 'applied' && (
          <span className="ml-auto">In the ledger{written && `: ${writtenWords(written)}`}; undo removes it</span>
        )}
        {state === 'undone' && <span className="ml-auto text-signal">Undone: none of these count</span>}
      </div>
      {isReading && <Progress words={reading.stage === 'headers' ? 'Reading headers' : 'Hashing the data'} />}
      {reading.importId === id && reading.stage === 'failed' && (
        <p role="alert" className="mt-2 text-signal">
          Reading ended early: {reading.words}. What was read is below.
        </p>
      )}
      {rows.length === 0 && !isReading && <Empty title="No file of this import could be read." />}
      {STATE_ORDER.filter((one) => groups.some((group) => group.state === one)).map((one) => (
        <section key={one} aria-label={STATE_WORDS[one].words} className="mt-6">
          <h2 className="rule pb-1 text-lg">
            {STATE_WORDS[one].words} <span className="text-base text-soft">{STATE_WORDS[one].meaning}</span>
          </h2>
          <ul>
            {groups
              .filter((group) => group.state === one)
              .map((group) => (
                <GroupLine
                  key={group.key}
                  group={group}
                  preview={data}
                  isOpen={isOpen}
                  onTeach={isCoordinator ? (body) => teach.mutate(body, { onError: fail }) : null}
                  onMatch={(choice) =>
                    match.mutate({ fileIds: group.rows.map((row) => row.id), ...choice }, { onError: fail })
                  }
                />
              ))}
          </ul>
        </section>
      ))}
    </>
  );
}

function Progress({ words }: { words: string }) {
  const { done, all } = useReading();
  return (
    <p className="mt-3 flex items-center gap-4" role="status">
      {words}: {done} of {all}
      <progress className="w-60" max={all} value={done} aria-label={words} />
      <button type="button" className="act" onClick={stopReading}>
        Stop
      </button>
    </p>
  );
}
