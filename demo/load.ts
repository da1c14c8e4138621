// Writes the demo's story into an empty database: npm run by the start command, never against a database that holds an observatory.
import { createHash, randomUUID } from 'node:crypto';
import type { Database, Queries } from '../packages/server/src/database/connection.ts';
import { insertRows } from '../packages/server/src/database/insert-rows-repository.ts';
import { hashPassword } from '../packages/server/src/modules/accounts/index.ts';
import { DEMO_PASSWORD, emailOf, PEOPLE } from './people.ts';
import { FILTERS, HORIZON, LIMITS, RIGS, STATION } from './station.ts';
import { demoComet, SHELVED, THEMES } from './shelf.ts';
import type { Story } from './story.ts';

const iso = (utcMs: number): string => new Date(utcMs).toISOString();
const LONG_AGO = '2020-01-01T00:00:00Z';

/** Ids made from names, so that the same story has the same ids. */
function idOf(...names: string[]): string {
  const hex = createHash('sha256').update(names.join('\u0000')).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/** Whether a database already holds an observatory. */
export const isLoaded = async (database: Queries): Promise<boolean> =>
  (await database.one('SELECT 1 FROM observatories')) !== null;

/** Loads the story in one transaction. */
export async function loadDemo(database: Database, story: Story): Promise<void> {
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  await database.transaction(async (queries) => {
    const observatoryId = idOf('observatory');
    await insertRows(queries, 'observatories', [
      {
        id: observatoryId,
        name: STATION.name,
        latitude_deg: STATION.latitudeDeg,
        longitude_deg: STATION.longitudeDeg,
        elevation_m: STATION.elevationM,
        time_zone: STATION.timeZone,
        sky_zenith_mag_v: STATION.zenithMagV,
        bound_sun_altitude_max_deg: -9,
        bound_mount_altitude_min_deg: 15,
        bound_zenith_hole_deg: 0,
        version: 1,
      },
    ]);
    await loadPeople(queries, observatoryId, passwordHash);
    await insertRows(queries, 'horizons', [
      { id: idOf('horizon'), observatory_id: observatoryId, during: `[${LONG_AGO},)`, points: HORIZON },
    ]);
    await loadEquipment(queries, observatoryId);
    await insertRows(
      queries,
      'nights',
      story.nights.map((night) => ({
        id: randomUUID(),
        observatory_id: observatoryId,
        night_date: night.nightDate,
        start_utc: iso(night.startUtcMs),
        end_utc: iso(night.endUtcMs),
      })),
    );
    await loadProjects(queries, observatoryId, story);
    await insertRows(
      queries,
      'limit_values',
      LIMITS.map((limit, i) => ({
        id: idOf('limit', String(i)),
        observatory_id: observatoryId,
        project_id: null,
        goal_id: null,
        class: limit.class,
        key: limit.key,
        value: limit.value,
        is_off: false,
      })),
    );
    await loadLedger(queries, observatoryId, story);
    await loadShelf(queries, observatoryId, story.nights.at(-1)!.endUtcMs);
  });
}

async function loadShelf(queries: Queries, observatoryId: string, nowUtcMs: number): Promise<void> {
  const own = { observatory_id: observatoryId };
  await insertRows(
    queries,
    'themes',
    THEMES.map(({ key, name, take }) => ({ id: idOf('theme', key), ...own, name, take })),
  );
  const { orbit, line } = demoComet(nowUtcMs);
  const cometId = idOf('shelved', 'comet');
  const place = { ra_deg: null, dec_deg: null, size_arcmin: null };
  await insertRows(queries, 'targets', [
    ...SHELVED.map(({ key, name, raDeg, decDeg, sizeArcmin }) => ({
      id: idOf('shelved', key),
      ...own,
      name,
      kind: 'fixed',
      shelved: true,
      ra_deg: raDeg,
      dec_deg: decDeg,
      size_arcmin: sizeArcmin,
    })),
    { id: cometId, ...own, name: orbit.name, kind: 'moving', shelved: true, ...place },
  ]);
  await insertRows(queries, 'orbits', [
    {
      id: idOf('orbit', 'comet'),
      ...own,
      target_id: cometId,
      seq: 1,
      elements: orbit,
      line,
      person_id: idOf('person', 'ilse'),
      created: iso(nowUtcMs),
    },
  ]);
  await insertRows(queries, 'theme_targets', [
    ...SHELVED.map(({ key, theme }) => ({ ...own, theme_id: idOf('theme', theme), target_id: idOf('shelved', key) })),
    { ...own, theme_id: idOf('theme', 'visitors'), target_id: cometId },
  ]);
}

async function loadPeople(queries: Queries, observatoryId: string, passwordHash: string): Promise<void> {
  await insertRows(
    queries,
    'people',
    PEOPLE.map((person) => ({
      id: idOf('person', person.key),
      email: emailOf(person),
      name: person.name,
      password_hash: passwordHash,
      time_zone: person.timeZone,
      demo_password: DEMO_PASSWORD,
      fits_observer: person.role === 'guest' ? null : person.name,
    })),
  );
  await insertRows(
    queries,
    'memberships',
    PEOPLE.map((person) => ({
      id: idOf('membership', person.key),
      observatory_id: observatoryId,
      person_id: idOf('person', person.key),
      role: person.role,
      during: `[${LONG_AGO},)`,
    })),
  );
}

async function loadEquipment(queries: Queries, observatoryId: string): Promise<void> {
  const own = { observatory_id: observatoryId };
  await insertRows(
    queries,
    'filters',
    FILTERS.map((f, position) => ({
      id: idOf('filter', f.letter),
      ...own,
      letter: f.letter,
      name: f.name,
      class: f.class,
      centre_nm: f.centreNm,
      width_nm: f.widthNm,
      extinction_mag: f.extinctionMagPerAirmass,
      sky_zenith_mag: f.zenithMag,
      moon_factor: f.moonFactor,
      position,
      version: 1,
    })),
  );
  for (const [position, rig] of RIGS.entries()) {
    const cameraId = idOf('camera', rig.key);
    const rigId = idOf('rig', rig.key);
    await insertRows(queries, 'cameras', [
      {
        id: cameraId,
        ...own,
        serial: rig.serial,
        width_px: rig.widthPx,
        height_px: rig.heightPx,
        pixel_um: rig.pixelUm,
        dark_current_e_per_s: rig.darkCurrentEPerSec,
      },
    ]);
    await insertRows(
      queries,
      'camera_modes',
      rig.modes.map((mode) => ({
        id: idOf('mode', rig.key, mode.name),
        ...own,
        camera_id: cameraId,
        name: mode.name,
        gain: mode.gain,
        read_noise_e: mode.readNoiseE,
        full_well_e: mode.fullWellE,
      })),
    );
    await insertRows(queries, 'rigs', [{ id: rigId, ...own, name: rig.name, position }]);
    await insertRows(queries, 'rig_revisions', [
      {
        id: idOf('rig revision', rig.key),
        ...own,
        rig_id: rigId,
        seq: 1,
        during: `[${LONG_AGO},)`,
        camera_id: cameraId,
        aperture_mm: rig.apertureMm,
        obstruction_share: rig.obstructionShare,
        focal_length_mm: rig.focalLengthMm,
        throughput: rig.throughput,
        mount_kind: rig.mountKind,
        flip_before_s: rig.flipBeforeSec,
        flip_after_s: rig.flipAfterSec,
        mount_limit_after_s: rig.mountLimitAfterSec,
        rotator_kind: rig.rotatorKind,
        angle_tolerance_deg: rig.angleToleranceDeg,
        drawtube_mm: rig.drawtubeMm,
        corrected_circle_mm: rig.correctedCircleMm,
        mirrors: rig.mirrors,
        costs: rig.costs,
      },
    ]);
    if (rig.skyAngleDeg !== null)
      await insertRows(queries, 'rig_angles', [
        {
          id: idOf('angle', rig.key),
          ...own,
          rig_id: rigId,
          during: `[${LONG_AGO},)`,
          sky_angle_deg: rig.skyAngleDeg,
          mechanical_deg: null,
        },
      ]);
    await insertRows(
      queries,
      'filter_slots',
      FILTERS.map((f, i) => ({
        id: idOf('slot', rig.key, f.letter),
        ...own,
        rig_id: rigId,
        slot: i + 1,
        filter_id: idOf('filter', f.letter),
        focus_offset_steps: rig.offsetsUnknown.includes(f.letter) ? null : 12 * i,
        during: `[${LONG_AGO},)`,
      })),
    );
    await insertRows(
      queries,
      'recipes',
      FILTERS.map((f) => ({
        id: idOf('recipe', rig.key, f.letter),
        ...own,
        rig_id: rigId,
        filter_id: idOf('filter', f.letter),
        name: `${f.letter} standard`,
      })),
    );
    await insertRows(
      queries,
      'recipe_revisions',
      FILTERS.map((f) => ({
        id: idOf('recipe revision', rig.key, f.letter),
        ...own,
        recipe_id: idOf('recipe', rig.key, f.letter),
        seq: 1,
        camera_mode_id: idOf('mode', rig.key, f.class === 'narrowband' ? 'Narrowband' : 'Broadband'),
        exposure_s: f.class === 'narrowband' ? 300 : 120,
        offset: 30,
        binning: 1,
        sensor_c: -10,
        pause_s: 0,
        dither_every: f.class === 'narrowband' ? 1 : 3,
        created: LONG_AGO,
      })),
    );
  }
}

async function loadProjects(queries: Queries, observatoryId: string, story: Story): Promise<void> {
  const own = { observatory_id: observatoryId };
  for (const [i, project] of story.projects.entries()) {
    const { source } = project;
    const projectId = idOf('project', source.key);
    await insertRows(queries, 'targets', [
      {
        id: idOf('target', source.key),
        ...own,
        name: project.targetName,
        kind: 'fixed',
        ra_deg: project.target?.raDeg ?? null,
        dec_deg: project.target?.decDeg ?? null,
      },
    ]);
    await insertRows(queries, 'projects', [
      {
        id: projectId,
        ...own,
        owner_id: idOf('person', source.owner),
        rig_id: idOf('rig', source.rig),
        target_id: idOf('target', source.key),
        name: project.name,
        state: source.state,
        resting: source.resting ?? false,
        counting: source.counting,
        judging: source.counting !== 'after_person',
        private: source.private ?? false,
        grade: source.grade,
        deadline: null,
        why: source.why ?? null,
        created: iso(story.nowUtcMs - (61 * 24 - i) * 3_600_000),
        version: 1,
      },
    ]);
    await insertRows(
      queries,
      'panels',
      project.panels.map((panel, position) => ({
        id: idOf('panel', panel.key),
        ...own,
        project_id: projectId,
        position: position + 1,
        name: panel.name,
      })),
    );
    await insertRows(
      queries,
      'panel_pointings',
      project.panels.map((panel) => ({
        id: idOf('pointing', panel.key),
        ...own,
        panel_id: idOf('panel', panel.key),
        seq: 1,
        ra_deg: panel.position?.raDeg ?? null,
        dec_deg: panel.position?.decDeg ?? null,
        position_angle_deg: panel.angleDeg,
        created: LONG_AGO,
      })),
    );
    await insertRows(
      queries,
      'goals',
      project.goals.map((goal, position) => ({
        id: idOf('goal', goal.key),
        ...own,
        panel_id: idOf('panel', goal.panelKey),
        recipe_revision_id: idOf('recipe revision', source.rig, goal.filter),
        wanted: goal.wanted,
        why: null,
        enabled: true,
        position,
        version: 1,
      })),
    );
  }
}

async function loadLedger(queries: Queries, observatoryId: string, story: Story): Promise<void> {
  const own = { observatory_id: observatoryId };
  const goals = new Map(
    story.projects.flatMap((project) => project.goals.map((goal) => [goal.key, { goal, project }] as const)),
  );
  const rows = story.exposures.map((exposure) => ({
    exposure,
    ...goals.get(exposure.goalKey)!,
    id: idOf('exposure', exposure.goalKey, String(exposure.startUtcMs)),
  }));
  await insertRows(
    queries,
    'exposures',
    rows.map(({ exposure, goal, project, id }) => ({
      id,
      ...own,
      rig_revision_id: idOf('rig revision', project.source.rig),
      night_date: exposure.nightDate,
      kind: 'light',
      start_utc: iso(exposure.startUtcMs),
      exposure_s: exposure.exposureSec,
      filter_id: idOf('filter', goal.filter),
      gain: exposure.gain,
      offset: 30,
      binning: 1,
      sensor_c: exposure.sensorC,
      run_step_id: null,
      data_sha256: null,
      header_key: `${idOf('rig', project.source.rig)}|${exposure.startUtcMs}|${exposure.exposureSec}`,
      recorded: iso(exposure.startUtcMs + 1000 * exposure.exposureSec),
    })),
  );
  await insertRows(
    queries,
    'measurements',
    rows.map(({ exposure, id }) => ({
      exposure_id: id,
      half_flux_radius_px: exposure.halfFluxRadiusPx,
      star_count: exposure.starCount,
      guiding_rms_arcsec: exposure.guidingRmsArcsec,
      background_e: exposure.backgroundE,
      temperature_c: exposure.temperatureC,
      rate_predicted: exposure.ratePredicted,
      rate_measured: exposure.rateMeasured,
      after_move: exposure.afterMove,
      airmass: exposure.airmass,
      transparency: exposure.transparency,
      sky_ratio: exposure.skyRatio,
    })),
  );
  await insertRows(
    queries,
    'attributions',
    rows.map(({ goal, project, id }) => ({
      id: idOf('attribution', id),
      ...own,
      exposure_id: id,
      project_id: idOf('project', project.source.key),
      panel_id: idOf('panel', goal.panelKey),
      goal_id: idOf('goal', goal.key),
      credit_share: 1,
      reason: 'taken for this goal',
      withdrawn: null,
    })),
  );
  const judged = rows.filter(({ exposure }) => exposure.verdict !== 'undecided');
  const byHand = (counting: string): boolean => counting === 'after_person';
  await insertRows(
    queries,
    'verdicts',
    judged.map(({ exposure, project, id }) => ({
      ...own,
      exposure_id: id,
      origin: byHand(project.source.counting) ? 'hand' : 'rule',
      by_coordinator: false,
      person_id: byHand(project.source.counting) ? idOf('person', project.source.owner) : null,
      verdict: exposure.verdict,
      reason: byHand(project.source.counting) && exposure.verdict === 'accepted' ? 'looked at' : exposure.reason,
      at: iso(exposure.startUtcMs + 43_200_000),
    })),
  );
}
