import { describe, expect, it } from '@jest/globals';
import { planNight } from '@meridiem/core';
import { loadCatalogue } from '../packages/server/src/modules/catalogue/index.ts';
import { AGREED_SHARES, PEOPLE } from './people.ts';
import { PROJECTS } from './projects.ts';
import { RIGS } from './station.ts';
import { demoStory, meridianPlace, raApartDeg, storyRequest } from './story.ts';

const catalogue = [...new Set(loadCatalogue().byKey.values())];
/** The long suite plays the whole history before each date. */
const LONG = process.env.MERIDIEM_LONG === '1';
const HISTORY_NIGHTS = LONG ? 60 : 3;

/** A date in each half month, a fixed hour. */
const DATES = Array.from(
  { length: 24 },
  (_, i) => `2027-${String(1 + (i >> 1)).padStart(2, '0')}-${i % 2 === 0 ? '05' : '20'}T05:00:00Z`,
);

function outcome(date: string) {
  const story = demoStory(Date.parse(date), catalogue, HISTORY_NIGHTS);
  const granted = story.projects.filter(({ source }) => source.state === 'granted' && !source.resting);
  const plans = RIGS.map(
    (rig) =>
      planNight(
        storyRequest(
          granted.filter(({ source }) => source.rig === rig.key),
          rig,
          story.tonight,
          story.exposures,
        ),
        { seed: 1, iterations: 300 },
      ).plan,
  );
  return { date, story, plans };
}

describe('the demo’s story', () => {
  const outcomes = DATES.map(outcome);

  it.each(outcomes.map((found) => [found.date, found] as const))('holds on %s', (_, { story, plans }) => {
    const midnight = (story.tonight.startUtcMs + story.tonight.endUtcMs) / 2;
    const named = (key: string) => story.projects.find(({ source }) => source.key === key)!;
    expect(story.projects).toHaveLength(13);
    for (const { source, target } of story.projects)
      expect([source.key, target === null]).toEqual([source.key, source.key === 'idea']);
    expect(new Set(story.projects.map(({ targetName }) => targetName)).size).toBe(13);
    for (const { source, target } of story.projects) {
      if (!source.object || source.object.hoursFromMidnight === 'moon' || !target) continue;
      expect(raApartDeg(target, meridianPlace(source.object, midnight))).toBeLessThan(35);
    }
    expect(named('mosaic').panels).toHaveLength(6);
    const gathered = (goalKey: string): number =>
      story.exposures.filter((exposure) => exposure.goalKey === goalKey && exposure.verdict !== 'rejected').length;
    for (const goal of named('done').goals) expect(gathered(goal.key)).toBeGreaterThanOrEqual(goal.wanted);
    for (const key of ['mosaic', 'leaving'])
      expect(named(key).goals.some((goal) => gathered(goal.key) < goal.wanted)).toBe(true);
    if (LONG) expect(story.exposures.length).toBeGreaterThan(500);
    if (LONG) expect(story.exposures.some(({ verdict }) => verdict === 'rejected')).toBe(true);
    const omissions = plans.flatMap((plan) => plan.omissions);
    expect(omissions.some(({ code }) => code === 'CAMERA_ANGLE')).toBe(true);
  });

  it('has a night worth publishing on most dates; around full moon nothing may be worth it', () => {
    const nights = outcomes.filter(({ plans }) => plans.some((plan) => plan.blocks.length > 0));
    expect(nights.length).toBeGreaterThanOrEqual(18);
  });

  it('asks for hours, once undecided and once queued with a reason, and shares out all of them', () => {
    const asked = PROJECTS.filter((project) => project.asked);
    expect(asked.map(({ state }) => state).toSorted()).toEqual(['proposed', 'queued']);
    for (const project of PROJECTS) {
      expect(Boolean(project.asked)).toBe(project.state === 'proposed' || project.state === 'queued');
      if (project.state === 'queued') expect(project.asked!.remark).toBeTruthy();
    }
    for (const { darkHours, brightHours } of asked.map((project) => project.asked!))
      expect(darkHours + brightHours).toBeGreaterThan(0);
    for (const sky of [1, 2] as const)
      expect(AGREED_SHARES.reduce((sum, shares) => sum + shares[sky], 0)).toBeCloseTo(1);
    const members = PEOPLE.filter(({ role }) => role !== 'guest').map(({ key }) => key);
    expect(AGREED_SHARES.map(([key]) => key).toSorted()).toEqual(members.toSorted());
  });

  it('is the same story for the same moment', () => {
    const again = demoStory(Date.parse(DATES[3]), catalogue, HISTORY_NIGHTS);
    expect(JSON.stringify(again)).toBe(JSON.stringify(outcomes[3].story));
  });
});
