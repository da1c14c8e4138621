// Recipes as they are typed and shown: what they begin with, what they read of the sensor, which filters they may have.
import type { Account, BodyOf, Filter, Observatory, Recipe, Rig, addRecipe } from '@meridiem/contract';
import { samplingOf } from '@meridiem/core';
import type { Option } from '../../ui/Choice.tsx';

export const KIND_WORDS: Readonly<Record<Recipe['kind'], string>> = {
  light: 'light',
  dark: 'dark',
  flat: 'flat',
  bias: 'bias',
  test: 'test',
};
export const KIND_OPTIONS: readonly Option[] = Object.entries(KIND_WORDS).map(([value, words]) => ({ value, words }));

export const needsFilter = (kind: Recipe['kind']): boolean => kind !== 'dark' && kind !== 'bias';

/** Filters of an observatory for a rig: what is fitted comes first, the others say what they would need. */
export function filterOptions(rig: Rig, filters: readonly Filter[]): Option[] {
  const isFitted = ({ id }: Filter): boolean => rig.slots.some(({ filterId }) => filterId === id);
  const missing = rig.filterHolder === 'drawer' ? 'needs the drawer changed' : 'not in the wheel';
  const option = (filter: Filter): Option => ({
    value: filter.id,
    words: `${filter.letter}, ${filter.name}`,
    ...(isFitted(filter) ? {} : { missing }),
  });
  return [...filters.filter(isFitted), ...filters.filter((filter) => !isFitted(filter))].map(option);
}

type Settings = Omit<BodyOf<typeof addRecipe>, 'name' | 'rigId' | 'kind' | 'filterId' | 'exposureSec'>;

/** A new recipe begins with the settings of the last one of its rig, filter and kind; the mode's own offset where there is none. */
export function likeLastRecipe(
  { recipes }: Pick<Observatory, 'recipes'>,
  rig: Rig,
  of: { kind: Recipe['kind']; filterId: string | null; cameraModeId?: string },
): Settings {
  const own = recipes.filter(({ rigId }) => rigId === rig.id);
  const last =
    own.filter(({ kind, filterId }) => kind === of.kind && filterId === of.filterId).at(-1) ??
    own.filter(({ kind }) => kind === of.kind).at(-1) ??
    own.at(-1);
  const mode = rig.cameraModes.find(({ id }) => id === (of.cameraModeId ?? last?.cameraModeId)) ?? rig.cameraModes[0];
  const isLight = of.kind === 'light' || of.kind === 'test';
  return {
    cameraModeId: mode.id,
    offset: mode.id === last?.cameraModeId ? last.offset : mode.typicalOffset,
    binning: last?.binning ?? 1,
    sensorC: last?.sensorC ?? -10,
    pauseSec: 0,
    ditherEvery: isLight ? (last?.ditherEvery ?? 3) : 0,
    ditherPx: isLight ? (last?.ditherPx ?? 5) : 0,
    region: last?.region ?? null,
  };
}

/** What a frame of a recipe holds: "1600 × 1200 px at 3.50″/px, stars about 0.7 px wide". */
export function readsWords(rig: Rig, { binning, region }: Pick<Recipe, 'binning' | 'region'>): string {
  const { widthPx, heightPx, scaleArcsecPerPx, starPx, shareRead } = samplingOf(rig, binning, region);
  const part = shareRead < 1 ? `${Math.round(shareRead * 100)} % of the sensor, ` : '';
  return `${part}${widthPx} × ${heightPx} px at ${scaleArcsecPerPx.toFixed(2)}″/px, stars about ${starPx.toFixed(1)} px wide`;
}

/** Why a sensor temperature may not be reached; null where the cooler can. */
export function coolingDoubt({ coolingBelowC }: Rig, sensorC: number): string | null {
  if (coolingBelowC === null) return sensorC < 0 ? 'the camera has no cooler' : null;
  const warmestC = sensorC + coolingBelowC;
  return warmestC < 20 ? `needs air of ${Math.round(warmestC)} °C or colder` : null;
}

/** "1600 × 1200", or empty and "all" for the whole sensor.
 * @throws Error with what would be accepted */
export function regionFrom(text: string): Recipe['region'] {
  const plain = text.trim().toLowerCase();
  if (plain === '' || plain === 'all') return null;
  const read = /^(\d+)\s*[×x*]\s*(\d+)(?:\s*px)?$/.exec(plain);
  if (!read) throw new Error(`"${text}" is no part of a sensor; write it like 1200 × 800, or "all"`);
  return { widthPx: Number(read[1]), heightPx: Number(read[2]) };
}

export const regionText = ({ region }: Pick<Recipe, 'region'>): string =>
  region ? `${region.widthPx} × ${region.heightPx}` : 'all';

/** Own recipes are one's own to change; a coordinator changes any. */
export const mayChange = ({ role, personId }: Account, { ownerId }: Recipe): boolean =>
  role === 'coordinator' || (ownerId !== null && ownerId === personId);
