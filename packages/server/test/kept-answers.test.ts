// Answers that are kept: the same for as long as nothing changes, never somebody else's, never older than a change.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { editMembership, editProject, listProjects, readNight, readProject } from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let project: { id: string; version: number };
beforeAll(async () => {
  test = await createTestApp({ exposures: 60, settings: { keptAnswerMs: 600_000 } });
  project = (await test.ownerDatabase.one<{ id: string; version: number }>(
    `SELECT p.id, p.version FROM projects p JOIN people o ON o.id = p.owner_id WHERE o.email LIKE 'ruan@%' AND p.state = 'granted' LIMIT 1`,
  ))!;
}, 60_000);
afterAll(() => test.close());

const read = async (who: string) => (await test.call(who, readProject, { params: { id: project.id } })).body;

describe('a kept answer', () => {
  it('is sent again without being worked out, and many times faster', async () => {
    const begun = performance.now();
    const first = await test.call('ilse', readNight, { params: { nightDate: 'tonight' }, query: {} });
    const started = performance.now();
    for (let i = 0; i < 20; i += 1) {
      const again = await test.call('ilse', readNight, { params: { nightDate: 'tonight' }, query: {} });
      expect(again.body).toEqual(first.body);
    }
    expect((performance.now() - started) / 20).toBeLessThan((started - begun) / 3);
  });
  it('is not older than a change, by whoever made it', async () => {
    const before = await read('mirela');
    const edited = await test.call('ilse', editProject, {
      params: { id: project.id },
      body: { version: before.version, why: 'for the test' },
    });
    expect(edited.status).toBe(200);
    expect((await read('mirela')).why).toBe('for the test');
    expect((await read('ilse')).why).toBe('for the test');
  });
  it('is not older than a change by another process', async () => {
    await read('ruan');
    await test.ownerDatabase.rows(`UPDATE projects SET why = 'elsewhere' WHERE id = $1`, [project.id]);
    await test.ownerDatabase.rows(
      `INSERT INTO events (observatory_id, topic) SELECT observatory_id, 'projects' FROM projects WHERE id = $1`,
      [project.id],
    );
    expect((await read('ruan')).why).toBe('elsewhere');
  });
  it('is nobody else’s: what one may not see is not in it', async () => {
    const { version } = await read('ilse');
    await test.call('ilse', editProject, { params: { id: project.id }, body: { version, private: true } });
    const names = async (who: string) => (await test.call(who, listProjects)).body.projects.map(({ id }) => id);
    expect(await names('ruan')).toContain(project.id);
    expect(await names('mirela')).not.toContain(project.id);
    expect((await test.call('mirela', readProject, { params: { id: project.id } })).status).toBe(404);
  });
  it('is not that of a role that is over', async () => {
    const rows = await test.ownerDatabase.rows<{ id: string }>(`SELECT id FROM people WHERE email LIKE 'jonah@%'`);
    const seen = async () => (await test.call('jonah', readProject, { params: { id: project.id } })).status;
    expect(await seen()).toBe(404);
    await test.call('ilse', editMembership, { params: { id: rows[0].id }, body: { role: 'coordinator' } });
    test.forget('jonah');
    expect(await seen()).toBe(200);
  });
});
