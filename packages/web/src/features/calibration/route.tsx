import { readCalibration } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call, wordsOf } from '../../app/api.ts';
import { LedgerHead } from '../../app/LedgerHead.tsx';
import { useNights } from '../../app/period.ts';
import { Fold } from '../../ui/Fold.tsx';
import { Failure, Loading } from '../../ui/states.tsx';
import { NeedTable } from './components/NeedTable.tsx';

const USUAL_NIGHTS = 30;

/** What calibration the lights of a period need, what there is, and what is owed. */
export default function CalibrationPage() {
  const period = useNights(USUAL_NIGHTS, 'tonight');
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['ledger', 'calibration', period],
    queryFn: ({ signal }) => call(readCalibration, { query: period!, signal }),
    enabled: period !== null,
    placeholderData: (previous) => previous,
  });
  return (
    <>
      <LedgerHead title="Calibration" nights={period} />
      <p className="mt-2 max-w-3xl text-soft">
        Flats fit lights of the same filter, gain, offset, binning, part of the sensor and optics at the camera’s angle;
        darks the same length, temperature and reading; bias the same reading. How near, how many and for how long is
        each rig’s own: numbers of its nights on the Observatory page.
      </p>
      <div className="mt-2 max-w-3xl">
        <Fold title="Why flats" summary="dust and dark corners, and the seams of a mosaic">
          <p>
            Grains on a filter or the camera’s window cast rings, and the corners of a field get less light than its
            middle. A flat shows both, and dividing by it takes them out. In a mosaic the dark corner of one panel meets
            the brighter edge of its neighbour: without flats the seams stay visible however long both were exposed. The
            page of an exposure shows it as taken, with darks, and with darks and flats, as soon as frames that fit have
            come.
          </p>
        </Fold>
      </div>
      {error ? (
        <Failure words={wordsOf(error)} onRetry={() => void refetch()} />
      ) : isPending ? (
        <Loading what="the calibration" rows={8} />
      ) : (
        data.rigs.map(({ rigId, ...rig }) => <NeedTable key={rigId} {...rig} zone={data.timeZone} />)
      )}
    </>
  );
}
