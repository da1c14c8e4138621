// The shelf as rows: targets kept for later, themes that group them, orbits of those that move.
import type { ShelvedTarget, Theme } from '@meridiem/contract';
import type { Orbit } from '@meridiem/core';
import type { WhereOptions } from 'sequelize';
import { and, col, fn, Op, where } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { Orbit as Orbits } from '../../database/models/orbit.ts';
import type { Target } from '../../database/models/target.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';

export const shelvedTargets = (queries: Queries, viewer: Viewer): Promise<ShelvedTarget[]> =>
  queries.rows(
    `SELECT t.id, t.name, t.ra_deg AS "raDeg", t.dec_deg AS "decDeg", t.size_arcmin AS "sizeArcmin", t.composition,
             (SELECT o.elements FROM orbits o WHERE o.target_id = t.id ORDER BY o.seq DESC LIMIT 1) AS orbit,
             ARRAY(SELECT m.theme_id FROM theme_targets m WHERE m.target_id = t.id ORDER BY m.theme_id) AS "themeIds",
             (SELECT count(*)::int FROM projects p WHERE p.target_id = t.id AND ${maySee('p', '$2', viewer.role)}) AS projects
           FROM targets t WHERE t.observatory_id = $1 AND t.shelved ORDER BY lower(t.name)`,
    [viewer.observatoryId, viewer.personId],
  );

/** Whatever its letters' case. */
const isNamed = (name: string): WhereOptions => where(fn('lower', col('name')), fn('lower', name));

export const targetOnShelf = ({ models }: Queries, observatoryId: string, name: string): Promise<Target | null> =>
  models.Target.findOne({ where: and({ observatoryId, shelved: true }, isNamed(name)) });

/** @returns whether another target of this one's name is on the shelf */
export async function isNameOnShelf({ models }: Queries, { id, observatoryId, name }: Target): Promise<boolean> {
  const others = await models.Target.count({
    where: and({ observatoryId, shelved: true, id: { [Op.ne]: id } }, isNamed(name)),
  });
  return others > 0;
}

/** Newer elements of a known name become the next ones of the same target, which is on the shelf again.
 * @returns the target's id */
export async function storeOrbit(
  { models }: Queries,
  { observatoryId, personId }: Viewer,
  orbit: Orbit,
  line: string,
): Promise<string> {
  const known = await models.Target.findOne({ where: and({ observatoryId, kind: 'moving' }, isNamed(orbit.name)) });
  const target =
    (await known?.update({ shelved: true })) ??
    (await models.Target.create({ observatoryId, name: orbit.name, kind: 'moving', shelved: true }));
  const newest = await models.Orbit.max<number | null, Orbits>('seq', { where: { targetId: target.id } });
  await models.Orbit.create({
    observatoryId,
    targetId: target.id,
    seq: (newest ?? 0) + 1,
    elements: orbit,
    line,
    personId,
  });
  return target.id;
}

export async function themesOf({ models }: Queries, observatoryId: string): Promise<Theme[]> {
  const rows = await models.Theme.findAll({ where: { observatoryId }, order: [fn('lower', col('name'))] });
  return rows.map(({ id, name, take }) => ({ id, name, take }));
}

/** @returns whether there is a theme of this name beside the one that is left out */
export async function isThemeKnown(
  { models }: Queries,
  observatoryId: string,
  name: string,
  exceptId: string | null,
): Promise<boolean> {
  const others = exceptId === null ? {} : { id: { [Op.ne]: exceptId } };
  return (await models.Theme.count({ where: and({ observatoryId, ...others }, isNamed(name)) })) > 0;
}

/** These targets and no others; what is not on this observatory's shelf is left out. */
export async function putIntoTheme(
  { models }: Queries,
  observatoryId: string,
  themeId: string,
  targetIds: readonly string[],
): Promise<void> {
  await models.ThemeTarget.destroy({ where: { themeId, targetId: { [Op.notIn]: [...targetIds] } } });
  const targets = await models.Target.findAll({
    where: { observatoryId, shelved: true, id: { [Op.in]: [...targetIds] } },
  });
  await models.ThemeTarget.bulkCreate(
    targets.map(({ id: targetId }) => ({ observatoryId, themeId, targetId })),
    { ignoreDuplicates: true },
  );
}
