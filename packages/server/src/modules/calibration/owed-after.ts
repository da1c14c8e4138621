// What a night's lights still want, in a few words for the morning.
import type { CalibrationKind, CalibrationNeed, CalibrationRules, SetToTake } from '@meridiem/core';
import { nightDatePlus, setsToTake } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { areGuideDarksDue } from './guide-darks.ts';
import type { Nights } from './repository.ts';
import { calibrationFacts, needsOfRig, rulesOfRig } from './rig-needs.ts';

const PLURALS: Readonly<Record<CalibrationKind, string>> = {
  flat: 'flats',
  'flat-dark': 'darks for flats',
  dark: 'darks',
  bias: 'bias',
};

interface NeedParts {
  readonly queries: Queries;
  readonly observatoryId: string;
}

async function needsOf(
  { queries, observatoryId }: NeedParts,
  rigId: string,
  nights: Nights,
): Promise<{ readonly needs: CalibrationNeed[]; readonly rules: CalibrationRules }> {
  const facts = await calibrationFacts(queries, observatoryId, nights);
  return { needs: needsOfRig(facts, rigId), rules: rulesOfRig(facts, rigId) };
}

/** Flats, darks and bias that a night's lights lack; before its first light, at dusk, those that the lights of the nights before still
 * lack and that a set of tonight would fit. */
export async function calibrationToTake(parts: NeedParts, rigId: string, nightDate: string): Promise<SetToTake[]> {
  const tonight = await needsOf(parts, rigId, { from: nightDate, to: nightDate });
  const { rules } = tonight;
  if (tonight.needs.length > 0) return setsToTake(tonight.needs, rules);
  const from = nightDatePlus(nightDate, -Math.min(MOST_NIGHTS_BACK, rules.keepsDays.flat));
  return setsToTake((await needsOf(parts, rigId, { from, to: nightDate })).needs, rules);
}
const MOST_NIGHTS_BACK = 60;

/** "flats for L and R, darks"; null where there is a fitting set for everything */
export async function calibrationOwed(
  { queries, observatoryId }: NeedParts,
  rigId: string,
  nightDate: string,
): Promise<string | null> {
  const { needs } = await needsOf({ queries, observatoryId }, rigId, { from: nightDate, to: nightDate });
  const owed = needs.filter(({ state }) => state !== 'matched');
  const ofGuideCamera = (await areGuideDarksDue(queries, observatoryId, rigId)) ? ['darks of the guide camera'] : [];
  if (owed.length === 0) return ofGuideCamera.at(0) ?? null;
  const letters = new Map(
    (await queries.models.Filter.findAll({ where: { observatoryId } })).map(({ id, letter }) => [id, letter]),
  );
  return [owedWords(owed, letters), ...ofGuideCamera].join(', ');
}

/** @param letters of filters, by id */
export function owedWords(
  owed: readonly Pick<CalibrationNeed, 'kind' | 'like'>[],
  letters: ReadonlyMap<string, string>,
): string {
  const kinds = [...new Set(owed.map(({ kind }) => kind))];
  return kinds
    .map((kind) => {
      if (kind !== 'flat') return PLURALS[kind];
      const of = [...new Set(owed.flatMap(({ like }) => letters.get(like.filterId ?? '') ?? []))];
      return of.length === 0 ? PLURALS.flat : `${PLURALS.flat} for ${listed(of)}`;
    })
    .join(', ');
}

const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
