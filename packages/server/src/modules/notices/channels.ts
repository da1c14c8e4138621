// How a person is reached outside the application: their own choice, within what the server can do.
import type { BodyOf, editMessageChannels, MessageChannels } from '@meridiem/contract';
import { hostAllowed } from '../../allowed-hosts.ts';
import type { Config } from '../../config.ts';
import type { Database } from '../../database/connection.ts';
import { refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { notify } from './service.ts';
import { channelsOf, tallyOf } from './messages-repository.ts';

export interface MessageParts {
  readonly database: Database;
  readonly config: Pick<Config, 'smtpUrl' | 'webhookHosts'>;
}

export type MessageService = ReturnType<typeof createMessageService>;
type Body = BodyOf<typeof editMessageChannels>;

const NONE: Body = { email: 'none', webhook: 'none', webhookUrl: null, quietFromMin: null, quietToMin: null };

export function createMessageService({ database, config }: MessageParts) {
  return {
    async read({ observatoryId, personId, timeZone }: Viewer): Promise<MessageChannels> {
      const stored = await channelsOf(database, observatoryId, personId);
      const person = (await database.models.Person.findByPk(personId))!;
      const { email, webhook, webhookUrl, quietFromMin, quietToMin } = stored ?? NONE;
      return {
        ...{ email, webhook, webhookUrl, quietFromMin, quietToMin },
        address: person.email,
        timeZone,
        canEmail: config.smtpUrl !== null,
        webhookHosts: [...config.webhookHosts],
        ...(await tallyOf(database, observatoryId, personId)),
      };
    },

    async edit({ observatoryId, personId }: Viewer, body: Body): Promise<{ ok: true }> {
      refuseChannels(body, config);
      await database.models.MessageChannel.upsert({ observatoryId, personId, ...body });
      return { ok: true };
    },

    async test(viewer: Viewer): Promise<{ ok: true }> {
      const { observatoryId, personId } = viewer;
      const channels = await channelsOf(database, observatoryId, personId);
      if (!channels || (channels.email === 'none' && channels.webhook === 'none'))
        throw refused('email', 'No channel is on; choose one first');
      await database.transaction(
        (queries) =>
        notify(queries, { observatoryId, personId, kind: 'danger', words: 'A test: messages about danger reach you like this', link: '/messages' }), // prettier-ignore
      );
      return { ok: true };
    },
  };
}

/** @throws REFUSED at the field */
function refuseChannels(body: Body, { smtpUrl, webhookHosts }: MessageParts['config']): void {
  const { email, webhook, webhookUrl, quietFromMin, quietToMin } = body;
  if (email !== 'none' && smtpUrl === null)
    throw refused('email', 'This server is not set up to send e-mail; the one who runs it sets a mail server');
  if (webhook !== 'none' && webhookUrl === null) throw refused('webhookUrl', 'Write the address that is to be called');
  if (webhookUrl !== null && !hostAllowed(webhookUrl, webhookHosts))
    throw refused(
      'webhookUrl',
      webhookHosts.length === 0
        ? 'No webhook is allowed here: the hosts they may be on are set where the server is started'
        : `Write an address like https://${webhookHosts[0]}/…; allowed are ${webhookHosts.join(', ')}`,
    );
  if ((quietFromMin === null) !== (quietToMin === null))
    throw refused(quietFromMin === null ? 'quietFromMin' : 'quietToMin', 'Quiet hours need a beginning and an end');
  if (quietFromMin !== null && quietFromMin === quietToMin)
    throw refused('quietToMin', 'Quiet hours end at another time than they begin');
}
