import { askNightReview, readNightReview } from '@meridiem/contract';
import type { ShownNightReview } from '@meridiem/contract';
import { call, wordsOf } from '../../../app/api.ts';
import { useStoredWork } from '../../../app/stored-work.ts';
import { WorkEnded, WorkUnderWay } from '../../../ui/WorkUnderWay.tsx';
import { filterColour } from '../../../filters/filter-look.ts';
import { gapLines, lostWords, reviewWords } from '../night-review.ts';

const ASK = 'Compare with the best possible';

/** What a night reached of the best it could have been, worked out when asked for. */
export function NightReview({ runId }: { runId: string }) {
  const params = { id: runId };
  const { data, job, isUnasked, isWorking, share, stop, ask, error } = useStoredWork({
    queryKey: ['night-review', runId],
    read: (signal) => call(readNightReview, { params, signal }),
    ask: () => call(askNightReview, { params }),
    isThere: ({ isWorkedOut }) => isWorkedOut,
    isAsked: false,
  });
  return (
    <section aria-label="Review of the night" className="mt-6">
      <h2 className="text-xl">Review of the night</h2>
      {error && <p className="mt-1 text-soft">{wordsOf(error)}</p>}
      {data?.whyNot && <p className="mt-1 text-soft">{data.whyNot}</p>}
      {isUnasked && !isWorking && !data?.whyNot && (
        <button type="button" className="act mt-2" onClick={ask}>
          {ASK}
        </button>
      )}
      {
        isWorking && data !== undefined &&
        <WorkUnderWay words="Planning the night again, cause by cause" measured="Nights planned again" share={share} onStop={stop} /> // prettier-ignore
      }
      {job?.state === 'stopped' && <WorkEnded words="Stopped." again={ASK} onAgain={ask} />}
      {job?.state === 'failed' && <WorkEnded words={job.failure ?? 'It failed.'} again={ASK} onAgain={ask} />}
      {data?.isWorkedOut && !data.review && <p className="mt-1">The sky of this night left nothing to plan.</p>}
      {data?.review && <Reviewed review={data.review} />}
    </section>
  );
}

function Reviewed({ review }: { review: ShownNightReview }) {
  const lost = lostWords(review);
  return (
    <>
      <p className="mt-1 font-serif text-lg">{reviewWords(review)}</p>
      <table className="mt-2" aria-label="Where the difference went">
        <tbody>
          {gapLines(review).map(({ cause, name, hours, words, barShare }) => (
            <tr key={cause} className="rule">
              <td className="pr-6">{name}</td>
              <td className="pr-4 text-right whitespace-nowrap">
                {words}
                <span className="unit">h</span>
              </td>
              <td className="w-56 max-sm:hidden" aria-hidden>
                <span
                  className={`block h-[10px] ${hours < 0 ? 'border border-brass' : 'bg-brass'}`}
                  style={{ width: `${100 * barShare}%`, visibility: barShare === 0 ? 'hidden' : undefined }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {lost && <p className="mt-2">{lost}</p>}
      {review.best.length > 0 && (
        <p className="mt-1">
          Best night, exposures by filter:{' '}
          {review.best.map(({ filterLetter, exposures }) => (
            <span key={filterLetter} className="mr-4 whitespace-nowrap">
              <span className="font-semibold" style={{ color: filterColour(filterLetter) }}>
                {filterLetter}
              </span>{' '}
              {exposures}
            </span>
          ))}
        </p>
      )}
      <p className="mt-1 max-w-prose text-sm text-soft">
        Hours count by weight, signal rate, balance and completion, as in planning. Each cause is the difference between
        two nights planned again, one with it and one without.
      </p>
    </>
  );
}
