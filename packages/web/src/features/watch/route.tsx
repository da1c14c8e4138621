import { Link, useParams } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { wordsOf } from '../../app/api.ts';
import { useAccount } from '../../app/session.ts';
import { useShownZone } from '../../app/zone.ts';
import { Empty, Failure, Loading } from '../../ui/states.tsx';
import { longDayOf } from '../../words/format.ts';
import { LatestExposure } from './components/LatestExposure.tsx';
import { WatchedRun } from './components/WatchedRun.tsx';
import { useRunActions, useWatchedNight } from './queries.ts';

/** One rig's night while its devices carry it out. */
export default function WatchPage() {
  const { nightDate = '' } = useParams();
  const { role } = useAccount();
  const [search] = useAddress();
  const { data: night, error, refetch } = useWatchedNight(nightDate, search.get('rig'));
  const { zone, words: zoneWords } = useShownZone(night?.timeZone ?? 'utc');
  const rig = night?.watched;
  const { data: told } = useRunActions(rig?.rigId, rig?.run?.id);
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  if (!night) return <Loading what="the night" rows={8} />;
  return (
    <>
      <h1 className="text-2xl">
        Watch <span className="text-soft">{longDayOf(nightDate)}</span>
      </h1>
      <p className="text-soft">
        {rig?.rigName} · times in {zoneWords} ·{' '}
        <Link className="word-link" to={`/nights/${nightDate}`}>
          The plan
        </Link>
      </p>
      {rig?.run ? (
        <WatchedRun
          run={rig.run}
          steps={rig.steps}
          readings={rig.readings}
          actions={told?.actions ?? []}
          endedAs={told?.endedAs ?? null}
          isSimulated={rig.devices !== 'address'}
          zone={zone}
          orders={told?.orders ?? []}
          testShots={told?.testShots ?? []}
          latest={<LatestExposure nightDate={nightDate} rigName={rig.rigName} zone={zone} />}
          mayOrder={role === 'coordinator' || role === 'helper'}
        />
      ) : (
        <Empty title="No night has been started on this rig.">
          Publish its plan and start it on the page of the night.
        </Empty>
      )}
    </>
  );
}
