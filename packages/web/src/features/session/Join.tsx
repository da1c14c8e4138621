import { acceptJoin, MIN_PASSWORD_LENGTH, readJoin } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { Link, useNavigate, useParams } from 'react-router';
import { call, wordsOf } from '../../app/api.ts';
import { useTheme } from '../../app/theme.ts';
import { Labelled } from '../../ui/Labelled.tsx';
import { Failure, Loading } from '../../ui/states.tsx';

/** Where a one-time link leads: choose a password and enter. */
export function Join() {
  const { token = '' } = useParams();
  useTheme();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const { data, error, isPending } = useQuery({
    queryKey: ['join', token],
    queryFn: ({ signal }) => call(readJoin, { params: { token }, signal }),
    retry: false,
  });
  const { register, handleSubmit, setError, formState } = useForm({ defaultValues: { password: '' } });
  const { errors, isSubmitting } = formState;
  const enter = async ({ password }: { password: string }): Promise<void> => {
    try {
      await call(acceptJoin, { params: { token }, body: { password } });
      await queryClient.resetQueries({ queryKey: ['session'] });
      void navigate('/tonight');
    } catch (failure) {
      setError('password', { message: wordsOf(failure) });
    }
  };
  return (
    <main className="mx-auto max-w-[420px] px-8 py-24">
      <h1 className="text-2xl">Meridiem</h1>
      {isPending && <Loading what="the invitation" rows={2} />}
      {error && (
        <>
          <Failure words={wordsOf(error)} />
          <p className="mt-4">
            <Link className="word-link" to="/tonight">
              To sign-in
            </Link>
          </p>
        </>
      )}
      {data && (
        <form className="mt-6 grid gap-4" onSubmit={(event) => void handleSubmit(enter)(event)} noValidate>
          <p className="font-serif text-lg">
            {data.kind === 'invite'
              ? `${data.name}, you are invited to ${data.observatoryName}.`
              : `${data.name}, choose a new password for ${data.observatoryName}.`}
          </p>
          <p className="text-soft">You will sign in as {data.email}.</p>
          <Labelled label={`Password, ${MIN_PASSWORD_LENGTH} characters or more`} error={errors.password?.message}>
            <input
              type="password"
              autoComplete="new-password"
              autoFocus
              aria-invalid={!!errors.password}
              {...register('password', {
                required: 'Choose a password',
                minLength: { value: MIN_PASSWORD_LENGTH, message: `At least ${MIN_PASSWORD_LENGTH} characters` },
              })}
            />
          </Labelled>
          <button type="submit" className="act act-strong justify-self-start" disabled={isSubmitting}>
            Enter
          </button>
        </form>
      )}
    </main>
  );
}
