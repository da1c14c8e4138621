import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { OPERATIONS, ROLES } from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { BY_ROLE, createTestApp } from './test-app.ts';

/** Who may call what: c coordinator, h helper, m member, g guest, * anybody, r the runner. A new route must be entered here. */
const EXPECTED: Readonly<Record<string, string>> = {
  'GET /session': '*',
  'POST /session': '*',
  'DELETE /session': 'ghmc',
  'GET /account/sessions': 'ghmc',
  'DELETE /account/sessions/:id': 'ghmc',
  'GET /health': '*',
  'GET /events': 'ghmc',
  'GET /openapi.json': '*',
  'GET /observatory': 'ghmc',
  'PATCH /observatory': 'c',
  'PATCH /climate-months/:id': 'c',
  'POST /closures': 'c',
  'DELETE /closures/:id': 'c',
  'GET /observatory/sunset-check': 'c',
  'PUT /observatory/horizon': 'c',
  'POST /rigs': 'c',
  'GET /found/:token': '*',
  'POST /found/:token': '*',
  'POST /rigs/:id/revisions': 'c',
  'GET /rigs/:id/gear-changes': 'ghmc',
  'POST /rigs/:id/revisions/preview': 'c',
  'PATCH /filters/:id': 'c',
  'PUT /rigs/:id/steps': 'c',
  'POST /recipes': 'mhc',
  'POST /recipes/:id/revisions': 'mhc',
  'PATCH /recipes/:id': 'mhc',
  'DELETE /recipes/:id': 'mhc',
  'POST /rigs/:id/copy': 'c',
  'PATCH /rigs/:id': 'c',
  'DELETE /rigs/:id': 'c',
  'POST /rigs/:id/camera-modes': 'c',
  'POST /camera-modes/:id/revisions': 'c',
  'DELETE /camera-modes/:id': 'c',
  'POST /filters': 'c',
  'DELETE /filters/:id': 'c',
  'POST /retired/:id/restore': 'c',
  'GET /catalogue': 'ghmc',
  'GET /catalogue/around': 'ghmc',
  'PUT /limits': 'hmc',
  'GET /projects': 'ghmc',
  'GET /projects/:id': 'ghmc',
  'POST /projects': 'hmc',
  'POST /projects/:id/copy': 'hmc',
  'PATCH /projects/:id': 'hmc',
  'PATCH /panels/:id': 'hmc',
  'GET /catalogue/objects': 'ghmc',
  'GET /shelf': 'ghmc',
  'GET /rigs/:id/angles': 'ghmc',
  'POST /exposures/promotion': 'hmc',
  'GET /survey': 'ghmc',
  'PUT /survey': 'c',
  'DELETE /survey/pictures': 'c',
  'GET /survey/tiles/:level/:strip/:piece': 'ghmc',
  'GET /survey/thumbnail': 'ghmc',
  'POST /shelf': 'hmc',
  'DELETE /shelf/:id': 'hmc',
  'POST /shelf/orbits': 'hmc',
  'POST /themes': 'hmc',
  'PATCH /themes/:id': 'hmc',
  'DELETE /themes/:id': 'hmc',
  'POST /projects/:id/framing': 'hmc',
  'POST /projects/:id/framing/preview': 'hmc',
  'POST /goals': 'hmc',
  'PATCH /goals/:id': 'hmc',
  'DELETE /goals/:id': 'hmc',
  'GET /exposures': 'ghmc',
  'GET /exposures/nights': 'ghmc',
  'POST /verdicts': 'hmc',
  'GET /imports': 'hmc',
  'POST /imports': 'hmc',
  'GET /imports/:id': 'hmc',
  'GET /imports/:id/writing': 'hmc',
  'DELETE /imports/:id': 'hmc',
  'POST /imports/:id/files': 'hmc',
  'POST /imports/:id/hashes': 'hmc',
  'POST /imports/:id/match': 'hmc',
  'POST /imports/:id/apply': 'hmc',
  'PUT /filter-aliases': 'c',
  'GET /rigs/:id/rules': 'ghmc',
  'PUT /rigs/:id/rules': 'c',
  'POST /rigs/:id/rules/preview': 'c',
  'GET /projects/:id/nights': 'ghmc',
  'GET /projects/:id/outlook': 'ghmc',
  'GET /projects/:id/consequences': 'ghmc',
  'POST /projects/:id/consequences': 'ghmc',
  'GET /season': 'ghmc',
  'POST /season/what-if': 'ghmc',
  'POST /season/what-if/read': 'ghmc',
  'POST /season/swap-dates': 'hmc',
  'POST /season/swap-dates/read': 'hmc',
  'GET /projects/:id/helps': 'ghmc',
  'POST /projects/:id/helps': 'ghmc',
  'GET /projects/:id/season-nights/:nightDate': 'ghmc',
  'POST /projects/:id/season-nights/:nightDate': 'ghmc',
  'GET /standing': 'ghmc',
  'POST /share-periods': 'c',
  'PUT /share-periods/:id': 'c',
  'DELETE /share-periods/:id': 'c',
  'PUT /observatory/fairness': 'c',
  'GET /rigs/:id/nights/:nightDate/early-ends': 'ghmc',
  'PUT /observatory/early-ends': 'c',
  'POST /share-gifts': 'hmc',
  'POST /runs/:id/orders': 'hc',
  'POST /exposures/:id/measure': 'hmc',
  'PUT /rigs/:id/learns-times': 'c',
  'POST /runs/:id/test-shots': 'hc',
  'GET /runs/:id/test-shots/:shotId/picture': 'hc',
  'GET /visits': 'ghmc',
  'POST /visits': 'hc',
  'PATCH /visits/:id': 'hc',
  'POST /visits/:id/jobs': 'hc',
  'POST /visit-jobs/:id/outcome': 'hc',
  'GET /rigs/:id/measured-angles': 'hc',
  'GET /visits/effects': 'ghmc',
  'GET /visits/advice': 'ghmc',
  'POST /visits/advice': 'hc',
  'POST /share-swaps': 'hmc',
  'POST /share-swaps/:id/answer': 'hmc',
  'GET /messages/channels': 'ghmc',
  'PUT /messages/channels': 'ghmc',
  'POST /messages/test': 'ghmc',
  'GET /requests': 'ghmc',
  'GET /projects/:id/requests': 'ghmc',
  'POST /projects/:id/requests': 'hmc',
  'POST /requests/:id/withdraw': 'hmc',
  'POST /requests/:id/grant': 'c',
  'POST /requests/:id/return': 'c',
  'POST /requests/:id/queue': 'c',
  'GET /projects/:id/joins': 'ghmc',
  'POST /projects/:id/joins': 'hmc',
  'POST /joins/:id/answer': 'hmc',
  'POST /season': 'ghmc',
  'POST /projects/:id/outlook': 'ghmc',
  'POST /jobs/:id/stop': 'ghmc',
  'GET /goals/:id/history': 'ghmc',
  'GET /review': 'ghmc',
  'GET /exposures/reasons': 'ghmc',
  'GET /alerts': 'ghmc',
  'POST /alerts/:id/seen': 'hmc',
  'GET /people': 'ghmc',
  'POST /invitations': 'c',
  'DELETE /invitations/:id': 'c',
  'GET /join/:token': '*',
  'POST /join/:token': '*',
  'POST /people/:id/reset': 'c',
  'PATCH /people/:id': 'c',
  'POST /people/:id/leave': 'ghmc',
  'PATCH /account': 'ghmc',
  'POST /account/password': 'ghmc',
  'GET /exports/ledger': 'ghmc',
  'GET /exports/targets': 'ghmc',
  'GET /exports/goals': 'ghmc',
  'GET /search': 'ghmc',
  'GET /exports/nights/:nightDate/calendar': 'ghmc',
  'GET /account/calendar': 'ghmc',
  'POST /account/calendar': 'ghmc',
  'DELETE /account/calendar': 'ghmc',
  'GET /calendar/:token': '*',
  'GET /time-account': 'ghmc',
  'GET /calibration': 'ghmc',
  'GET /rigs/:id/time-account/:nightDate': 'ghmc',
  'POST /rigs/:id/time-account/close': 'hc',
  'POST /rigs/:id/time-account/:nightDate/remarks': 'hc',
  'POST /time-remarks/:id/withdraw': 'hc',
  'PUT /observatory/charging': 'c',
  'GET /exports/dues': 'c',
  'GET /projects/:id/time': 'ghmc',
  'POST /changes/undo': 'hmc',
  'GET /changes': 'ghmc',
  'GET /nights/:nightDate': 'ghmc',
  'GET /nights/:nightDate/sky': 'ghmc',
  'GET /nights/:nightDate/watch': 'ghmc',
  'GET /nights/:nightDate/projects': 'ghmc',
  'POST /nights/:nightDate/publish': 'c',
  'POST /nights/:nightDate/play': 'hc',
  'GET /rigs/:id/nights/:nightDate/planning': 'c',
  'POST /rigs/:id/nights/:nightDate/hand-changes': 'c',
  'POST /hand-changes/:id/keep': 'c',
  'POST /projects/:id/limits/preview': 'ghmc',
  'GET /goals/:id/fits': 'ghmc',
  'GET /goal-sets': 'ghmc',
  'POST /goal-sets': 'hmc',
  'DELETE /goal-sets/:id': 'hmc',
  'POST /projects/:id/goals': 'hmc',
  'GET /nights/:nightDate/forecast': 'ghmc',
  'POST /forecasts/fetch': 'c',
  'POST /forecasts': 'c',
  'GET /notices': 'ghmc',
  'POST /notices/seen': 'ghmc',
  'POST /nights/:nightDate/rehearse': 'hc',
  'POST /runs/:id/stop': 'hc',
  'POST /runner/claim': 'r',
  'POST /runner/runs/:id/begin': 'r',
  'POST /runner/runs/:id/finish': 'r',
  'POST /runner/runs/:id/keep': 'r',
  'POST /runner/runs/:id/replan': 'r',
  'POST /runner/runs/:id/actions': 'r',
  'POST /runner/frames/:id': 'r',
  'POST /runner/runs/:id/test-shots': 'r',
  'GET /runs/:id/actions': 'ghmc',
  'GET /runs/:id/review': 'ghmc',
  'POST /runs/:id/review': 'ghmc',
  'GET /exposures/:id': 'ghmc',
  'GET /projects/:id/delivery': 'hmc',
  'GET /projects/:id/depth': 'ghmc',
  'PUT /projects/:id/depth/:filterId': 'hmc',
  'GET /projects/:id/delivery/archive': 'hmc',
  'GET /exposures/:id/picture': 'ghmc',
  'GET /exposures/:id/file': 'hmc',
  'POST /exposures/:id/notes': 'hmc',
  'GET /alarms': 'ghmc',
  'GET /rigs/:id/step-times': 'ghmc',
  'GET /rigs/:id/devices': 'c',
  'PUT /rigs/:id/devices': 'c',
  'PUT /rigs/:id/night-rules': 'c',
  'POST /rigs/:id/devices/test': 'c',
  'POST /runner/runs/:id/end': 'r',
  'POST /runner/runs/:id/calibration-to-take': 'r',
  'POST /runner/runs/:id/calibration': 'r',
};
const LETTERS = { guest: 'g', member: 'm', helper: 'h', coordinator: 'c' } as const;

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
}, 60_000);
afterAll(() => test.close());

const operations = Object.values(OPERATIONS).map(
  (operation) => [`${operation.method} ${operation.path}`, operation] as const,
);
const nowhere = {
  id: '00000000-0000-4000-8000-000000000000',
  shotId: '00000000-0000-4000-8000-000000000000',
  nightDate: '2026-10-11',
  token: 'no-such-token-as-this',
};

describe('access', () => {
  it('is stated for every route, and for no other', () => {
    expect(operations.map(([name]) => name).sort()).toEqual(Object.keys(EXPECTED).sort());
  });

  it('covers every route the server has', () => {
    const served = test.app.printRoutes({ commonPrefix: false }).match(/\/api\S*/g) ?? [];
    expect(served.length).toBeGreaterThan(0);
    expect(() => test.app.route({ method: 'GET', url: '/api/unlisted', handler: async () => 'open to all' })).toThrow();
  });

  // The stream never ends, so only its refusals are asked for here; the browser tests follow it.
  it.each(operations)('%s is open to its roles and closed to the others', async (name, operation) => {
    const allowed = EXPECTED[name];
    for (const role of ROLES) {
      const may = allowed === '*' || allowed.includes(LETTERS[role]);
      if (may && (name === 'GET /events' || name === 'DELETE /session')) continue;
      const { status, error } = await test.call(BY_ROLE[role], operation, {
        params: nowhere as never,
        body: {} as never,
      });
      if (may)
        expect([name, role, status === 401 || (status === 403 && /may not do this/.test(error.message))]).toEqual([
          name,
          role,
          false,
        ]);
      else expect([name, role, status]).toEqual([name, role, 403]);
    }
    const nobody = await test.call(null, operation, { params: nowhere as never, body: {} as never });
    if (allowed === 'r') expect(nobody.status).toBe(403);
    else if (allowed === '*') expect([401, 200, 400, 404]).toContain(nobody.status);
    else expect(nobody).toMatchObject({ status: 401, error: { code: 'SIGN_IN_NEEDED' } });
    const runner = await test.call('runner', operation, { params: nowhere as never, body: {} as never });
    if (allowed === 'r') expect([401, 403]).not.toContain(runner.status);
    else if (allowed !== '*') expect(runner.status).toBe(401);
  });
});

describe('sessions', () => {
  it('are refused with one message for a wrong password and an unknown address', async () => {
    const wrong = await test.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { email: 'ilse@saltbush.example', password: 'wrong' },
    });
    const unknown = await test.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { email: 'nobody@saltbush.example', password: 'wrong' },
    });
    expect(wrong.statusCode).toBe(401);
    expect(wrong.json()).toEqual(unknown.json());
  });

  it('wait after many wrong passwords', async () => {
    const attempt = () =>
      test.app.inject({
        method: 'POST',
        url: '/api/session',
        payload: { email: 'guess@saltbush.example', password: 'x' },
      });
    const answers = [];
    for (let i = 0; i < 10; i++) answers.push((await attempt()).statusCode);
    expect(answers).toContain(429);
  });

  it('keep passwords as argon2id hashes only', async () => {
    const rows = await test.ownerDatabase.rows<{ hash: string }>('SELECT password_hash AS hash FROM people');
    for (const { hash } of rows) expect(hash).toMatch(/^\$argon2id\$/);
  });

  it('end with signing out', async () => {
    const answer = await test.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { email: 'sam@saltbush.example', password: 'southern-lights' },
    });
    const cookie = String(answer.headers['set-cookie']).split(';')[0];
    expect(String(answer.headers['set-cookie'])).toMatch(/HttpOnly.*SameSite=Lax/i);
    await test.app.inject({ method: 'DELETE', url: '/api/session', headers: { cookie } });
    expect((await test.app.inject({ url: '/api/projects', headers: { cookie } })).statusCode).toBe(401);
  });

  it('do not serve calls that come from another site', async () => {
    const answer = await test.app.inject({
      method: 'POST',
      url: '/api/session',
      headers: { 'sec-fetch-site': 'cross-site' },
      payload: { email: 'ilse@saltbush.example', password: 'southern-lights' },
    });
    expect(answer.json()).toMatchObject({ code: 'CROSS_SITE' });
  });
});

describe('the interface description', () => {
  it('names every operation with who may call it', async () => {
    const document = (await test.app.inject({ url: '/api/openapi.json' })).json() as {
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    const names = Object.values(document.paths).flatMap((path) =>
      Object.values(path).map((operation) => operation.operationId),
    );
    expect(names.sort()).toEqual(Object.keys(OPERATIONS).sort());
  });

  it('says of every property what it is, how one is let in, what goes wrong, and in what form the answer comes', async () => {
    const document = (await test.app.inject({ url: '/api/openapi.json' })).json() as {
      openapi: string;
      components: { securitySchemes: object };
      paths: Record<string, Record<string, DescribedOperation>>;
    };
    expect(document.openapi).toBe('3.1.0');
    expect(Object.keys(document.components.securitySchemes)).toEqual(['session', 'runner']);
    const operations = Object.values(document.paths).flatMap((path) => Object.values(path));
    const of = (id: string) => operations.find(({ operationId }) => operationId === id)!;
    for (const { operationId, tags, responses } of operations) {
      expect([operationId, tags.length, Object.keys(responses)]).toEqual([
        operationId,
        1,
        expect.arrayContaining(['200', '400', '500']),
      ]);
    }
    expect(undescribed(document.paths)).toEqual([]);
    expect(of('exportLedger').responses['200'].content).toHaveProperty(['text/csv']);
    expect(of('editProject').security).toEqual([{ session: [] }]);
    expect(of('claimRun').security).toEqual([{ runner: [] }]);
    expect(of('readHealth').security).toEqual([]);
    const { schema } = of('addRecipe').requestBody!.content['application/json'];
    expect(schema.properties.exposureSec.description).toBe('Exposure, seconds');
  });

  it('answers nothing from outside: a strict content policy', async () => {
    const { headers } = await test.app.inject({ url: '/api/health' });
    expect(headers['content-security-policy']).toMatch(/default-src 'none'/);
  });
});

interface DescribedOperation {
  readonly operationId: string;
  readonly tags: readonly string[];
  readonly security: readonly object[];
  readonly requestBody?: {
    readonly content: Record<string, { schema: { properties: Record<string, { description: string }> } }>;
  };
  readonly responses: Record<string, { readonly content?: object }>;
}

/** Paths to properties that say nothing of themselves. */
function undescribed(value: unknown, at = ''): string[] {
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([key, inner]) => {
    const silent =
      key === 'properties'
        ? Object.entries(inner as Record<string, { description?: string }>).flatMap(([name, property]) =>
            property.description ? [] : [`${at}.${name}`],
          )
        : [];
    return key === 'example' || key === 'examples' ? [] : [...silent, ...undescribed(inner, `${at}.${key}`)];
  });
}
