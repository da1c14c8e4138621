// Nights ahead as a season's problem: each slot, count and weight held against the night planner's own view of the same sky.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { exposureCycleSec } from '../../exposure/time-cost.ts';
import { darkIntervals, darkMoonlessIntervals, hoursOf, upIntervals } from '../../sky/events.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { DEFAULT_OBJECTIVE_WEIGHTS } from '../night/night-problem.ts';
import type { NightRequest } from '../night/night-request.ts';
import { surveyNight } from '../night/survey.ts';
import type { SeasonRequest, SeasonRig } from './season-of-nights.ts';
import { SEASON_SLOT_SEC, seasonOfNights, worthOfNight } from './season-of-nights.ts';

const request = nightInstance({ seed: 5, goals: 16, night: 12 });
const firstNight = request.night.nightDate;
const rig = (fields: Partial<SeasonRig> = {}): SeasonRig => ({ rigId: 'rig', request, acceptance: {}, ...fields });
const seasonWith = (
  rigs: readonly SeasonRig[],
  nights = 5,
  odds: (night: number) => number = () => 0.5,
): SeasonRequest => ({
  rigs,
  nights: Array.from({ length: nights }, (_, i) => ({
    night: observingNight(nightDatePlus(firstNight, i), request.timeZone),
    odds: odds(i),
  })),
});
const season = seasonOfNights(seasonWith([rig()]));
const goalNamed = (id: string): NightRequest['goals'][number] => request.goals.find((goal) => goal.id === id)!;
const rateAt = (lane: number, g: number, slot: number, of = season): number => {
  const { rates, slots } = of.problem.lanes[lane];
  return rates[of.problem.goals[g].row * slots + slot];
};

describe('light', () => {
  it('is open where the whole slot lies in a window of the night, and nowhere else', () => {
    for (const lane of [0, 3]) {
      const night = observingNight(nightDatePlus(firstNight, lane), request.timeZone);
      const survey = surveyNight({ ...request, night, fromUtcMs: null }, SEASON_SLOT_SEC)!;
      season.goalIds.forEach((id, g) => {
        const { windows, rateShare } = survey.goals.find((goal) => goal.goalId === id)!;
        for (let slot = 0; slot < season.problem.lanes[lane].slots; slot++) {
          const from = survey.table.startUtcMs + slot * SEASON_SLOT_SEC * 1000;
          const to = from + SEASON_SLOT_SEC * 1000;
          const isOpen = windows.some(({ startUtcMs, endUtcMs }) => startUtcMs <= from + 1 && endUtcMs >= to - 1);
          const mean = (rateShare[slot] + rateShare[slot + 1]) / 2;
          expect(rateAt(lane, g, slot)).toBeCloseTo(isOpen ? worthOfNight(lane) * mean : 0, 6);
        }
      });
    }
  });

  it('counts a little less each night: of two nights as good the earlier one is taken', () => {
    expect(worthOfNight(0)).toBe(1);
    for (let night = 0; night < 90; night++) expect(worthOfNight(night + 1)).toBeLessThan(worthOfNight(night));
    expect(worthOfNight(59)).toBeGreaterThan(0.8);
  });

  it('is none on closed nights, without odds, and after a project’s last night', () => {
    const [project] = request.projects;
    const closed = [nightDatePlus(firstNight, 1)];
    const lastNight = { [project.id]: nightDatePlus(firstNight, 2) };
    const bounded = seasonOfNights(seasonWith([rig({ closed, lastNight })], 5, (night) => (night === 4 ? 0 : 0.5)));
    expect(bounded.lanes.map(({ odds }) => odds)).toEqual([0.5, 0, 0.5, 0.5, 0]);
    expect(bounded.problem.lanes.map(({ slots }) => slots > 0)).toEqual([true, false, true, true, false]);
    const lit = (lane: number, isOwn: boolean): boolean =>
      bounded.goalIds.some((_, g) => {
        const panel = bounded.problem.panels[bounded.problem.goals[g].panel];
        const isProject = bounded.projectIds[panel.project] === project.id;
        return isProject === isOwn && Array.from({ length: bounded.problem.lanes[lane].slots }, (__, slot) => rateAt(lane, g, slot, bounded)).some((rate) => rate > 0); // prettier-ignore
      });
    expect([0, 2, 3].map((lane) => lit(lane, true))).toEqual([true, true, false]);
    expect([0, 2, 3].map((lane) => lit(lane, false))).toEqual([true, true, true]);
  });
});

describe('after a last night that fades', () => {
  it('light counts less each night, to nothing, and other projects’ as before', () => {
    const [project] = request.projects;
    const lastNight = { [project.id]: firstNight };
    const fading = seasonOfNights(seasonWith([rig({ lastNight, decayNights: { [project.id]: 4 } })]));
    season.goalIds.forEach((_, g) => {
      const isOwn = season.projectIds[season.problem.panels[season.problem.goals[g].panel].project] === project.id;
      for (let lane = 0; lane < 5; lane++)
        for (let slot = 0; slot < season.problem.lanes[lane].slots; slot++)
          expect(rateAt(lane, g, slot, fading)).toBeCloseTo((isOwn ? 1 - lane / 4 : 1) * rateAt(lane, g, slot), 6);
    });
  });
});

describe('the moon', () => {
  const long = seasonOfNights(seasonWith([rig()], 28));

  it('is up in a slot where its centre is above its rising altitude in the middle of the slot', () => {
    long.problem.lanes.forEach(({ moonlit, slots }, lane) => {
      const night = observingNight(long.lanes[lane].nightDate, request.timeZone);
      const up = upIntervals(request.site, 'moon', night);
      for (let slot = 0; slot < slots; slot++) {
        const middle = long.lanes[lane].startUtcMs! + (slot + 0.5) * SEASON_SLOT_SEC * 1000;
        const nearest = Math.min(...up.flatMap(({ startUtcMs, endUtcMs }) => [Math.abs(startUtcMs - middle), Math.abs(endUtcMs - middle)])); // prettier-ignore
        if (nearest < 60_000) continue;
        expect(moonlit![slot]).toBe(Number(up.some((one) => one.startUtcMs <= middle && middle < one.endUtcMs)));
      }
    });
  });

  it('takes from the dark hours what the night’s own page says, to a sample', () => {
    for (const { nightDate, darkHours, moonlessHours } of long.lanes) {
      const night = observingNight(nightDate, request.timeZone);
      expect(darkHours).toBeCloseTo(hoursOf(darkIntervals(request.site, night)), 6);
      expect(Math.abs(moonlessHours - hoursOf(darkMoonlessIntervals(request.site, night)))).toBeLessThan(0.2);
    }
    expect(Math.min(...long.lanes.map(({ moonlessHours }) => moonlessHours))).toBeLessThan(1);
  });
});

describe('counts and weights', () => {
  it('ask for as many exposures as will be accepted, of projects whose exposures are rejected', () => {
    const [project] = request.projects;
    const rejected = seasonOfNights(seasonWith([rig({ acceptance: { [project.id]: 0.8 } })], 1));
    rejected.goalIds.forEach((id, g) => {
      const { toPlan, wanted, panelId } = goalNamed(id);
      const isOwn = request.panels.find((panel) => panel.id === panelId)!.projectId === project.id;
      const rate = isOwn ? 0.8 : 1;
      const goal = rejected.problem.goals[g];
      expect(goal.count).toBe(Math.ceil(toPlan / rate - 1e-9));
      if (wanted) expect(goal.wanted - goal.done).toBeCloseTo(Math.min(wanted, toPlan) / rate, 6);
    });
  });

  it('price an exposure with its overheads, and pay it by its length and its project’s weight', () => {
    season.goalIds.forEach((id, g) => {
      const { settings, panelId } = goalNamed(id);
      const panel = request.panels.find((one) => one.id === panelId)!;
      const { weight } = request.projects.find((one) => one.id === panel.projectId)!;
      const goal = season.problem.goals[g];
      expect(goal.cycleSec).toBe(exposureCycleSec(request.rig.costs, settings));
      expect(goal.value).toBeCloseTo((DEFAULT_OBJECTIVE_WEIGHTS.light * weight * settings.exposureSec) / 3600, 9);
    });
  });

  it('pay nothing for finishing what has no end', () => {
    const [first] = request.goals;
    const endless = { ...request, goals: request.goals.map((goal) => (goal === first ? { ...goal, wanted: null, toPlan: 500 } : goal)) }; // prettier-ignore
    const { problem, projectIds } = seasonOfNights(seasonWith([rig({ request: endless })], 1));
    const own = request.panels.find(({ id }) => id === first.panelId)!.projectId;
    problem.projects.forEach(({ bonus }, r) => expect(bonus > 0).toBe(projectIds[r] !== own));
  });

  it('bound a project by its envelope in seconds, and no other', () => {
    const [project] = request.projects;
    const { problem, projectIds } = seasonOfNights(
      seasonWith([rig({ envelopeHours: { [project.id]: { dark: 2, bright: 0.5 } } })], 1),
    );
    problem.projects.forEach(({ envelopeSec }, r) =>
      expect(envelopeSec).toEqual(projectIds[r] === project.id ? { dark: 7200, bright: 1800 } : undefined),
    );
  });
});

describe('several rigs', () => {
  const other = { ...request, projects: request.projects.map(({ id, ...rest }) => ({ ...rest, id: `${id}'` })), panels: request.panels.map(({ id, projectId, ...rest }) => ({ ...rest, id: `${id}'`, projectId: `${projectId}'` })), goals: request.goals.map(({ id, panelId, ...rest }) => ({ ...rest, id: `${id}'`, panelId: `${panelId}'` })) }; // prettier-ignore
  const both = seasonOfNights(seasonWith([rig(), rig({ rigId: 'other', request: other })], 2));

  it('have lanes of their own, in which nothing of the others is open', () => {
    expect(both.lanes.map(({ rigId }) => rigId)).toEqual(['rig', 'other', 'rig', 'other']);
    both.problem.lanes.forEach(({ slots }, lane) =>
      both.goalIds.forEach((id, g) => {
        const isOwn = id.endsWith("'") === (both.lanes[lane].rigId === 'other');
        if (isOwn) return;
        for (let slot = 0; slot < slots; slot++) expect(rateAt(lane, g, slot, both)).toBe(0);
      }),
    );
  });

  it('see what they see alone', () => {
    const alone = seasonOfNights(seasonWith([rig()], 2));
    alone.goalIds.forEach((id, g) => {
      const there = both.goalIds.indexOf(id);
      for (let slot = 0; slot < alone.problem.lanes[0].slots; slot++)
        expect(rateAt(0, there, slot, both)).toBe(rateAt(0, g, slot, alone));
    });
  });

  it('change filters among their own', () => {
    const { filterChangeSec, filters, goals } = both.problem;
    const own = new Set(both.goalIds.flatMap((id, g) => (id.endsWith("'") ? [] : [goals[g].filter])));
    const others = new Set(both.goalIds.flatMap((id, g) => (id.endsWith("'") ? [goals[g].filter] : [])));
    expect([...own].some((filter) => others.has(filter))).toBe(false);
    for (const from of own) for (const to of others) expect(filterChangeSec[from * filters + to]).toBe(0);
  });
});

it('says how far it is, and ends early where told to', () => {
  const told: number[] = [];
  const stopped = seasonOfNights(seasonWith([rig()], 5), (share) => told.push(share) > 2);
  expect(told).toEqual([0, 0.2, 0.4, 0.6, 0.8]);
  expect(stopped.lanes.length).toBe(2);
});
