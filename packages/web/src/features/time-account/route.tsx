import { readObservatory, readNightSky } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { useNotice } from '../../app/notices.tsx';
import { useAccount } from '../../app/session.ts';
import { useShownZone } from '../../app/zone.ts';
import { Period } from '../../ui/Period.tsx';
import { Failure, Loading } from '../../ui/states.tsx';
import { nightAfter } from '../../words/format.ts';
import { ChargedTable } from './components/ChargedTable.tsx';
import { NightDetail } from './components/NightDetail.tsx';
import { NightTable } from './components/NightTable.tsx';
import { useAccountActs, useTimeAccount } from './queries.ts';
import { dueCount, standingWords } from './view-model.ts';

const USUAL_NIGHTS = 14;

/** Where the nights went, and what of them is charged to whom. */
export default function TimeAccountPage() {
  const [search, choose] = useAddress();
  const { role } = useAccount();
  const acts = useAccountActs();
  const notice = useNotice();
  const { data: observatory } = useQuery({
    queryKey: ['observatory'],
    queryFn: ({ signal }) => call(readObservatory, { signal }),
  });
  const { data: tonight } = useQuery({
    queryKey: ['sky', 'tonight'],
    queryFn: ({ signal }) => call(readNightSky, { params: { nightDate: 'tonight' }, signal }),
  });
  const zone = useShownZone(observatory?.timeZone ?? 'utc');
  const last = tonight && nightAfter(tonight.sky.nightDate, -1);
  const to = search.get('to') ?? last;
  const from = search.get('from') ?? (to && nightAfter(to, 1 - USUAL_NIGHTS));
  const period = from && to ? { from, to } : null;
  const { data, error, isPending, refetch } = useTimeAccount(period);
  const rig = data?.rigs.find(({ rigId }) => rigId === search.get('rig')) ?? data?.rigs[0];
  const night = search.get('night');
  const mayClose = role === 'coordinator' || role === 'helper';
  const close = (): void =>
    void acts.close(rig!.rigId, period!).then(
      ({ closed }) => notice(closed === 1 ? 'One night is closed' : `${closed} nights are closed`),
      (failure: unknown) => notice(wordsOf(failure), true),
    );
  return (
    <>
      <p>
        <Link className="word-link" to="/ledger">
          Ledger
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl">Time account</h1>
        {period && <Period from={period.from} to={period.to} onChange={choose} />}
        {data && data.rigs.length > 1 && (
          <label>
            <span className="text-soft">rig</span>{' '}
            <select value={rig?.rigId} onChange={(event) => choose({ rig: event.target.value })}>
              {data.rigs.map(({ rigId, rigName }) => (
                <option key={rigId} value={rigId}>
                  {rigName}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {error ? (
        <Failure words={wordsOf(error)} onRetry={() => void refetch()} />
      ) : isPending || !rig ? (
        <Loading what="the time account" rows={10} />
      ) : (
        <>
          <div className="mt-3 flex flex-wrap items-baseline gap-x-4">
            <p className="font-serif text-lg">{standingWords(rig.nights)}</p>
            {mayClose && dueCount(rig.nights) > 0 && (
              <button type="button" className="act act-strong" onClick={close}>
                Close {dueCount(rig.nights) === 1 ? 'it' : `these ${dueCount(rig.nights)}`}
              </button>
            )}
          </div>
          <NightTable nights={rig.nights} chosen={night} onChoose={(nightDate) => choose({ night: nightDate })} />
          {night && (
            <NightDetail
              key={`${rig.rigId} ${night}`}
              rigId={rig.rigId}
              nightDate={night}
              zone={zone}
              observatoryZone={observatory?.timeZone ?? 'utc'}
              mayRemark={mayClose}
              acts={acts}
            />
          )}
          <ChargedTable rows={data.charged} rule={data.rule} period={period!} role={role} acts={acts} />
        </>
      )}
    </>
  );
}
