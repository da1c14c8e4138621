import { mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  clearSurveyPictures,
  editSurveySource,
  readSurveySource,
  surveyThumbnail,
  surveyTile,
  undoLast,
} from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let folder: string;
let asked: URL[] = [];
let answer: { status: number; type: string; body: string; location?: string } = {
  status: 200,
  type: 'image/png',
  body: 'picture',
};
const source = createServer((request, reply) => {
  asked.push(new URL(request.url!, 'http://source'));
  reply.writeHead(answer.status, {
    'content-type': answer.type,
    ...(answer.location ? { location: answer.location } : {}),
  });
  reply.end(answer.body);
});
let host: string;

beforeAll(async () => {
  await new Promise<void>((ready) => source.listen(0, '127.0.0.1', ready));
  host = `127.0.0.1:${(source.address() as AddressInfo).port}`;
  folder = await mkdtemp(join(tmpdir(), 'survey-'));
  test = await createTestApp({
    exposures: 20,
    settings: { simulatorUrl: `http://${host}`, cacheFolder: folder, surveyHosts: [host] },
  });
}, 60_000);
afterAll(async () => {
  await test.close();
  source.close();
  await rm(folder, { recursive: true });
});

const tile = (piece: number, who = 'sam') => test.call(who, surveyTile, { params: { level: 3, strip: 20, piece } });

describe('pictures of the sky', () => {
  it('are fetched once from the rendered survey, then kept', async () => {
    const first = await tile(4);
    expect([first.status, asked.length]).toEqual([200, 1]);
    expect(asked[0].pathname).toBe('/survey');
    expect(Number(asked[0].searchParams.get('dec'))).toBeCloseTo(-49, 6);
    expect((await tile(4, 'jonah')).status).toBe(200);
    expect(asked.length).toBe(1);
    await test.call('sam', surveyThumbnail, { query: { raDeg: 12, decDeg: -30, widthDeg: 0.5 } });
    expect(asked[1].searchParams.get('px')).toBe('96');
  });

  it('that don’t exist are not asked for', async () => {
    const before = asked.length;
    expect((await tile(99_999)).status).toBe(404);
    expect(asked.length).toBe(before);
  });

  it.each([
    ['silence', { status: 500, type: 'image/png', body: '' }],
    ['something else than a picture', { status: 200, type: 'text/html', body: '<p>' }],
    ['a redirect', { status: 302, type: 'image/png', body: '', location: 'http://169.254.169.254/' }],
    ['too much', { status: 200, type: 'image/png', body: 'x'.repeat(9_000_000) }],
  ])('leave the drawn map after %s, and are asked for anew later', async (_, wrong) => {
    answer = wrong;
    const refusal = await tile(5);
    expect(refusal.status).toBe(503);
    expect(JSON.stringify(refusal.body)).toContain('the drawn map stays');
    answer = { status: 200, type: 'image/png', body: 'picture' };
    asked = [];
    await tile(6);
    expect(asked.length).toBeLessThanOrEqual(1);
  });

  it('come from another source only where its host is allowed and its address has the place in it', async () => {
    const refusalOf = async (template: string): Promise<string> => {
      const { status, body } = await test.call('ilse', editSurveySource, { body: { template } });
      expect(status).toBe(422);
      return JSON.stringify(body);
    };
    const places = 'ra={ra}&dec={dec}&width={width}&px={px}';
    expect(await refusalOf('https://example.org/cut?ra={ra}')).toContain('must have {dec}, {width}, {px}');
    expect(await refusalOf(`https://example.org/cut?${places}`)).toContain(
      'example.org is not allowed here; allowed are 127.0.0.1',
    );
    expect(await refusalOf(`file:///etc/passwd?${places}`)).toContain('https:// or http://');
    expect(await refusalOf(`nowhere ${places}`)).toContain('no address');
    const template = `http://${host}/other?${places}`;
    expect((await test.call('ilse', editSurveySource, { body: { template } })).status).toBe(200);
    expect((await test.call('ilse', readSurveySource)).body).toMatchObject({ template, hosts: [host] });
    // The address may carry a key: a guest is told the host alone.
    const { body } = await test.call('sam', readSurveySource);
    expect(body).toMatchObject({ template: new URL(template).origin, hosts: [host] });
    asked = [];
    await tile(4);
    expect(asked.map(({ pathname }) => pathname)).toEqual(['/other']);
    expect((await test.call('ilse', undoLast)).status).toBe(200);
    expect((await test.call('ilse', readSurveySource)).body).toMatchObject({ template: null });
  });

  it('have an address that changes with their source, and say what is kept until it is cleared', async () => {
    const before = await test.call('sam', readSurveySource);
    expect(before.body.stored.count).toBeGreaterThan(1);
    expect(before.body.stored.bytes).toBe(before.body.stored.count * 'picture'.length);
    const template = `http://${host}/third?ra={ra}&dec={dec}&width={width}&px={px}`;
    await test.call('ilse', editSurveySource, { body: { template } });
    const { body } = await test.call('sam', readSurveySource);
    expect(body.key).not.toBe(before.body.key);
    const asTile = { params: { level: 3, strip: 20, piece: 4 }, query: { from: body.key } };
    expect((await test.call('sam', surveyTile, asTile)).status).toBe(200);
    expect((await test.call('ilse', clearSurveyPictures)).status).toBe(200);
    expect((await test.call('sam', readSurveySource)).body.stored).toEqual({ count: 0, bytes: 0 });
    asked = [];
    await tile(4);
    expect(asked.length).toBe(1);
  });
});
