import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Nullable, Ok, oneOf, UtcMs } from './common.ts';
import { EVERYONE, operation } from './operation.ts';

/** What reaches a person by a channel: nothing, what endangers the observatory, everything they are notified of. */
export const REACHES = ['none', 'danger', 'all'] as const;
const Reach = oneOf(REACHES);
const Minute = Nullable(Type.Integer({ minimum: 0, maximum: 1439 }));

const Channels = {
  email: Reach,
  webhook: Reach,
  webhookUrl: Nullable(Type.String({ minLength: 1, maxLength: 500 })),
  /** Minutes after midnight in one’s own time zone; both or neither. */
  quietFromMin: Minute,
  quietToMin: Minute,
};

export const MessageChannels = Type.Object({
  ...Channels,
  /** Where e-mail goes. */
  address: Type.String(),
  timeZone: Type.String(),
  /** Whether this server can send e-mail at all. */
  canEmail: Type.Boolean(),
  /** Hosts that webhooks may be on. */
  webhookHosts: Type.Array(Type.String()),
  sent: Type.Integer(),
  waiting: Type.Integer(),
  /** The newest message that could not be sent. */
  failed: Nullable(
    Type.Object({ channel: oneOf(['email', 'webhook'] as const), atUtcMs: UtcMs, problem: Type.String() }),
  ),
});
export type MessageChannels = Static<typeof MessageChannels>;

export const readMessageChannels = operation({
  method: 'GET',
  path: '/messages/channels',
  summary: 'How one is reached outside the application.',
  access: EVERYONE,
  response: MessageChannels,
});

export const editMessageChannels = operation({
  method: 'PUT',
  path: '/messages/channels',
  summary: 'Change how one is reached; danger is sent in quiet hours as well.',
  access: EVERYONE,
  body: Type.Object(Channels),
  response: Ok,
});

export const sendTestMessage = operation({
  method: 'POST',
  path: '/messages/test',
  summary: 'Send oneself a message by every channel that is on.',
  access: EVERYONE,
  response: Ok,
});
