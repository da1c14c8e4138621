import type { LedgerRow, VERDICT_REASONS } from '@meridiem/contract';
import { VERDICTS } from '@meridiem/contract';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { wordsOf } from '../../app/api.ts';
import { useNotice } from '../../app/notices.tsx';
import { useShownZone } from '../../app/zone.ts';
import { FilterTab } from '../../filters/FilterTab.tsx';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { clockSeconds, dayAndClock, dayOf } from '../../words/format.ts';
import { ReasonDialog } from './components/ReasonDialog.tsx';
import { fileAddress } from './exposure/address.ts';
import { BigPicture } from './exposure/BigPicture.tsx';
import { FigureList } from './exposure/FigureList.tsx';
import { HistogramChart } from './exposure/HistogramChart.tsx';
import { SaidOfIt } from './exposure/SaidOfIt.tsx';
import { useExposure, useExposureActs } from './exposure/queries.ts';
import { sizeWords } from './exposure/view-model.ts';

type Verdict = LedgerRow['verdict'];

/** One exposure: seen, measured, judged. Arrows go to its neighbours of the same panel and filter. */
export default function ExposurePage() {
  const { id = '' } = useParams();
  const { data, error, isPending, refetch } = useExposure(id);
  const { judge, note, measure } = useExposureActs(id);
  const { zone, words: zoneWords } = useShownZone(data?.timeZone ?? 'utc');
  const navigate = useNavigate();
  const notice = useNotice();
  const [isAsking, setIsAsking] = useState(false);
  const give = (verdict: Verdict, reason: (typeof VERDICT_REASONS)[number]): void => {
    setIsAsking(false);
    judge.mutate(
      { verdict, reason },
      { onSuccess: () => notice(`${verdict}; z undoes it`), onError: (failure) => notice(wordsOf(failure), true) },
    );
  };
  const onVerdict = (verdict: Verdict): void =>
    verdict === 'rejected' ? setIsAsking(true) : give(verdict, 'looked at');
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const isTyping =
        event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [role=dialog]');
      if (isTyping || event.ctrlKey || event.metaKey || event.altKey || !data) return;
      const next = { ArrowLeft: data.beforeId, ArrowRight: data.afterId }[event.key];
      const verdict = data.row.mayJudge && VERDICTS.find((one) => one[0] === event.key);
      if (next) void navigate(`/exposures/${next}`, { replace: true });
      else if (verdict) onVerdict(verdict);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  if (isPending) return <Loading what="the exposure" rows={8} />;
  const { row, file, figures, measuredUtcMs, offIntended, deviations, verdicts, notes, beforeId, afterId } = data;
  const name = `${row.panelName ?? 'No project'}, ${dayOf(row.nightDate)} ${clockSeconds(row.startUtcMs, zone)}`;
  return (
    <>
      <p className="flex flex-wrap gap-x-4">
        <Link className="word-link" to={`/ledger?night=${row.nightDate}&view=pictures`}>
          Ledger, {dayOf(row.nightDate)}
        </Link>
        <Neighbour id={beforeId} words="Earlier" />
        <Neighbour id={afterId} words="Later" />
      </p>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-2xl">{row.panelName ?? 'No project'}</h1>
        <FilterTab letter={row.filterLetter} filterClass={row.filterClass} />
        <span>
          {row.exposureSec}
          <span className="unit">s</span>
        </span>
        <span>
          {dayOf(row.nightDate)} {clockSeconds(row.startUtcMs, zone)}
        </span>
        <span className="text-soft">
          {row.rigName} · times in {zoneWords}
        </span>
        {row.sharedWithName && <span className="text-soft">counts for {row.sharedWithName} as well</span>}
        {row.isSimulated && <span className="text-brass">simulated: no real sky</span>}
      </div>
      <p className="no-print mt-1 flex flex-wrap items-center gap-2">
        {!row.mayJudge && <span>{row.verdict}</span>}
        {row.mayJudge &&
          VERDICTS.map((verdict) => (
            <button
              key={verdict}
              type="button"
              className={verdict === row.verdict ? 'act act-strong' : 'act'}
              aria-pressed={verdict === row.verdict}
              disabled={judge.isPending}
              onClick={() => onVerdict(verdict)}
            >
              {verdict} <kbd className="font-sans text-xs">{verdict[0]}</kbd>
            </button>
          ))}
        {row.verdict === 'rejected' && <span className="text-signal">because of {row.verdictReason}</span>}
        {file && row.mayJudge && (
          <a className="word-link" href={fileAddress(id)}>
            {file.name}, {sizeWords(file.sizeBytes)}
          </a>
        )}
      </p>
      <div className="mt-3 grid gap-6 lg:grid-cols-[minmax(0,1fr)_340px]">
        {file ? (
          <BigPicture key={id} id={id} name={name} figures={figures} calibrated={data.calibrated} />
        ) : (
          <Empty title="Its file is not on this server.">
            What was measured is kept; files that devices take here are kept with it.
          </Empty>
        )}
        <aside>
          {figures && <HistogramChart figures={figures} />}
          {file && !figures && <p className="text-signal">Its file can’t be read as a picture.</p>}
          <FigureList row={row} figures={figures} deviations={deviations} offIntended={offIntended} />
          {measuredUtcMs !== null && (
            <p className="no-print mt-1 text-sm text-soft">
              Pixels measured {dayAndClock(measuredUtcMs, zone)}
              {row.mayJudge && (
                <>
                  {' · '}
                  <button
                    type="button"
                    className="word-link cursor-pointer"
                    disabled={measure.isPending}
                    onClick={() => measure.mutate(undefined, { onError: (failure) => notice(wordsOf(failure), true) })}
                  >
                    {measure.isPending ? 'measuring…' : 'measure again'}
                  </button>
                </>
              )}
            </p>
          )}
          <SaidOfIt
            verdicts={verdicts}
            notes={notes}
            zone={zone}
            onNote={
              row.mayJudge
                ? (words) => note.mutateAsync(words, { onError: (failure) => notice(wordsOf(failure), true) })
                : null
            }
          />
        </aside>
      </div>
      <ReasonDialog
        open={isAsking}
        count={1}
        onClose={() => setIsAsking(false)}
        onReason={(reason) => give('rejected', reason)}
      />
    </>
  );
}

const Neighbour = ({ id, words }: { id: string | null; words: string }) =>
  id ? (
    <Link className="word-link" replace to={`/exposures/${id}`}>
      {words}
    </Link>
  ) : (
    <span className="text-soft">{words}: none</span>
  );
