import { foundObservatory, MIN_PASSWORD_LENGTH, readFounding } from '@meridiem/contract';
import { parseSiteAngle } from '@meridiem/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useForm, useWatch } from 'react-hook-form';
import { useNavigate, useParams } from 'react-router';
import { ApiError, call, wordsOf } from '../../app/api.ts';
import { useTheme } from '../../app/theme.ts';
import { Labelled } from '../../ui/Labelled.tsx';
import { Failure, Loading } from '../../ui/states.tsx';
import { clock } from '../../words/format.ts';
import { noonWords } from '../../words/noon.ts';
import { typedNumber } from '../../words/typed.ts';

const TEXTS = {
  observatory: '',
  latitude: '',
  longitude: '',
  elevation: '',
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  zenith: '21.5',
  name: '',
  email: '',
  password: '',
};
type Field = keyof typeof TEXTS;

/** Fields of the server's refusals, as this page names them. */
const FIELD_OF: Readonly<Record<string, Field>> = { timeZone: 'timeZone', email: 'email', password: 'password' };

/** Where the founding link leads: the site, and the account of its first coordinator. */
export function Found() {
  const { token = '' } = useParams();
  useTheme();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const { error, isPending } = useQuery({
    queryKey: ['found', token],
    queryFn: ({ signal }) => call(readFounding, { params: { token }, signal }),
    retry: false,
  });
  const { register, handleSubmit, setError, control, formState } = useForm({ defaultValues: TEXTS });
  const { errors, isSubmitting } = formState;
  const place = placeOf(...useWatch({ control, name: ['latitude', 'longitude', 'timeZone'] }));
  const { data: at } = useQuery({
    queryKey: ['found', token, place],
    queryFn: ({ signal }) => call(readFounding, { params: { token }, query: place!, signal }),
    enabled: place !== null,
    retry: false,
  });
  const found = async (typed: typeof TEXTS): Promise<void> => {
    const numbers = {
      latitude: (text: string) => parseSiteAngle(text, 'latitude'),
      longitude: (text: string) => parseSiteAngle(text, 'longitude'),
      elevation: (text: string) => typedNumber(text, 'elevation'),
      zenith: (text: string) => typedNumber(text, 'brightness'),
    };
    const read: Partial<Record<Field, number>> = {};
    for (const field of ['latitude', 'longitude', 'elevation', 'zenith'] as const) {
      try {
        read[field] = numbers[field](typed[field]);
      } catch (problem) {
        return setError(field, { message: wordsOf(problem) });
      }
    }
    try {
      const observatory = {
        name: typed.observatory.trim(),
        latitudeDeg: read.latitude!,
        longitudeDeg: read.longitude!,
        elevationM: read.elevation!,
        timeZone: typed.timeZone.trim(),
        zenithMagV: read.zenith!,
      };
      const { name, email, password } = typed;
      await call(foundObservatory, { params: { token }, body: { observatory, name: name.trim(), email, password } });
      await queryClient.resetQueries({ queryKey: ['session'] });
      void navigate('/observatory');
    } catch (failure) {
      const field =
        failure instanceof ApiError && failure.field ? (FIELD_OF[failure.field] ?? 'observatory') : 'password';
      setError(field, { message: wordsOf(failure) });
    }
  };
  const field = (name: Field, label: string, needed: string, extra: object = {}) => (
    <Labelled label={label} error={errors[name]?.message}>
      <input aria-invalid={!!errors[name]} {...register(name, { required: needed })} {...extra} />
    </Labelled>
  );
  return (
    <main className="mx-auto max-w-[720px] px-8 py-12">
      <h1 className="text-2xl">Meridiem</h1>
      {isPending && <Loading what="the link" rows={2} />}
      {error && <Failure words={wordsOf(error)} />}
      {!isPending && !error && (
        <form className="mt-4 grid gap-4" onSubmit={(event) => void handleSubmit(found)(event)} noValidate>
          <p className="font-serif text-lg">
            A new observatory: its site, and you as its first coordinator. This link works once.
          </p>
          <h2 className="rule pb-1 text-lg">The site</h2>
          <div className="grid gap-4 sm:grid-cols-2">
            {field('observatory', 'Name of the observatory', 'Give it a name', { autoFocus: true })}
            {field('timeZone', 'Time zone', 'A zone like Australia/Adelaide')}
            {field('latitude', 'Latitude, like 31.62 S or 31° 37′ 12″ S', 'Needed')}
            {field('longitude', 'Longitude, like 137.85 E or 137° 51′ E', 'Needed')}
            {field('elevation', 'Elevation in metres', 'Needed')}
            {field('zenith', 'Dark sky at the zenith, V mag/arcsec²', 'A number like 21.5')}
          </div>
          {at?.sunset && place && (
            <p role="status" className="border-l-2 border-brass bg-raised px-3 py-2 font-serif text-base">
              {at.sunset.sunsetUtcMs === null
                ? 'The sun does not set there tonight.'
                : `Local sunset tonight is ${clock(at.sunset.sunsetUtcMs, place.timeZone)}, sunrise ${clock(at.sunset.sunriseUtcMs, place.timeZone)}. ${noonWords(at.sunset.noonSunAzimuthDeg)}. Right?`}
            </p>
          )}
          <h2 className="rule pb-1 text-lg">You</h2>
          <div className="grid gap-4 sm:grid-cols-2">
            {field('name', 'Your name', 'Members will see it')}
            {field('email', 'E-mail address, to sign in with', 'An address to sign in with', { type: 'email' })}
            <Labelled label={`Password, ${MIN_PASSWORD_LENGTH} characters or more`} error={errors.password?.message}>
              <input
                type="password"
                autoComplete="new-password"
                aria-invalid={!!errors.password}
                {...register('password', {
                  required: 'Choose a password',
                  minLength: { value: MIN_PASSWORD_LENGTH, message: `At least ${MIN_PASSWORD_LENGTH} characters` },
                })}
              />
            </Labelled>
          </div>
          <button type="submit" className="act act-strong justify-self-start" disabled={isSubmitting}>
            Found the observatory
          </button>
        </form>
      )}
    </main>
  );
}

/** A place to ask the sunset of, once all three can be read. */
function placeOf(latitude: string, longitude: string, timeZone: string) {
  try {
    const [latitudeDeg, longitudeDeg] = [parseSiteAngle(latitude, 'latitude'), parseSiteAngle(longitude, 'longitude')];
    if (timeZone.trim() === '') return null;
    return { latitudeDeg, longitudeDeg, timeZone: timeZone.trim() };
  } catch {
    return null;
  }
}
