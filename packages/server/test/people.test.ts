import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  acceptJoin,
  changePassword,
  editAccount,
  editMembership,
  endMembership,
  invitePerson,
  listPeople,
  listProjects,
  readJoin,
  readSession,
  resetPassword,
  withdrawInvitation,
} from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 60 });
}, 60_000);
afterAll(() => test.close());

const people = async (who = 'ilse') => (await test.call(who, listPeople)).body;
const idOf = async (name: string) => (await people()).people.find((person) => person.name === name)!.id;
const tokenOf = (path: string) => ({ token: path.replace('/join/', '') });
const PASSWORD = 'a long enough password';
const guest = {
  name: 'Tamsin Orr',
  email: 'Tamsin@saltbush.example',
  role: 'member' as const,
  timeZone: 'Europe/Dublin',
  fitsObserver: 'T. Orr',
};

describe('an invitation', () => {
  it('is a link that works once and lets its bearer in', async () => {
    const { body: link } = await test.call('ilse', invitePerson, { body: guest });
    expect((await people()).invitations).toMatchObject([{ name: 'Tamsin Orr', role: 'member' }]);
    expect((await people('ruan')).invitations).toEqual([]);
    const params = tokenOf(link.path);
    expect((await test.call(null, readJoin, { params })).body).toMatchObject({ kind: 'invite', name: 'Tamsin Orr' });
    expect((await test.call(null, acceptJoin, { params, body: { password: 'short' } })).status).toBe(400);
    expect((await test.call(null, acceptJoin, { params, body: { password: PASSWORD } })).body).toMatchObject({
      name: 'Tamsin Orr',
      role: 'member',
    });
    expect((await test.call(null, acceptJoin, { params, body: { password: PASSWORD } })).error.message).toMatch(
      /used or has expired/,
    );
    expect((await people()).people.some((person) => person.email === 'tamsin@saltbush.example')).toBe(true);
  });

  it('keeps only a hash of its token', async () => {
    const { body: link } = await test.call('ilse', invitePerson, { body: { ...guest, email: 'x@saltbush.example' } });
    const rows = await test.ownerDatabase.rows('SELECT * FROM one_time_links');
    expect(JSON.stringify(rows)).not.toContain(tokenOf(link.path).token);
  });

  it('is refused for an address in use, an unknown time zone, and when withdrawn or expired', async () => {
    const taken = await test.call('ilse', invitePerson, { body: { ...guest, email: 'ruan@saltbush.example' } });
    expect(taken.error).toMatchObject({ field: 'email' });
    const nowhere = await test.call('ilse', invitePerson, { body: { ...guest, timeZone: 'Mars/Olympus' } });
    expect(nowhere.error).toMatchObject({ field: 'timeZone' });
    const { body: link } = await test.call('ilse', invitePerson, { body: { ...guest, email: 'y@saltbush.example' } });
    const open = (await people()).invitations.find(({ email }) => email === 'y@saltbush.example')!;
    await test.call('ilse', withdrawInvitation, { params: { id: open.id } });
    expect((await test.call(null, readJoin, { params: tokenOf(link.path) })).status).toBe(404);
    const { body: late } = await test.call('ilse', invitePerson, { body: { ...guest, email: 'z@saltbush.example' } });
    await test.ownerDatabase.rows(`UPDATE one_time_links SET expires = now() - interval '1 second'`);
    expect((await test.call(null, readJoin, { params: tokenOf(late.path) })).status).toBe(404);
  });
});

describe('members', () => {
  it('see each other’s names and roles, not each other’s addresses', async () => {
    const seen = (await people('ruan')).people;
    expect(seen.length).toBeGreaterThanOrEqual(6);
    expect(seen.filter((person) => person.email !== null).map((person) => person.isYou)).toEqual([true]);
  });

  it('who are suspended are out at once and in again when readmitted', async () => {
    const params = { id: await idOf('Jonah Teague') };
    expect((await test.call('jonah', listProjects)).status).toBe(200);
    await test.call('ilse', editMembership, { params, body: { suspended: true } });
    expect((await test.call('jonah', listProjects)).status).toBe(401);
    const enter = () =>
      test.app.inject({
        method: 'POST',
        url: '/api/session',
        payload: { email: 'jonah@saltbush.example', password: 'southern-lights' },
      });
    expect((await enter()).statusCode).toBe(401);
    await test.call('ilse', editMembership, { params, body: { suspended: false } });
    expect((await enter()).statusCode).toBe(200);
  });

  it('change their own name, zone and observer name, and their password with the present one', async () => {
    await test.call('petra', editAccount, { body: { timeZone: 'Europe/Oslo', fitsObserver: 'P. Lindholm' } });
    const me = (await people('petra')).people.find((person) => person.isYou)!;
    expect(me).toMatchObject({ timeZone: 'Europe/Oslo', fitsObserver: 'P. Lindholm', name: 'Petra Lindholm' });
    const wrong = await test.call('petra', changePassword, { body: { current: 'guessed', next: PASSWORD } });
    expect(wrong.error.field).toBe('current');
    await test.call('petra', changePassword, { body: { current: 'southern-lights', next: PASSWORD } });
    expect((await test.call('petra', readSession)).body.account).not.toBeNull();
  });

  it('get a new password by a coordinator’s link, and their old sessions end', async () => {
    const { body: link } = await test.call('ilse', resetPassword, { params: { id: await idOf('Sam Ferrow') } });
    expect((await test.call('sam', listProjects)).status).toBe(200);
    await test.call(null, acceptJoin, { params: tokenOf(link.path), body: { password: PASSWORD } });
    expect((await test.call('sam', listProjects)).status).toBe(401);
  });

  it('hand their projects on when they leave', async () => {
    const heir = await idOf('Ruan Aldous');
    const params = { id: await idOf('Mirela Costin') };
    const self = await test.call('mirela', endMembership, { params, body: { handOnTo: params.id } });
    expect(self.error.field).toBe('handOnTo');
    expect((await test.call('ruan', endMembership, { params, body: { handOnTo: null } })).status).toBe(403);
    const { body } = await test.call('mirela', endMembership, { params, body: { handOnTo: heir } });
    expect(body.projects).toBeGreaterThan(0);
    expect((await test.call('mirela', listProjects)).status).toBe(401);
    const { projects } = (await test.call('ilse', listProjects)).body;
    expect(projects.some((project) => project.ownerName === 'Mirela Costin' && project.state !== 'retired')).toBe(
      false,
    );
  });
});

describe('the last coordinator', () => {
  it('can neither leave, be demoted nor suspended: said in words, and held by the database', async () => {
    const params = { id: await idOf('Ilse Marwick') };
    for (const answer of [
      await test.call('ilse', endMembership, { params, body: { handOnTo: null } }),
      await test.call('ilse', editMembership, { params, body: { role: 'member' } }),
      await test.call('ilse', editMembership, { params, body: { suspended: true } }),
    ])
      expect(answer.error.message).toMatch(/last coordinator can’t leave/);
    await expect(
      test.ownerDatabase.rows(`UPDATE memberships SET role = 'member' WHERE role = 'coordinator'`),
    ).rejects.toThrow(/coordinator must remain/);
  });

  it('can go once somebody else is coordinator', async () => {
    await test.call('ilse', editMembership, {
      params: { id: await idOf('Ruan Aldous') },
      body: { role: 'coordinator' },
    });
    const params = { id: await idOf('Ilse Marwick') };
    expect((await test.call('ilse', endMembership, { params, body: { handOnTo: null } })).status).toBe(200);
  });
});
