import type { MessageChannels } from '@meridiem/contract';
import { REACHES } from '@meridiem/contract';
import { useState } from 'react';
import { ApiError, wordsOf } from '../../app/api.ts';
import { useBrowserNotices } from '../../app/browser-notices.ts';
import { useNotice } from '../../app/notices.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Labelled } from '../../ui/Labelled.tsx';
import { Failure, Loading } from '../../ui/states.tsx';
import { Toggle } from '../../ui/Toggle.tsx';
import type { TypedChannels } from './channel-words.ts';
import { channelsTyped, FieldError, REACH_WORDS, tallyWords, typedOf } from './channel-words.ts';
import { useChannelActs, useChannels } from './queries.ts';

const REACH_OPTIONS = REACHES.map((value) => ({ value, words: REACH_WORDS[value] }));

/** What reaches one outside the application, and when. */
export default function MessagesPage() {
  const { data, error, isPending, refetch } = useChannels();
  if (isPending) return <Loading what="your messages" rows={5} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  return (
    <>
      <h1 className="text-2xl">Messages</h1>
      <p className="mt-1 max-w-3xl">
        Your notifications can reach you outside Meridiem as well. Danger is what endangers the equipment, such as a
        roof that does not close.
      </p>
      <ChannelForm channels={data} />
      <InThisBrowser />
      <p className="mt-6 text-soft">{tallyWords(data, data.timeZone)}</p>
    </>
  );
}

function ChannelForm({ channels }: { channels: MessageChannels }) {
  const acts = useChannelActs();
  const notice = useNotice();
  const [typed, setTyped] = useState(typedOf(channels));
  const [problem, setProblem] = useState<{ field: string | null; words: string } | null>(null);
  const of = (field: string): string | undefined => (problem?.field === field ? problem.words : undefined);
  const attempt = async (work: () => Promise<unknown>, done: string): Promise<void> => {
    try {
      await work();
      notice(done);
    } catch (error) {
      const field = error instanceof FieldError || error instanceof ApiError ? (error.field ?? null) : null;
      setProblem({ field, words: error instanceof FieldError ? error.message : wordsOf(error) });
    }
  };
  const saved = async (next: TypedChannels): Promise<void> => {
    await acts.edit(channelsTyped(next));
    setProblem(null);
  };
  const save = (fields: Partial<TypedChannels>): void => {
    const next = { ...typed, ...fields };
    setTyped(next);
    // What could not be saved stays said until it can.
    void attempt(() => saved(next), 'Saved');
  };
  const write = (fields: Partial<TypedChannels>): void => {
    setTyped({ ...typed, ...fields });
    setProblem(null);
  };
  const field = (name: 'webhookUrl' | 'quietFrom' | 'quietTo') => ({
    value: typed[name],
    onChange: (event: { target: { value: string } }) => write({ [name]: event.target.value }),
    onBlur: () => (name === 'quietFrom' && typed.quietTo === '' ? undefined : save({})),
  });
  const isOn = typed.email !== 'none' || typed.webhook !== 'none';
  return (
    <section aria-label="Outside the application" className="mt-5 grid max-w-3xl gap-4">
      <div>
        <h2 className="text-xl">E-mail to {channels.address}</h2>
        {channels.canEmail ? (
          <Choice
            label="By e-mail"
            value={typed.email}
            options={REACH_OPTIONS}
            onChoose={(email) => save({ email: email as TypedChannels['email'] })}
          />
        ) : (
          <p className="text-soft">This server is not set up to send e-mail. The one who runs it sets a mail server.</p>
        )}
        {of('email') && <Problem words={of('email')!} />}
      </div>
      <div>
        <h2 className="text-xl">Webhook</h2>
        {channels.webhookHosts.length > 0 ? (
          <div className="grid gap-2">
            <Labelled
              label={`Address that is called, on ${channels.webhookHosts.join(' or ')}`}
              error={of('webhookUrl')}
            >
              <input className="w-full max-w-lg" inputMode="url" {...field('webhookUrl')} />
            </Labelled>
            <span>
              <Choice
                label="By webhook"
                value={typed.webhook}
                options={REACH_OPTIONS}
                onChoose={(webhook) => save({ webhook: webhook as TypedChannels['webhook'] })}
              />
            </span>
          </div>
        ) : (
          <p className="text-soft">No webhook is allowed here. The one who runs the server sets the allowed hosts.</p>
        )}
      </div>
      <div>
        <h2 className="text-xl">Quiet hours</h2>
        <p className="text-soft">
          In {channels.timeZone}. What comes in them is sent when they end; danger is sent at once. Empty: none.
        </p>
        <div className="flex flex-wrap gap-4">
          <Labelled label="From" error={of('quietFromMin')}>
            <input className="w-24" placeholder="22:00" {...field('quietFrom')} />
          </Labelled>
          <Labelled label="To" error={of('quietToMin')}>
            <input className="w-24" placeholder="07:00" {...field('quietTo')} />
          </Labelled>
        </div>
      </div>
      {problem && !['email', 'webhookUrl', 'quietFromMin', 'quietToMin'].includes(problem.field ?? '') && (
        <Problem words={problem.words} />
      )}
      {isOn && (
        <p>
          <button
            type="button"
            className="act"
            onClick={() => void attempt(acts.test, 'A test message is on its way by every channel that is on')}
          >
            Send a test message
          </button>
        </p>
      )}
    </section>
  );
}

const Problem = ({ words }: { words: string }) => (
  <p role="alert" className="text-signal">
    {words}
  </p>
);

/** Notifications by the browser of this device. */
function InThisBrowser() {
  const [isOn, choose] = useBrowserNotices();
  const [isRefused, setRefused] = useState(false);
  return (
    <section aria-label="In this browser" className="mt-5 max-w-3xl">
      <h2 className="text-xl">In this browser</h2>
      <Toggle
        label="Notifications in this browser"
        on="shown by the browser while Meridiem is open in it"
        off="not shown by the browser"
        isOn={isOn}
        onToggle={(wanted) => void choose(wanted).then((isDone) => setRefused(!isDone))}
      />
      {isRefused && <Problem words="The browser does not allow it; allow notifications for this site there first" />}
    </section>
  );
}
