import { readObservatory } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { LedgerHead } from '../../app/LedgerHead.tsx';
import { useNights } from '../../app/period.ts';
import { useNotice } from '../../app/notices.tsx';
import { useAccount } from '../../app/session.ts';
import { useShownZone } from '../../app/zone.ts';
import { Failure, Loading } from '../../ui/states.tsx';
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
  const zone = useShownZone(observatory?.timeZone ?? 'utc');
  const period = useNights(USUAL_NIGHTS, 'last night');
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
      <LedgerHead title="Time account" nights={period}>
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
      </LedgerHead>
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
