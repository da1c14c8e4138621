// A framing taken back: panels point where they pointed, added ones go, dropped ones return, and every credit is as it was.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';

interface Pointed {
  readonly panelId: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
}

interface Reframed {
  readonly pointings: readonly Pointed[];
  readonly added: readonly string[];
  readonly dropped: readonly string[];
  readonly withdrawn: readonly string[];
  readonly inserted: readonly string[];
}

export async function takeBackReframing(
  queries: Queries,
  change: {
    readonly entityId: string;
    readonly before: Record<string, unknown>;
    readonly after: Record<string, unknown>;
  },
): Promise<void> {
  const before = change.before.pointings as readonly Pointed[];
  const after = change.after as unknown as Reframed;
  await refuseBuiltUpon(queries, change.entityId, after);
  await queries.rows('UPDATE attributions SET withdrawn = now() WHERE id = ANY ($1) AND withdrawn IS NULL', [
    after.inserted,
  ]);
  await queries.rows('UPDATE attributions SET withdrawn = NULL WHERE id = ANY ($1)', [after.withdrawn]);
  await queries.rows('UPDATE panels SET dropped = id = ANY ($1) WHERE id = ANY ($1) OR id = ANY ($2)', [
    after.added,
    after.dropped,
  ]);
  for (const { panelId, raDeg, decDeg, positionAngleDeg } of before)
    await queries.rows(
      `INSERT INTO panel_pointings (observatory_id, panel_id, seq, ra_deg, dec_deg, position_angle_deg)
       SELECT w.observatory_id, w.panel_id, w.seq + 1, $2, $3, $4 FROM (SELECT * FROM panel_pointings WHERE panel_id = $1 ORDER BY seq DESC LIMIT 1) w
       WHERE (w.ra_deg, w.dec_deg, w.position_angle_deg) IS DISTINCT FROM ($2::float8, $3::float8, $4::float8)`,
      [panelId, raDeg, decDeg, positionAngleDeg],
    );
}

/** Refused where the panels have moved on, or exposures were taken or credited since. */
async function refuseBuiltUpon(queries: Queries, projectId: string, after: Reframed): Promise<void> {
  const panels = await queries.rows<Pointed>(
    `SELECT id AS "panelId", ra_deg AS "raDeg", dec_deg AS "decDeg", position_angle_deg AS "positionAngleDeg" FROM framed_panels WHERE project_id = $1`,
    [projectId],
  );
  const isAsLeft =
    panels.length === after.pointings.length &&
    after.pointings.every((left) =>
      panels.some(
        (panel) =>
          panel.panelId === left.panelId &&
          panel.raDeg === left.raDeg &&
          panel.decDeg === left.decDeg &&
          panel.positionAngleDeg === left.positionAngleDeg,
      ),
    );
  if (!isAsLeft) throw new ServiceError('CONFLICT', 'The project has been framed anew since; take that back first');
  const since = await queries.one<{ n: number }>(
    `SELECT count(*)::int AS n FROM attributions a WHERE a.withdrawn IS NULL AND a.panel_id = ANY ($1) AND a.id <> ALL ($2)`,
    [after.added, after.inserted],
  );
  if (since!.n > 0)
    throw new ServiceError(
      'CONFLICT',
      `${since!.n} exposures have been taken for the new panels since; frame it back by hand`,
    );
  const moved = await queries.one<{ n: number }>(
    `SELECT count(*)::int AS n FROM attributions o JOIN attributions a ON a.exposure_id = o.exposure_id AND a.project_id = o.project_id
     WHERE o.id = ANY ($1) AND a.withdrawn IS NULL AND a.id <> ALL ($2)`,
    [after.withdrawn, after.inserted],
  );
  if (moved!.n > 0) throw new ServiceError('CONFLICT', 'Exposures have been matched anew since; take that back first');
}
