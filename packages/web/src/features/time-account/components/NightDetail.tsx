import { REMARKED_KINDS } from '@meridiem/contract';
import { useForm } from 'react-hook-form';
import { Link } from 'react-router';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import type { ShownZone } from '../../../app/zone.ts';
import { Labelled } from '../../../ui/Labelled.tsx';
import { Failure, Loading } from '../../../ui/states.tsx';
import { clock, longDayOf } from '../../../words/format.ts';
import type { AccountActs } from '../queries.ts';
import { useAccountedNight } from '../queries.ts';
import { KIND_CLASSES, lineWords, linesOf } from '../view-model.ts';

interface NightDetailProps {
  readonly rigId: string;
  readonly nightDate: string;
  readonly zone: ShownZone;
  readonly observatoryZone: string;
  readonly mayRemark: boolean;
  readonly acts: AccountActs;
}

interface Wish {
  readonly kind: (typeof REMARKED_KINDS)[number];
  readonly from: string;
  readonly to: string;
  readonly words: string;
}

/** One night stretch after stretch, and what people say of it. */
export function NightDetail({ rigId, nightDate, zone, observatoryZone, mayRemark, acts }: NightDetailProps) {
  const { data, error, refetch } = useAccountedNight(rigId, nightDate);
  const notice = useNotice();
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  if (!data) return <Loading what="the night" rows={6} />;
  return (
    <section aria-label={`The night of ${longDayOf(nightDate)}`} className="mt-6 grid gap-10 md:grid-cols-2">
      <div>
        <h2 className="rule pb-1 text-lg">
          {longDayOf(nightDate)}, {data.rigName} <span className="text-sm text-soft">times {zone.words}</span>
        </h2>
        <div className="max-h-80 overflow-y-auto" tabIndex={0} role="region" aria-label="Stretches of the night">
          <table className="w-full">
            <tbody>
              {linesOf(data.stretches).map((line) => (
                <tr key={line.startUtcMs} className="rule">
                  <td className="whitespace-nowrap">
                    {clock(line.startUtcMs, zone.zone)}–{clock(line.endUtcMs, zone.zone)}
                  </td>
                  <td className="whitespace-nowrap">
                    <span aria-hidden className={`mr-2 inline-block h-2.5 w-4 ${KIND_CLASSES[line.kind]}`} />
                    {lineWords(line)}
                  </td>
                  <td className="w-full max-w-0 truncate">
                    {line.projectId ? (
                      <Link className="word-link font-serif" to={`/projects/${line.projectId}`}>
                        {line.projectName}
                      </Link>
                    ) : (
                      <span className="text-soft">{line.projectName ?? ''}</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </div>
      <div>
        <h2 className="rule pb-1 text-lg">Remarks on this night</h2>
        {data.remarks.length === 0 && (
          <p className="mt-2 text-soft">
            Nothing yet. A remark overrides what was recorded, and its time is not charged.
          </p>
        )}
        <ul>
          {data.remarks.map(({ id, kind, startUtcMs, endUtcMs, words, who }) => (
            <li key={id} className="rule flex gap-3 py-1">
              <span className="whitespace-nowrap">
                {clock(startUtcMs, zone.zone)}–{clock(endUtcMs, zone.zone)} {kind}
              </span>
              <span className="text-soft">
                {words && `${words}; `}
                {who}
              </span>
              {mayRemark && (
                <button
                  type="button"
                  className="word-link ml-auto whitespace-nowrap"
                  onClick={() =>
                    void acts.withdraw(id).then(
                      () => notice('Remark removed'),
                      (failure: unknown) => notice(wordsOf(failure), true),
                    )
                  }
                >
                  remove
                </button>
              )}
            </li>
          ))}
        </ul>
        {mayRemark && (
          <RemarkForm onSay={(wish) => acts.remark(rigId, nightDate, wish)} observatoryZone={observatoryZone} />
        )}
      </div>
    </section>
  );
}

function RemarkForm({ onSay, observatoryZone }: { onSay: (wish: Wish) => Promise<unknown>; observatoryZone: string }) {
  const notice = useNotice();
  const { register, handleSubmit, setError, reset, formState } = useForm<Wish>({
    defaultValues: { kind: 'weather', from: '', to: '', words: '' },
  });
  const { errors, isSubmitting } = formState;
  const say = async (wish: Wish): Promise<void> => {
    try {
      await onSay(wish);
      notice(`${wish.kind} from ${wish.from} to ${wish.to} is noted`);
      reset();
    } catch (error) {
      const field = error instanceof ApiError && error.field === 'to' ? 'to' : 'from';
      setError(field, { message: wordsOf(error) });
    }
  };
  return (
    <form
      aria-label="Add a remark"
      className="mt-4 grid grid-cols-3 items-start gap-3"
      onSubmit={(event) => void handleSubmit(say)(event)}
      noValidate
    >
      <Labelled label="It was" error={undefined}>
        <select {...register('kind')}>
          {REMARKED_KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </select>
      </Labelled>
      <Labelled label="from" error={errors.from?.message}>
        <input {...register('from', { required: 'A clock time like 23:10' })} aria-invalid={!!errors.from} />
      </Labelled>
      <Labelled label="to" error={errors.to?.message}>
        <input {...register('to', { required: 'A clock time like 01:40' })} aria-invalid={!!errors.to} />
      </Labelled>
      <div className="col-span-2">
        <Labelled label="What happened (may be empty)" error={undefined}>
          <input {...register('words')} maxLength={200} />
        </Labelled>
      </div>
      <button type="submit" className="act self-end justify-self-start" disabled={isSubmitting}>
        Save remark
      </button>
      <p className="col-span-3 text-sm text-soft">Clock times of {observatoryZone}.</p>
    </form>
  );
}
