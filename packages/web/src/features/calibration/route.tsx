import { readCalibration, readNightSky } from '@meridiem/contract';
import { CALIBRATION_RULES } from '@meridiem/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useAddress } from '../../app/address.ts';
import { call, wordsOf } from '../../app/api.ts';
import { Period } from '../../ui/Period.tsx';
import { Failure, Loading } from '../../ui/states.tsx';
import { nightAfter } from '../../words/format.ts';
import { NeedTable } from './components/NeedTable.tsx';

const USUAL_NIGHTS = 30;
const { angleToleranceDeg, temperatureToleranceC, fewest, keepsDays } = CALIBRATION_RULES;

/** What calibration the lights of a period need, what there is, and what is owed. */
export default function CalibrationPage() {
  const [search, choose] = useAddress();
  const { data: tonight } = useQuery({
    queryKey: ['sky', 'tonight'],
    queryFn: ({ signal }) => call(readNightSky, { params: { nightDate: 'tonight' }, signal }),
  });
  const to = search.get('to') ?? tonight?.sky.nightDate;
  const from = search.get('from') ?? (to && nightAfter(to, 1 - USUAL_NIGHTS));
  const period = from && to ? { from, to } : null;
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['ledger', 'calibration', period],
    queryFn: ({ signal }) => call(readCalibration, { query: period!, signal }),
    enabled: period !== null,
    placeholderData: (previous) => previous,
  });
  return (
    <>
      <p>
        <Link className="word-link" to="/ledger">
          Ledger
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl">Calibration</h1>
        {period && <Period from={period.from} to={period.to} onChange={choose} />}
      </div>
      <p className="mt-2 max-w-3xl text-soft">
        Flats fit lights of the same filter, gain, offset, binning and optics with the camera within {angleToleranceDeg}
        ° of its angle, for {keepsDays.flat} days; darks fit the same length, gain, offset and binning within{' '}
        {temperatureToleranceC} °C; bias the same gain, offset and binning; both for {keepsDays.dark} days. A set has at
        least {fewest.flat} flats, {fewest.dark} darks or {fewest.bias} bias frames.
      </p>
      {error ? (
        <Failure words={wordsOf(error)} onRetry={() => void refetch()} />
      ) : isPending ? (
        <Loading what="the calibration" rows={8} />
      ) : (
        data.rigs.map(({ rigId, rigName, needs }) => (
          <NeedTable key={rigId} rigName={rigName} needs={needs} zone={data.timeZone} />
        ))
      )}
    </>
  );
}
