// What people are notified of, outside the application: against a mail server and a webhook of the test’s own, through restarts.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { BodyOf } from '@meridiem/contract';
import { editMessageChannels, listNotices, readMessageChannels, sendTestMessage } from '@meridiem/contract';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { setTimeout as sleep } from 'node:timers/promises';
import { SMTPServer } from 'smtp-server';
import { createMessenger, createOutside, notify } from '../src/modules/notices/index.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

type Channels = BodyOf<typeof editMessageChannels>;
interface Mail {
  readonly id: string;
  readonly to: string;
  readonly text: string;
}

/** A mail server that keeps what it gets. */
async function mailServer(port = 0) {
  const mails: Mail[] = [];
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    logger: false,
    onData: (stream, session, done) =>
      void text(stream).then((all) => {
        const id = /^Message-ID: <(.+)>/im.exec(all)![1];
        mails.push({ id, to: String((session.envelope.rcptTo[0] as { address: string }).address), text: all });
        done();
      }),
  });
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  const at = (server.server.address() as AddressInfo).port;
  return { mails, port: at, close: () => new Promise<void>((resolve) => void server.close(resolve)) };
}

let test: TestApp;
let mail: Awaited<ReturnType<typeof mailServer>>;
const calls: { key: string; body: Record<string, unknown> }[] = [];
const hook = createServer((request, response) => {
  if (request.url === '/elsewhere') return void response.writeHead(307, { location: '/landed' }).end();
  void text(request).then((body) => {
    calls.push({ key: String(request.headers['idempotency-key']), body: JSON.parse(body) });
    response.end();
  });
});
let host: string;
let personOf: Map<string, string>;
let observatoryId: string;
let clockUtcMs = Date.parse('2026-11-29T12:00:00Z');

beforeAll(async () => {
  mail = await mailServer();
  await new Promise<void>((resolve) => hook.listen(0, '127.0.0.1', resolve));
  host = `127.0.0.1:${(hook.address() as AddressInfo).port}`;
  test = await createTestApp({ exposures: 0, settings: { smtpUrl: `smtp://127.0.0.1:${mail.port}`, webhookHosts: [host] } }); // prettier-ignore
  const people = await test.ownerDatabase.rows<{ id: string; name: string }>('SELECT id, lower(split_part(name, $1, 1)) AS name FROM people', [' ']); // prettier-ignore
  personOf = new Map(people.map(({ id, name }) => [name, id]));
  [{ id: observatoryId }] = await test.ownerDatabase.rows<{ id: string }>('SELECT id FROM observatories');
}, 120_000);
afterAll(async () => {
  await test.close();
  await mail.close();
  await new Promise((resolve) => hook.close(resolve));
});

const OFF: Channels = { email: 'none', webhook: 'none', webhookUrl: null, quietFromMin: null, quietToMin: null };
const set = (who: string, fields: Partial<Channels>) => test.call(who, editMessageChannels, { body: { ...OFF, ...fields } }); // prettier-ignore
const happens = (who: string, words: string, kind: 'news' | 'danger' = 'news') =>
  test.database.transaction((queries) =>
    notify(queries, { observatoryId, personId: personOf.get(who)!, words, kind, link: '/tonight' }),
  );
const messenger = (port = mail.port) =>
  createMessenger({
    database: test.database,
    clock: { nowUtcMs: () => clockUtcMs },
    outside: createOutside({ smtpUrl: `smtp://127.0.0.1:${port}`, mailFrom: 'rig@observatory.example', webhookHosts: [host], publicUrl: new URL('https://observatory.example') }), // prettier-ignore
    warn: (error) => {
      throw error;
    },
    firstPauseMs: 50,
  });
const waiting = async (): Promise<number> =>
  (await test.ownerDatabase.one<{ n: number }>(`SELECT count(*)::int AS n FROM messages WHERE state IN ('waiting', 'sending')`))!.n; // prettier-ignore
async function until(holds: () => Promise<boolean> | boolean, mostMs = 15_000): Promise<void> {
  const started = Date.now();
  while (!(await holds())) {
    if (Date.now() - started > mostMs) throw new Error('What was waited for has not come');
    await sleep(30);
  }
}

describe('channels', () => {
  it('are one’s own, within what the server can do', async () => {
    expect((await test.call('ruan', readMessageChannels, {})).body).toMatchObject({ email: 'none', webhook: 'none', canEmail: true, webhookHosts: [host] }); // prettier-ignore
    expect((await set('ruan', { webhook: 'all' })).error.field).toBe('webhookUrl');
    expect((await set('ruan', { quietFromMin: 1320 })).error.field).toBe('quietToMin');
    expect((await set('ruan', { quietFromMin: 60, quietToMin: 60 })).error.field).toBe('quietToMin');
    for (const url of [
      'http://127.0.0.1:1/x',
      `http://user:secret@${host}/`,
      'file:///etc/hosts',
      'nowhere',
      `http://${host}.example/`,
    ])
      expect([url, (await set('ruan', { webhook: 'all', webhookUrl: url })).error.field]).toEqual([url, 'webhookUrl']);
    expect((await test.call('ruan', sendTestMessage, {})).error.field).toBe('email');
    expect((await set('ruan', { email: 'danger', webhook: 'all', webhookUrl: `http://${host}/a` })).status).toBe(200);
    expect((await test.call('petra', readMessageChannels, {})).body).toMatchObject({ email: 'none', webhookUrl: null });
  });

  it('without a mail server can’t be turned on', async () => {
    const bare = await createTestApp({ exposures: 0 });
    const answer = await bare.call('ruan', editMessageChannels, { body: { ...OFF, email: 'all' } });
    await bare.close();
    expect(answer.error).toMatchObject({ field: 'email', message: /not set up to send e-mail/ });
  });
});

describe('messages', () => {
  it('go to nobody who is suspended, and again once they are back', async () => {
    await set('jonah', { email: 'all' });
    const suspended = (is: boolean) =>
      test.ownerDatabase.rows(`UPDATE memberships SET suspended = ${is} WHERE person_id = '${personOf.get('jonah')}'`);
    await suspended(true);
    await happens('jonah', 'Not for you', 'danger');
    expect(await waiting()).toBe(0);
    await suspended(false);
    await happens('jonah', 'For you again');
    expect(await waiting()).toBe(1);
    await set('jonah', {});
    await test.ownerDatabase.rows(`DELETE FROM messages`);
  });

  it('reach everyone by the channels they chose, once, however often the sender is started again', async () => {
    await set('ilse', { email: 'all' });
    await set('ruan', { email: 'danger', webhook: 'all', webhookUrl: `http://${host}/a` });
    for (let i = 0; i < 12; i++) {
      await happens('ilse', `News number ${i}`);
      await happens('ruan', `For Ruan ${i}`, i % 4 === 0 ? 'danger' : 'news');
      await happens('sam', `Not outside ${i}`, 'danger');
    }
    for (let round = 0; (await waiting()) > 0; round++) {
      const both = [messenger(), messenger()];
      await sleep(round * 15);
      await Promise.all(both.map((one) => one.close()));
    }
    expect(mail.mails.filter(({ to }) => to.startsWith('ilse')).length).toBe(12);
    expect(mail.mails.filter(({ to }) => to.startsWith('ruan')).length).toBe(3);
    expect(new Set(mail.mails.map(({ id }) => id)).size).toBe(15);
    expect(calls.length).toBe(12);
    expect(new Set(calls.map(({ key }) => key)).size).toBe(12);
    expect(calls[0].body).toMatchObject({ kind: 'danger', words: 'For Ruan 0', link: 'https://observatory.example/tonight' }); // prettier-ignore
    expect(mail.mails.find((one) => one.text.includes('News number 0'))!.text).toMatch(
      /News number 0[\s\S]*https:\/\/observatory\.example\/tonight/,
    );
    expect(mail.mails.find(({ to }) => to.startsWith('ruan'))!.text).toMatch(/^Subject: Danger: For Ruan/m);
    expect((await test.call('sam', listNotices, {})).body.notices[0]).toMatchObject({ kind: 'danger' });
  });

  it('wait through quiet hours, danger does not', async () => {
    // 22:30 in Ilse’s zone.
    clockUtcMs = Date.parse('2026-11-29T12:00:00Z');
    await set('ilse', { email: 'all', quietFromMin: 22 * 60, quietToMin: 7 * 60 });
    await happens('ilse', 'This can wait');
    await happens('ilse', 'The roof is open', 'danger');
    const sender = messenger();
    const has = (words: string): boolean => mail.mails.some((one) => one.text.includes(words));
    await until(() => has('The roof is open'));
    await until(async () => (await test.ownerDatabase.one<{ late: boolean }>(`SELECT due > now() + interval '8 hours' AS late FROM messages WHERE state = 'waiting'`))?.late === true); // prettier-ignore
    expect(has('This can wait')).toBe(false);
    clockUtcMs += 9 * 3_600_000;
    await test.ownerDatabase.rows(`UPDATE messages SET due = now() WHERE state = 'waiting'`);
    await until(() => has('This can wait'));
    await sender.close();
  });

  it('are tried again until the mail server is back, and say what was wrong', async () => {
    const away = await mailServer();
    await away.close();
    await set('ilse', { email: 'all' });
    await happens('ilse', 'Sent in the end');
    const sender = messenger(away.port);
    await until(async () => (await test.call('ilse', readMessageChannels, {})).body.failed !== null);
    expect((await test.call('ilse', readMessageChannels, {})).body).toMatchObject({ waiting: 1, failed: { channel: 'email', problem: /ECONNREFUSED|connect/ } }); // prettier-ignore
    const back = await mailServer(away.port);
    await until(() => back.mails.length === 1);
    await until(async () => (await waiting()) === 0);
    await sender.close();
    await back.close();
    expect((await test.call('ilse', readMessageChannels, {})).body).toMatchObject({ waiting: 0, failed: null });
  });

  it('whose sender was killed go out again as the same message', async () => {
    await happens('ilse', 'Twice at most, and known as one');
    const [{ id }] = await test.ownerDatabase.rows<{ id: string }>(`UPDATE messages SET state = 'sending', tries = 1, taken = now() - interval '1 minute' WHERE state = 'waiting' RETURNING id`); // prettier-ignore
    const sender = messenger();
    await sleep(300);
    expect(mail.mails.some((one) => one.id.startsWith(id))).toBe(false);
    await test.ownerDatabase.rows(`UPDATE messages SET taken = now() - interval '3 minutes' WHERE id = $1`, [id]);
    await until(() => mail.mails.some((one) => one.id === `${id}@observatory.example`));
    await sender.close();
  });

  it('follow no redirection out of the allowed hosts, and are given up after eight tries', async () => {
    await set('ruan', { webhook: 'all', webhookUrl: `http://${host}/elsewhere` });
    await happens('ruan', 'Not led astray');
    const sender = messenger();
    const newest = () => test.ownerDatabase.one<{ state: string; tries: number }>(`SELECT state, tries FROM messages ORDER BY due DESC LIMIT 1`); // prettier-ignore
    await until(async () => {
      await test.ownerDatabase.rows(`UPDATE messages SET due = now() WHERE state = 'waiting'`);
      return (await newest())?.state === 'failed';
    });
    await sender.close();
    expect(await newest()).toEqual({ state: 'failed', tries: 8 });
    expect(calls.some(({ body }) => body.words === 'Not led astray')).toBe(false);
    expect((await test.call('ruan', readMessageChannels, {})).body.failed).toMatchObject({ channel: 'webhook' });
  });
});
