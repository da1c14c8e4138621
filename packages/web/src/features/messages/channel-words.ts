// Channels as they are typed and said.
import type { BodyOf, editMessageChannels, MessageChannels } from '@meridiem/contract';
import { dayAndClock } from '../../words/format.ts';
import { typedClockMin } from '../../words/typed.ts';

type Channels = BodyOf<typeof editMessageChannels>;

export const REACH_WORDS: Readonly<Record<Channels['email'], string>> = {
  none: 'nothing',
  danger: 'danger only',
  all: 'everything I am notified of',
};

const pad = (value: number): string => String(value).padStart(2, '0');
export const clockOfMin = (min: number | null): string => (min === null ? '' : `${pad(Math.floor(min / 60))}:${pad(min % 60)}`); // prettier-ignore

export interface TypedChannels {
  readonly email: Channels['email'];
  readonly webhook: Channels['webhook'];
  readonly webhookUrl: string;
  readonly quietFrom: string;
  readonly quietTo: string;
}

export const typedOf = ({ email, webhook, webhookUrl, quietFromMin, quietToMin }: MessageChannels): TypedChannels => ({
  email,
  webhook,
  webhookUrl: webhookUrl ?? '',
  quietFrom: clockOfMin(quietFromMin),
  quietTo: clockOfMin(quietToMin),
});

/** What is typed as it is saved.
 * @throws FieldError naming the field that can't be read */
export function channelsTyped({ email, webhook, webhookUrl, quietFrom, quietTo }: TypedChannels): Channels {
  return {
    email,
    webhook,
    webhookUrl: webhookUrl.trim() || null,
    quietFromMin: minuteOf('quietFromMin', quietFrom),
    quietToMin: minuteOf('quietToMin', quietTo),
  };
}

export class FieldError extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message);
  }
}

function minuteOf(field: string, text: string): number | null {
  if (text.trim() === '') return null;
  try {
    return typedClockMin(text);
  } catch (error) {
    throw new FieldError(field, (error as Error).message);
  }
}

const messages = (count: number): string => (count === 1 ? '1 message' : `${count} messages`);

/** What has left so far, and what is in its way. */
export function tallyWords(
  { sent, waiting, failed }: Pick<MessageChannels, 'sent' | 'waiting' | 'failed'>,
  zone: string,
): string {
  // prettier-ignore
  const parts = [`${messages(sent)} sent`, ...(waiting > 0 ? [`${waiting} waiting`] : [])].join(', ');
  if (!failed) return `${parts}.`;
  const channel = failed.channel === 'email' ? 'E-mail' : 'The webhook';
  return `${parts}. ${channel} failed at ${dayAndClock(failed.atUtcMs, zone)}: ${failed.problem}.`;
}
