import { readCalibration } from '@meridiem/contract';
import { CALIBRATION_RULES } from '@meridiem/core';
import { useQuery } from '@tanstack/react-query';
import { call, wordsOf } from '../../app/api.ts';
import { LedgerHead } from '../../app/LedgerHead.tsx';
import { useNights } from '../../app/period.ts';
import { Failure, Loading } from '../../ui/states.tsx';
import { NeedTable } from './components/NeedTable.tsx';

const USUAL_NIGHTS = 30;
const { angleToleranceDeg, temperatureToleranceC, fewest, keepsDays } = CALIBRATION_RULES;

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
