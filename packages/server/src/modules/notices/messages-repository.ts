// Channels and messages as rows: a message is taken by one sender at a time, and sent once.
import type { MessageChannels } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { MessageChannel } from '../../database/models/message-channel.ts';
import { inForce } from '../../database/validity.ts';

/** A sender that has been silent this long with a message is gone. */
const TAKEN_FOR = "interval '2 minutes'";

export const channelsOf = (
  { models }: Queries,
  observatoryId: string,
  personId: string,
): Promise<MessageChannel | null> => models.MessageChannel.findOne({ where: { observatoryId, personId } });

interface NoticeSent {
  readonly noticeId: string;
  readonly observatoryId: string;
  readonly personId: string;
  readonly isDanger: boolean;
}

/** Puts a notice on its way by the channels that its person has on for it; nothing goes out to those who are suspended or have
 * left. */
export async function insertMessages(
  queries: Queries,
  { noticeId, observatoryId, personId, isDanger }: NoticeSent,
): Promise<void> {
  const channels = await channelsOf(queries, observatoryId, personId);
  if (!channels || !(await isMember(queries, observatoryId, personId))) return;
  const wanted = (['email', 'webhook'] as const).filter(
    (channel) => channels[channel] === 'all' || (channels[channel] === 'danger' && isDanger),
  );
  await queries.models.Message.bulkCreate(wanted.map((channel) => ({ observatoryId, personId, noticeId, channel })));
}

const isMember = async ({ models }: Queries, observatoryId: string, personId: string): Promise<boolean> =>
  (await models.Membership.count({ where: { observatoryId, personId, suspended: false, during: inForce() } })) > 0;

/** A message with everything that its sending needs. */
export interface DueMessage {
  readonly id: string;
  readonly channel: 'email' | 'webhook';
  readonly tries: number;
  readonly kind: 'news' | 'night' | 'danger';
  readonly words: string;
  readonly link: string;
  readonly atUtcMs: number;
  readonly address: string;
  readonly personName: string;
  readonly timeZone: string;
  readonly webhookUrl: string | null;
  readonly quietFromMin: number | null;
  readonly quietToMin: number | null;
  readonly observatoryName: string;
}

/** Takes the message that has been due longest, so that no other sender has it. */
export const takeMessage = (queries: Queries): Promise<DueMessage | null> =>
  queries.one<DueMessage>(
    `WITH taken AS (UPDATE messages SET state = 'sending', tries = tries + 1, taken = now() WHERE id = (
       SELECT id FROM messages WHERE (state = 'waiting' AND due <= now()) OR (state = 'sending' AND taken < now() - ${TAKEN_FOR}) ORDER BY due LIMIT 1 FOR UPDATE SKIP LOCKED)
       RETURNING *)
     SELECT m.id, m.channel, m.tries, n.kind, n.words, n.link, (extract(epoch FROM n.at) * 1000)::float8 AS "atUtcMs", p.email AS address, p.name AS "personName", p.time_zone AS "timeZone",
       c.webhook_url AS "webhookUrl", c.quiet_from_min AS "quietFromMin", c.quiet_to_min AS "quietToMin", o.name AS "observatoryName"
     FROM taken m JOIN notices n ON n.id = m.notice_id JOIN people p ON p.id = m.person_id JOIN observatories o ON o.id = m.observatory_id
     LEFT JOIN message_channels c ON c.observatory_id = m.observatory_id AND c.person_id = m.person_id`,
  );

export const markSent = ({ models }: Queries, id: string): Promise<unknown> =>
  models.Message.update({ state: 'sent', sent: new Date(), problem: null }, { where: { id, state: 'sending' } });

export const putOff = (
  { models }: Queries,
  id: string,
  { due, problem, tries }: { due: Date; problem: string | null; tries: number },
): Promise<unknown> =>
  models.Message.update({ state: 'waiting', due, problem, tries }, { where: { id, state: 'sending' } });

export const giveUp = ({ models }: Queries, id: string, problem: string): Promise<unknown> =>
  models.Message.update({ state: 'failed', problem }, { where: { id, state: 'sending' } });

export async function tallyOf(
  { models }: Queries,
  observatoryId: string,
  personId: string,
): Promise<Pick<MessageChannels, 'sent' | 'waiting' | 'failed'>> {
  const own = { observatoryId, personId };
  const failed = await models.Message.findOne({ where: { ...own, problem: { [Op.ne]: null } }, order: [['due', 'DESC']] }); // prettier-ignore
  return {
    sent: await models.Message.count({ where: { ...own, state: 'sent' } }),
    waiting: await models.Message.count({ where: { ...own, state: { [Op.in]: ['waiting', 'sending'] } } }),
    failed: failed && { channel: failed.channel, atUtcMs: failed.due.getTime(), problem: failed.problem! },
  };
}
