import type { Person } from '@meridiem/contract';
import { MIN_PASSWORD_LENGTH } from '@meridiem/contract';
import { useForm } from 'react-hook-form';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import type { MemberActs } from '../queries.ts';
import { CalendarFeed } from './CalendarFeed.tsx';
import { OwnSessions } from './OwnSessions.tsx';

/** Name, zone and observer name edited in place; a new password for the old one. */
export function OwnAccount({ you, acts }: { you: Person; acts: MemberActs }) {
  const notice = useNotice();
  const { register, handleSubmit, setError, reset, formState } = useForm({ defaultValues: { current: '', next: '' } });
  const { errors, isSubmitting } = formState;
  const change = async (body: { current: string; next: string }): Promise<void> => {
    try {
      await acts.changePassword(body);
      notice('Your password is changed; other devices are signed out');
      reset();
    } catch (error) {
      setError(error instanceof ApiError && error.field === 'current' ? 'current' : 'next', {
        message: wordsOf(error),
      });
    }
  };
  return (
    <section aria-label="Your account">
      <h2 className="rule pb-1 text-lg">Your account</h2>
      <dl className="mt-2 grid grid-cols-[180px_1fr] gap-y-2">
        <dt className="text-soft">Name</dt>
        <dd>
          <EditableText
            label="Your name"
            width={240}
            shown={you.name}
            text={you.name}
            onSave={(name) => acts.editAccount({ name })}
          />
        </dd>
        <dt className="text-soft">Time zone</dt>
        <dd>
          <EditableText
            label="Your time zone"
            width={240}
            shown={you.timeZone}
            text={you.timeZone}
            onSave={(timeZone) => acts.editAccount({ timeZone: timeZone.trim() })}
          />
        </dd>
        <dt className="text-soft">Observer in headers</dt>
        <dd>
          <EditableText
            label="Observer name in headers"
            width={240}
            shown={you.fitsObserver ?? 'none yet'}
            text={you.fitsObserver ?? ''}
            onSave={(typed) => acts.editAccount({ fitsObserver: typed.trim() || null })}
          />
        </dd>
      </dl>
      <form className="mt-6 grid max-w-[300px] gap-3" onSubmit={(event) => void handleSubmit(change)(event)} noValidate>
        <Labelled label="Present password" error={errors.current?.message}>
          <input
            type="password"
            autoComplete="current-password"
            {...register('current', { required: 'Your present password is needed' })}
          />
        </Labelled>
        <Labelled label={`New password, ${MIN_PASSWORD_LENGTH} characters or more`} error={errors.next?.message}>
          <input
            type="password"
            autoComplete="new-password"
            {...register('next', {
              minLength: { value: MIN_PASSWORD_LENGTH, message: `At least ${MIN_PASSWORD_LENGTH} characters` },
              required: 'A new password is needed',
            })}
          />
        </Labelled>
        <button type="submit" className="act justify-self-start" disabled={isSubmitting}>
          Change the password
        </button>
      </form>
      <OwnSessions />
      <CalendarFeed />
    </section>
  );
}
