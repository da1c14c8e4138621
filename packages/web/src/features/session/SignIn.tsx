import type { ResponseOf, readSession } from '@meridiem/contract';
import { signIn } from '@meridiem/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { call, wordsOf } from '../../app/api.ts';
import { useTheme } from '../../app/theme.ts';
import { Labelled } from '../../ui/Labelled.tsx';

type DemoAccounts = ResponseOf<typeof readSession>['demoAccounts'];

/** The door: address and password, or one of the demo's accounts. */
export function SignIn({ demoAccounts }: { demoAccounts: DemoAccounts }) {
  const queryClient = useQueryClient();
  useTheme();
  const { register, handleSubmit, setError, formState } = useForm<{ email: string; password: string }>();
  const enter = async (given: { email: string; password: string }): Promise<void> => {
    try {
      await call(signIn, { body: given });
      await queryClient.resetQueries();
    } catch (error) {
      setError('password', { message: wordsOf(error) });
    }
  };
  const { errors, isSubmitting } = formState;
  return (
    <main className="mx-auto grid min-h-screen max-w-[880px] content-center gap-12 px-8 py-12 md:grid-cols-[1fr_1fr]">
      <div>
        <h1 className="text-2xl">Meridiem</h1>
        <p className="mt-2 font-serif text-lg text-soft">
          Plan the nights of a shared observatory: who gets which hours, and what each project has gathered.
        </p>
        <form
          className="mt-8 grid max-w-[300px] gap-4"
          onSubmit={(event) => void handleSubmit(enter)(event)}
          noValidate
        >
          <Labelled label="Address" error={errors.email?.message}>
            <input
              type="email"
              autoComplete="username"
              autoFocus
              {...register('email', { required: 'Your address is needed' })}
              aria-invalid={!!errors.email}
            />
          </Labelled>
          <Labelled label="Password" error={errors.password?.message}>
            <input
              type="password"
              autoComplete="current-password"
              {...register('password', { required: 'Your password is needed' })}
              aria-invalid={!!errors.password}
            />
          </Labelled>
          <button type="submit" className="act act-strong justify-self-start" disabled={isSubmitting}>
            Sign in
          </button>
        </form>
      </div>
      {demoAccounts.length > 0 && (
        <section aria-label="Demo accounts" className="self-center border-l border-hairline pl-8">
          <h2 className="text-lg">The demo’s people</h2>
          <p className="mt-1 text-soft">Made up, on this machine only. Choose one to look around as.</p>
          <ul className="mt-4">
            {demoAccounts.map(({ email, password, name, role }) => (
              <li key={email} className="rule">
                <button
                  type="button"
                  className="flex w-full cursor-pointer justify-between py-2 text-left hover:text-brass"
                  onClick={() => void enter({ email, password })}
                >
                  <span>{name}</span>
                  <span className="text-soft">{role}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}
