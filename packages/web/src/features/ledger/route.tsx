import type { LedgerRow, VERDICT_REASONS } from '@meridiem/contract';
import { exportLedger, VERDICTS } from '@meridiem/contract';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { wordsOf } from '../../app/api.ts';
import { useNotice } from '../../app/notices.tsx';
import { useAccount } from '../../app/session.ts';
import { useShownZone } from '../../app/zone.ts';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { dayOf, hours } from '../../words/format.ts';
import { AlertList } from './components/AlertList.tsx';
import { LedgerSheet } from './components/LedgerSheet.tsx';
import { LedgerTable } from './components/LedgerTable.tsx';
import { Promote } from './components/Promote.tsx';
import { ReasonDialog } from './components/ReasonDialog.tsx';
import type { LedgerFilters } from './queries.ts';
import {
  useJudge,
  useJudged,
  useLedger,
  useLedgerNights,
  useLedgerObservatory,
  useLedgerProjects,
  useReasons,
} from './queries.ts';
import { EMPTY_SELECTION, judged } from './view-model.ts';

type Verdict = LedgerRow['verdict'];
const FILTER_KEYS = ['project', 'filter', 'night', 'verdict'] as const;

/** Every exposure ever taken, newest first; judged by key or in bulk, never erased. */
export default function LedgerPage() {
  const [search, change] = useAddress();
  const filters = Object.fromEntries(
    FILTER_KEYS.flatMap((key) => (search.get(key) ? [[key, search.get(key)]] : [])),
  ) as LedgerFilters;
  const { data, error, isPending, refetch, fetchNextPage, hasNextPage, isFetchingNextPage, isPlaceholderData } =
    useLedger(filters);
  const { data: nights } = useLedgerNights();
  const { data: projects } = useLedgerProjects();
  const { data: observatory } = useLedgerObservatory();
  const { zone, words: zoneWords } = useShownZone(observatory?.timeZone ?? 'utc');
  const { data: lost } = useReasons(filters);
  const { role } = useAccount();
  const judge = useJudge();
  const notice = useNotice();
  const [selection, setSelection] = useState(EMPTY_SELECTION);
  const [asking, setAsking] = useState<Verdict | null>(null);
  const rows = useJudged(useMemo(() => data?.pages.flatMap((page) => page.rows) ?? [], [data]));

  if (isPending) return <Loading what="the ledger" rows={12} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const rowIds = rows.map((row) => row.id);
  const { totals } = data.pages[0];
  const choose = (key: (typeof FILTER_KEYS)[number], value: string): void => {
    setSelection(EMPTY_SELECTION);
    change({ [key]: value });
  };
  // A row that has left the list by another choice is selected no more.
  const selectedCount = rowIds.filter((id) => selection.ids.has(id)).length;
  const give = (verdict: Verdict, reason: (typeof VERDICT_REASONS)[number]): void => {
    setAsking(null);
    const exposureIds = judged(selection, rowIds);
    judge.mutate(
      { exposureIds, verdict, reason },
      {
        onSuccess: ({ changed }) => notice(`${changed} ${verdict}; z undoes it`),
        onError: (failure) => notice(wordsOf(failure), true),
      },
    );
  };
  const onVerdictKey = (verdict: Verdict): void => {
    if (judged(selection, rowIds).length === 0) return;
    if (verdict === 'rejected') setAsking('rejected');
    else give(verdict, 'looked at');
  };
  const asPictures = search.get('view') === 'pictures';
  const Rows = asPictures ? LedgerSheet : LedgerTable;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl">Ledger</h1>
        <Chooser
          label="Project"
          value={filters.project}
          onChange={(value) => choose('project', value)}
          options={(projects?.projects ?? []).map((project) => ({ value: project.id, words: project.name }))}
        />
        <Chooser
          label="Filter"
          value={filters.filter}
          onChange={(value) => choose('filter', value)}
          options={(observatory?.filters ?? []).map((filter) => ({ value: filter.id, words: filter.letter }))}
        />
        <Chooser
          label="Night"
          value={filters.night}
          onChange={(value) => choose('night', value)}
          options={(nights?.nights ?? []).map((night) => ({
            value: night.nightDate,
            words: `${dayOf(night.nightDate)} (${night.count})`,
          }))}
        />
        <Chooser
          label="Verdict"
          value={filters.verdict}
          onChange={(value) => choose('verdict', value)}
          options={VERDICTS.map((verdict) => ({ value: verdict, words: verdict }))}
        />
      </div>
      <p className="mt-2 flex flex-wrap gap-x-6">
        <span>
          {totals.accepted} accepted<span className="unit">{hours(totals.acceptedHours)} h</span>
        </span>
        <span>{totals.undecided} undecided</span>
        <span>
          {totals.rejected} rejected, kept
          {totals.rejected > 0 && lost && lost.reasons.length > 0 && (
            <span className="text-soft">
              : {lost.reasons.map(({ reason, count }) => `${reason} ${count}`).join(', ')}
            </span>
          )}
        </span>
        <span className="no-print ml-auto flex flex-wrap gap-x-4">
          <button
            type="button"
            className="word-link cursor-pointer"
            onClick={() => change({ view: asPictures ? null : 'pictures' })}
          >
            {asPictures ? 'As a table' : 'As pictures'}
          </button>
          <Link className="word-link" to="/review">
            Review a period
          </Link>
          <Link className="word-link" to="/time">
            Time account
          </Link>
          <Link className="word-link" to="/calibration">
            Calibration
          </Link>
          <Link className="word-link" to="/imports">
            Import
          </Link>
          <a className="word-link" href={exportAddress(search, 'csv')}>
            Export as CSV
          </a>
          <a className="word-link" href={exportAddress(search, 'votable')}>
            as VOTable
          </a>
        </span>
        <span className="text-soft">
          times in {zoneWords} <kbd className="font-sans text-xs">tz</kbd>
        </span>
      </p>
      <AlertList zone={zone} />
      <p className="no-print mt-1 flex flex-wrap items-center gap-2 text-soft">
        {selectedCount > 0
          ? `${selectedCount} selected:`
          : judged(selection, rowIds).length > 0
            ? 'The marked row:'
            : 'Choose a row:'}
        {VERDICTS.map((verdict) => (
          <button
            key={verdict}
            type="button"
            className="act"
            disabled={isPlaceholderData || judged(selection, rowIds).length === 0}
            onClick={() => onVerdictKey(verdict)}
          >
            {verdict} <kbd className="font-sans text-xs">{verdict[0]}</kbd>
          </button>
        ))}
        {role !== 'guest' && <Promote rows={rows.filter(({ id }) => judged(selection, rowIds).includes(id))} />}
        <span className="ml-2">arrows move, space selects, shift extends, enter opens</span>
      </p>
      {rows.length === 0 ? (
        <Empty
          title={
            search.size > 0 ? 'No exposure fits these choices.' : 'The ledger is empty: nothing has been taken yet.'
          }
        >
          {search.size > 0 && (
            <button
              type="button"
              className="act"
              onClick={() => change(Object.fromEntries(FILTER_KEYS.map((key) => [key, null])))}
            >
              Show everything
            </button>
          )}
        </Empty>
      ) : (
        <Rows
          rows={rows}
          zone={zone}
          isStale={isPlaceholderData}
          selection={selection}
          onSelection={setSelection}
          onVerdict={onVerdictKey}
          onEnd={() => hasNextPage && !isFetchingNextPage && void fetchNextPage()}
        />
      )}
      <ReasonDialog
        open={asking !== null}
        count={judged(selection, rowIds).length}
        onClose={() => setAsking(null)}
        onReason={(reason) => asking && give(asking, reason)}
      />
    </>
  );
}

/** The rows that are shown, as a file. */
function exportAddress(search: URLSearchParams, format: 'csv' | 'votable'): string {
  const query = new URLSearchParams(search);
  query.set('format', format);
  return `/api${exportLedger.path}?${query}`;
}

const Chooser = ({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string | undefined;
  options: readonly { value: string; words: string }[];
  onChange: (value: string) => void;
}) => (
  <label>
    <span className="text-soft">{label}</span>{' '}
    <select value={value ?? ''} onChange={(event) => onChange(event.target.value)} className="max-w-[220px]">
      <option value="">all</option>
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.words}
        </option>
      ))}
    </select>
  </label>
);
