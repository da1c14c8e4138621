// Rigs that could take over a project: their field holds its own, and their wheel and recipes have its filters.
import type { Observatory } from '@meridiem/contract';
import type { OtherRecipe, OtherRig } from '@meridiem/core';
import { fieldOf } from '@meridiem/core';
import type { SeasonFacts } from './season-facts.ts';

type Rig = Observatory['rigs'][number];
/** A field this little smaller still holds another. */
const HOLDS_SHARE = 0.98;

export function otherRigs({ observatory, rowsOf }: SeasonFacts, projectId: string): OtherRig[] {
  const own = observatory.rigs.find(({ id }) => rowsOf(id).some((row) => row.projectId === projectId));
  if (!own) return [];
  return observatory.rigs
    .filter((rig) => rig.id !== own.id && holds(rig, own))
    .map((rig) => ({ rigId: rig.id, recipes: recipesByFilter(observatory, rig) }));
}

function holds(rig: Rig, own: Rig): boolean {
  const [there, here] = [fieldOf(rig), fieldOf(own)];
  return there.widthDeg >= HOLDS_SHARE * here.widthDeg && there.heightDeg >= HOLDS_SHARE * here.heightDeg;
}

/** The first recipe for lights of each filter in the wheel that everybody may use. */
function recipesByFilter({ recipes }: Observatory, rig: Rig): Record<string, OtherRecipe> {
  const fitted = new Set(rig.slots.map(({ filterId }) => filterId));
  const found: Record<string, OtherRecipe> = {};
  for (const { rigId, kind, ownerId, filterId, cameraModeId, binning } of recipes) {
    const mode = rig.cameraModes.find(({ id }) => id === cameraModeId);
    if (rigId !== rig.id || kind !== 'light' || ownerId !== null || filterId === null || !fitted.has(filterId) || !mode) continue; // prettier-ignore
    found[filterId] ??= { binning, readNoiseE: mode.readNoiseE };
  }
  return found;
}
