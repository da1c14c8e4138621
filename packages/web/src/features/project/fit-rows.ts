// Counts for several recipes that fit into the coming nights together, in the proportion in which they are typed.
import type { Observatory, Project, Recipe, Rig } from '@meridiem/contract';
import {
  exposureCycleSec,
  filterChangeSec,
  fitTogether,
  limitsInForce,
  MOST_FITTED_ROWS,
  nightSky,
  panelChangeSec,
  parseWish,
  shareRead,
  usableStretches,
} from '@meridiem/core';
import { nightsFrom, worthSetting } from '../../targets/worth-setting.ts';
import { hours } from '../../words/format.ts';
import type { WishRow } from './goal-rows.ts';

export interface FitRowsWish {
  readonly rows: readonly WishRow[];
  readonly project: Project;
  readonly panelIds: readonly string[];
  readonly rig: Rig;
  readonly recipes: readonly Recipe[];
  readonly observatory: Observatory;
  readonly nightCount: number;
}

export interface FittedRows {
  readonly rows: WishRow[];
  readonly words: string;
}

const HOUR_SEC = 3600;

/** Rows with counts that fit on each of the panels; the first panel stands for all of them, which lie side by side.
 * @throws in words where there is nothing to fit */
export function fittedRows({
  rows,
  project,
  panelIds,
  rig,
  recipes,
  observatory,
  nightCount,
}: FitRowsWish): FittedRows {
  const panel = project.panels.find(({ id }) => panelIds.includes(id));
  if (!panel || panel.raDeg === null || panel.decDeg === null) throw new Error('This needs a panel with a fixed place');
  if (rows.length > MOST_FITTED_ROWS) throw new Error(`At most ${MOST_FITTED_ROWS} rows can be fitted at once`);
  const position = { raDeg: panel.raDeg, decDeg: panel.decDeg };
  const chosen = rows.map(({ recipeId }, i) => {
    const recipe = recipes.find(({ id }) => id === recipeId);
    const filter = observatory.filters.find(({ id }) => id === recipe?.filterId);
    if (!recipe || !filter) throw new Error(`Row ${i + 1}: choose a recipe first`);
    return { recipe, filter };
  });
  const stored = [
    ...observatory.limits.map((limit) => ({ ...limit, scope: 'observatory' as const })),
    ...project.limits.map((limit) => ({ ...limit, scope: 'project' as const })),
  ];
  const setting = worthSetting(
    observatory,
    rig,
    chosen.map(({ recipe, filter }) => ({
      class: filter.class,
      filter,
      exposureSec: recipe.exposureSec,
      limits: limitsInForce(stored, filter.class),
    })),
  );
  const nights = nightsFrom(observatory, nightCount).map((night) =>
    usableStretches(nightSky(setting, night), position),
  );
  const counts = fitTogether(
    chosen.map(({ recipe }, i) => ({
      cycleSec: exposureCycleSec(rig.costs, { ...recipe, shareRead: shareRead(rig, recipe.region) }),
      share: panelIds.length * shareOf(rows[i].text, recipe.exposureSec),
    })),
    nights,
    { arrivalSec: panelChangeSec(rig.costs, null, position), filterChangeSec: filterChangeSec(rig.costs, false) },
  ).map((count) => Math.floor(count / panelIds.length));
  const exposingSec = counts.reduce((sum, count, i) => sum + panelIds.length * count * chosen[i].recipe.exposureSec, 0);
  const closed = chosen.filter((_, i) => nights.every((night) => night[i].length === 0));
  return {
    rows: rows.map((row, i) => ({ ...row, text: String(counts[i]) })),
    words: `${hours(exposingSec / HOUR_SEC)} h of exposures ${nightCount === 1 ? 'tonight' : `in the next ${nightCount} nights`}, if all of it is clear and nothing else is planned${
      closed.length > 0 ? `; never open: ${closed.map(({ filter }) => filter.letter).join(', ')}` : ''
    }`,
  };
}

/** The typed count; rows without one share alike. */
function shareOf(text: string, exposureSec: number): number {
  try {
    return Math.max(1, parseWish(text, exposureSec).count ?? 1);
  } catch {
    return 1;
  }
}
