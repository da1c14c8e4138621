import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { ImportedFile } from '@meridiem/contract';
import {
  addImportFiles,
  applyImport,
  beginImport,
  editGoal,
  editProject,
  judgeExposures,
  matchByHand,
  readImport,
  reframe,
  undoLast,
} from '@meridiem/contract';
import { seededRandom } from '@meridiem/core';
import { recountedDifferences, servedDifferences } from './recount.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const EVENTS = process.env.MERIDIEM_LONG ? 10_000 : 300;
const CHECKED_EVERY = process.env.MERIDIEM_LONG ? 500 : 100;

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 400 });
}, 60_000);
afterAll(() => test.close());

interface ProjectNow {
  readonly id: string;
  readonly version: number;
  readonly targetName: string;
  readonly rigName: string;
  readonly panels: readonly {
    readonly id: string;
    readonly raDeg: number | null;
    readonly decDeg: number | null;
    readonly positionAngleDeg: number;
    readonly goals: readonly { readonly id: string; readonly version: number }[];
  }[];
}

/** From the database: a project's page would plan the night each time. */
const projectNow = (id: string) =>
  test.database.one<ProjectNow>(
    `SELECT p.id, p.version, t.name AS "targetName", r.name AS "rigName",
       (SELECT jsonb_agg(jsonb_build_object('id', l.id, 'raDeg', l.ra_deg, 'decDeg', l.dec_deg, 'positionAngleDeg', l.position_angle_deg,
          'goals', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'version', g.version)) FROM goals g WHERE g.panel_id = l.id), '[]')))
        FROM framed_panels l WHERE l.project_id = p.id) AS panels
     FROM projects p JOIN targets t ON t.id = p.target_id JOIN rigs r ON r.id = p.rig_id WHERE p.id = $1`,
    [id],
  );

it(
  'totals equal a recount from scratch after random imports, matches, verdicts, policies, edits, undos and re-framings',
  async () => {
    const random = seededRandom(20_261_123);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
    const ids = await test.database.rows<{ id: string }>('SELECT id FROM projects ORDER BY created, id');
    const someProject = async (): Promise<ProjectNow> => (await projectNow(pick(ids).id))!;
    let serial = 0;

    const frameOf = (project: ProjectNow): ImportedFile => {
      const panel = pick(project.panels);
      return {
        name: `event-${serial++}.fits`,
        sizeBytes: 1000,
        facts: {
          kind: random() < 0.9 ? 'light' : 'flat',
          objectName: random() < 0.5 ? project.targetName : null,
          centre:
            panel.raDeg === null || panel.decDeg === null || random() < 0.2
              ? null
              : { raDeg: panel.raDeg, decDeg: Math.max(-89, panel.decDeg + 0.1 * random()) },
          positionAngleDeg: random() < 0.5 ? 360 * random() : null,
          scaleArcsecPerPx: null,
          isMirrored: null,
          startUtcMs: 1_700_000_000_000 + Math.floor(random() * 400) * 600_000,
          startStepMs: 1,
          exposureSec: pick([60, 120, 300]),
          filterName: pick(['L', 'R', 'Ha', 'OIII', 'unknown']),
          gain: 100,
          offset: 30,
          binning: 1,
          sensorC: -10,
          cameraName: null,
          telescopeName: project.rigName,
          observerName: null,
          sequence: null,
          widthPx: 10,
          heightPx: 10,
          isTruncated: false,
          isSimulated: random() < 0.1,
          combined: null,
          site: null,
          dataStart: 0,
          dataLength: 0,
          doubts: [],
        },
        refused: null,
        dataSha256:
          random() < 0.5
            ? Math.floor(random() * 1e6)
                .toString(16)
                .padStart(64, '0')
            : null,
        pixelsSha256: null,
        headerKey: null,
        verdict: random() < 0.1 ? 'accepted' : null,
      };
    };
    const events: readonly (() => Promise<unknown>)[] = [
      async () => {
        const project = await someProject();
        const { id } = (await test.call('ilse', beginImport, { body: { source: 'random' } })).body;
        const params = { id };
        const files = Array.from({ length: 1 + Math.floor(random() * 3) }, () => frameOf(project));
        await test.call('ilse', addImportFiles, { params, body: { files } });
        if (random() < 0.4) {
          const { rows } = (await test.call('ilse', readImport, { params })).body;
          const panelId = random() < 0.3 ? null : pick(project.panels).id;
          await test.call('ilse', matchByHand, { params, body: { fileIds: [pick(rows).id], panelId } });
        }
        await test.call('ilse', applyImport, { params });
      },
      async () => {
        const who = pick(['ilse', 'ruan', 'mirela', 'jonah']);
        const ids = await test.database.rows<{ id: string }>(
          `SELECT r.exposure_id AS id FROM ledger_rows r LEFT JOIN projects p ON p.id = r.project_id LEFT JOIN people o ON o.id = p.owner_id
           WHERE $1 = 'ilse' OR split_part(o.email, '@', 1) = $1 ORDER BY md5(r.exposure_id::text || $2) LIMIT $3`,
          [who, String(random()), 1 + Math.floor(random() * 20)],
        );
        if (ids.length === 0) return;
        const verdict = pick(['accepted', 'rejected', 'undecided'] as const);
        await test.call(who, judgeExposures, {
          body: { exposureIds: ids.map(({ id }) => id), verdict, reason: 'other' },
        });
      },
      async () => {
        const { id, version } = await someProject();
        const fields = pick([
          { counting: pick(['all', 'after_rules', 'after_person'] as const) },
          { judging: random() < 0.5 },
          { private: random() < 0.5 },
        ]);
        await test.call('ilse', editProject, { params: { id }, body: { version, ...fields } });
      },
      async () => {
        const goals = (await someProject()).panels.flatMap((panel) => panel.goals);
        if (goals.length === 0) return;
        const { id, version } = pick(goals);
        const body = { version, wanted: Math.floor(random() * 200) };
        await test.call('ilse', editGoal, { params: { id }, body });
      },
      async () => test.call(pick(['ilse', 'ruan', 'mirela', 'jonah']), undoLast),
      async () => {
        const { id, panels } = await someProject();
        const framed = panels.flatMap(({ raDeg, decDeg, positionAngleDeg }) =>
          raDeg === null || decDeg === null
            ? []
            : [
                {
                  raDeg: (raDeg + random() * 0.4) % 360,
                  decDeg,
                  positionAngleDeg: (positionAngleDeg + 20 * random()) % 360,
                },
              ],
        );
        // Now and then a panel fewer or one more.
        const changed = random() < 0.3 ? framed.slice(1) : random() < 0.3 ? [...framed, ...framed.slice(0, 1)] : framed;
        if (changed.length === 0) return;
        await test.call('ilse', reframe, {
          params: { id },
          body: { panels: changed, doubtful: pick(['keep', 'lose'] as const) },
        });
      },
    ];
    const weights = [0, 0, 0, 1, 1, 1, 1, 2, 3, 4, 4, 5];
    for (let i = 1; i <= EVENTS; i++) {
      await events[pick(weights)]();
      if (i % CHECKED_EVERY > 0) continue;
      expect(await servedDifferences(test.database)).toEqual([]);
      expect(await recountedDifferences(test.database)).toEqual([]);
    }
    const { count } = (await test.database.one<{ count: number }>(
      `SELECT count(*)::int AS count FROM import_files WHERE outcome = 'added'`,
    ))!;
    expect(count).toBeGreaterThan(20);
  },
  process.env.MERIDIEM_LONG ? 3_600_000 : 240_000,
);
