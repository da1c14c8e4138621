import { stopJob } from '@meridiem/contract';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { WorkBar } from '../../../ui/WorkBar.tsx';
import { percent } from '../../../words/format.ts';
import { useImportActs, useWriting } from '../queries.ts';
import { writtenWords } from '../view-model.ts';

/** The one act that writes an import: while one waits where it is small, else in the background, with how far it is and a way to stop. */
export function WriteImport({ id, count, isReading }: { id: string; count: number; isReading: boolean }) {
  const { underWay, ended } = useWriting(id);
  const { apply } = useImportActs(id);
  const notice = useNotice();
  const fail = (failure: unknown): void => notice(wordsOf(failure), true);
  if (underWay)
    return (
      <span role="status" className="flex items-center gap-3">
        Writing into the ledger, {percent(underWay.progress)} done
        <WorkBar share={underWay.progress} words="Written into the ledger" />
        <button
          type="button"
          className="act"
          onClick={() => void call(stopJob, { params: { id: underWay.id } }).catch(fail)}
        >
          Stop
        </button>
      </span>
    );
  const write = (): void =>
    apply.mutate(undefined, {
      onSuccess: ({ written }) => written && notice(`${writtenWords(written)}; z undoes the import`),
      onError: fail,
    });
  return (
    <span className="flex items-baseline gap-3">
      {ended && <span className="text-signal">{ended}</span>}
      <button
        type="button"
        className="act act-strong"
        disabled={isReading || apply.isPending || count === 0}
        onClick={write}
      >
        Write {count} into the ledger
      </button>
    </span>
  );
}
