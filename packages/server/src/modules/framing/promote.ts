// A try-out becomes a project: exposures that belong to none, with a panel where they looked and goals of the recipes they were taken by.
import type { BodyOf, ResponseOf, promoteTryOut } from '@meridiem/contract';
import { creditAfter } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { attribute, ledgerChanged } from '../ledger/index.ts';
import { insertPanel, insertProject } from '../projects/index.ts';
import { sidesOf } from './reframe.ts';
import { exposuresToPromote, lockPromotions } from './repository.ts';

export interface Promotion {
  readonly project: ResponseOf<typeof promoteTryOut>;
  readonly attributionIds: readonly string[];
}

/** @throws ServiceError REFUSED where they are somebody's already, of several rigs, or nobody knows where they looked */
export async function promoted(
  queries: Queries,
  viewer: Viewer,
  { exposureIds, name }: BodyOf<typeof promoteTryOut>,
): Promise<Promotion> {
  const { observatoryId } = viewer;
  // Two people with the same try-out in hand: one after the other. Exposures themselves can't be locked, they never change.
  await lockPromotions(queries, observatoryId);
  const exposures = await exposuresToPromote(queries, observatoryId, exposureIds);
  if (exposures.length < exposureIds.length) throw notFound('exposure');
  if (viewer.role !== 'coordinator' && exposures.some(({ importerId }) => importerId !== viewer.personId))
    throw notAllowed('You can make a project of exposures that you imported yourself; a coordinator of any');
  const taken = exposures.filter(({ isTaken }) => isTaken).length;
  if (taken > 0) throw refused('exposureIds', `${taken} of these exposures belong to a project already`);
  const [{ rigId }] = exposures;
  if (exposures.some((other) => other.rigId !== rigId))
    throw refused('exposureIds', 'These exposures are of several rigs: choose those of one');
  const first = exposures.find(({ raDeg }) => raDeg !== null);
  if (!first || first.raDeg === null || first.decDeg === null)
    throw refused('exposureIds', 'None of these exposures says where it looked: frame a project and match them to it');

  const pointing = { centre: { raDeg: first.raDeg, decDeg: first.decDeg }, positionAngleDeg: first.positionAngleDeg };
  const place = { raDeg: first.raDeg, decDeg: first.decDeg };
  const { id: projectId } = await insertProject(queries, viewer, { rigId, name, target: { name, ...place } });
  const { positionAngleDeg: angleDeg } = first;
  const panelId = await insertPanel(queries, { observatoryId, projectId, name, ...place, positionAngleDeg: angleDeg });

  const sides = await sidesOf(queries, rigId);
  const covering = exposures.map(({ raDeg, decDeg, positionAngleDeg, ...exposure }) => {
    const field = { centre: { raDeg: raDeg ?? NaN, decDeg: decDeg ?? NaN }, positionAngleDeg, ...sides };
    const isKept = raDeg !== null && creditAfter(field, [pointing], sides).fate === 'keep';
    return { ...exposure, isCredited: isKept && exposure.recipeRevisionId !== null };
  });
  const goals = await goalsFor(queries, viewer, panelId, covering);
  const attributionIds = await attribute(
    queries,
    observatoryId,
    covering.map(({ id, isCredited, recipeRevisionId }) => ({
      exposureId: id,
      projectId,
      panelId,
      goalId: isCredited ? goals.get(recipeRevisionId!)! : null,
      creditShare: isCredited ? 1 : 0,
      reason: 'a try-out made into a project',
    })),
  );
  await ledgerChanged(queries, observatoryId, [...goals.values()]);
  const credited = covering.filter(({ isCredited }) => isCredited).length;
  return { project: { id: projectId, credited }, attributionIds };
}

/** A goal for each recipe, wanting what it has so far: the rest is the owner's wish. */
async function goalsFor(
  queries: Queries,
  { observatoryId }: Viewer,
  panelId: string,
  covering: readonly { readonly isCredited: boolean; readonly recipeRevisionId: string | null }[],
): Promise<Map<string, string>> {
  const goals = new Map<string, string>();
  for (const { isCredited, recipeRevisionId } of covering) {
    if (!isCredited || !recipeRevisionId || goals.has(recipeRevisionId)) continue;
    const wanted = covering.filter((other) => other.isCredited && other.recipeRevisionId === recipeRevisionId).length;
    const position = goals.size + 1;
    const goal = await queries.models.Goal.create({ observatoryId, panelId, recipeRevisionId, wanted, position });
    goals.set(recipeRevisionId, goal.id);
  }
  return goals;
}
