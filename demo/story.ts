// The demo as plain values, made for one moment: the season's objects, sixty nights of history, goals that are as far as the story says.
import { panelName } from '@meridiem/contract';
import type {
  ExposureConditions,
  FilterClass,
  NightRequest,
  ObservingNight,
  RequestedGoal,
  RequestedPanel,
  SkyPosition,
} from '@meridiem/core';
import {
  angleBetweenDeg,
  apparentSiderealDeg,
  DEFAULT_BOUNDS,
  DEFAULT_RULES,
  exposureConditions,
  frameOfDate,
  horizonProfile,
  judgeSequence,
  luminaryVector,
  nightDateAt,
  nightDatePlus,
  observingNight,
  planNight,
  positionOf,
  seededRandom,
  seedFrom,
  toRad,
  unitVector,
  wrap360,
} from '@meridiem/core';
import type { SimulatedExposure } from '@meridiem/simulator';
import { simulatedExposure } from '@meridiem/simulator';
import type { DemoObjectWish, DemoProject } from './projects.ts';
import { PROJECTS } from './projects.ts';
import type { DemoRig } from './station.ts';
import { exposureSecOf, FILTERS, HORIZON, LIMITS, RIGS, STATION } from './station.ts';

export interface CatalogueEntry {
  readonly designation: string;
  readonly name: string | null;
  readonly kind: string;
  readonly mag: number | null;
  readonly sizeArcmin: number | null;
  readonly raDeg: number;
  readonly decDeg: number;
}

export interface StoryPanel {
  readonly key: string;
  readonly name: string;
  readonly position: SkyPosition | null;
  readonly angleDeg: number;
}

export interface StoryGoal {
  readonly key: string;
  readonly panelKey: string;
  readonly filter: string;
  readonly filterClass: FilterClass;
  readonly exposureSec: number;
  readonly wanted: number;
}

export interface StoryProject {
  readonly source: DemoProject;
  readonly name: string;
  readonly targetName: string;
  readonly target: SkyPosition | null;
  readonly panels: readonly StoryPanel[];
  readonly goals: readonly StoryGoal[];
}

interface PlayedExposure extends SimulatedExposure {
  readonly nightDate: string;
  readonly rig: DemoRig['key'];
  readonly goalKey: string;
  readonly ratePredicted: number;
  readonly airmass: number;
  readonly transparency: number;
  readonly skyRatio: number;
}

export interface StoryExposure extends PlayedExposure {
  readonly verdict: 'accepted' | 'rejected' | 'undecided';
  readonly reason: string;
}

export interface Story {
  readonly nowUtcMs: number;
  readonly tonight: ObservingNight;
  readonly projects: readonly StoryProject[];
  readonly nights: readonly ObservingNight[];
  readonly exposures: readonly StoryExposure[];
}

const HISTORY_NIGHTS = 60;
/** Exposures of a goal that a person has not looked at yet, where a person decides. */
const WAITING = 18;
/** While history is played, an exposure that lost more than this to cloud does not count. */
const CLOUDY_SHARE = 0.35;
/** An object this far from where the story wants it is out of its season. */
const OUT_OF_SEASON_DEG = 33;
const HAZE = 'Haze near ';
const HISTORY_ITERATIONS = 300;
const HISTORY_APPETITE = 4;
/** Chance that a night is like the one before it. */
const WEATHER_PERSISTENCE = 0.68;

/** @param historyNights how many nights are played by the planner before tonight */
export function demoStory(
  nowUtcMs: number,
  catalogue: readonly CatalogueEntry[],
  historyNights = HISTORY_NIGHTS,
): Story {
  const tonightDate = nightDateAt(nowUtcMs, STATION.timeZone);
  const tonight = observingNight(tonightDate, STATION.timeZone);
  const midnightUtcMs = (tonight.startUtcMs + tonight.endUtcMs) / 2;
  const taken = new Set<string>();
  const drafts = PROJECTS.map((source) => storyProject(source, midnightUtcMs, catalogue, taken));
  const { exposures: played, nights } = history(drafts, tonightDate, historyNights);
  const exposures = judgedExposures(drafts, played);
  return {
    nowUtcMs,
    tonight,
    projects: drafts.map((project) => withWantedFromHistory(project, exposures)),
    nights: [...nights, tonight],
    exposures,
  };
}

function storyProject(
  source: DemoProject,
  midnightUtcMs: number,
  catalogue: readonly CatalogueEntry[],
  taken: Set<string>,
): StoryProject {
  const object = source.object && chosenObject(source.object, midnightUtcMs, catalogue, taken);
  if (object) taken.add(object.designation);
  const targetName = object ? object.designation : source.title;
  const name = object ? `${object.designation} ${source.title}` : source.title;
  const target = object ? { raDeg: object.raDeg, decDeg: object.decDeg } : null;
  const panels = panelsOf(source, name, target);
  const goals = panels.flatMap((panel) =>
    source.filters.map((letter, i): StoryGoal => {
      const filterClass = FILTERS.find((filter) => filter.letter === letter)!.class;
      return {
        key: `${panel.key}/${letter}`,
        panelKey: panel.key,
        filter: letter,
        filterClass,
        exposureSec: exposureSecOf(filterClass),
        wanted: source.wanted[i],
      };
    }),
  );
  return { source, name, targetName, target, panels, goals };
}

/** The brightest-named, best-placed object of the season that fits a wish and is not taken. */
function chosenObject(
  wish: DemoObjectWish,
  midnightUtcMs: number,
  catalogue: readonly CatalogueEntry[],
  taken: ReadonlySet<string>,
): CatalogueEntry | null {
  const centre = wish.hoursFromMidnight === 'moon' ? moonPosition(midnightUtcMs) : meridianPlace(wish, midnightUtcMs);
  const fits = catalogue.filter(
    ({ kind, decDeg, sizeArcmin, mag, designation }) =>
      wish.kinds.includes(kind) &&
      decDeg >= wish.decDeg[0] &&
      decDeg <= wish.decDeg[1] &&
      sizeArcmin !== null &&
      sizeArcmin >= wish.sizeArcmin[0] &&
      sizeArcmin <= wish.sizeArcmin[1] &&
      (wish.brighterThanMag === undefined || (mag !== null && mag < wish.brighterThanMag)) &&
      /^(NGC|IC|M|Sh2|RCW|Gum|C) ?-?\d/.test(designation) &&
      !taken.has(designation),
  );
  const awayDeg = (entry: CatalogueEntry): number => {
    if (wish.hoursFromMidnight === 'moon') return angleBetweenDeg(unitVector(entry), unitVector(centre));
    const alongRa = raApartDeg(entry, centre) * Math.cos(toRad(entry.decDeg));
    return alongRa + 0.15 * Math.abs(entry.decDeg - centre.decDeg) + (entry.mag ?? 12) * 0.6;
  };
  const best = fits.reduce<CatalogueEntry | null>(
    (found, entry) => (found && awayDeg(found) <= awayDeg(entry) ? found : entry),
    null,
  );
  const inSeason = best && (wish.hoursFromMidnight === 'moon' || raApartDeg(best, centre) < OUT_OF_SEASON_DEG);
  return inSeason ? best : unnamedRegion(centre, catalogue, taken);
}

/** Where the season has no object of a kind, the wish is a faint region without a designation of its own, named after a neighbour. */
function unnamedRegion(
  centre: SkyPosition,
  catalogue: readonly CatalogueEntry[],
  taken: ReadonlySet<string>,
): CatalogueEntry {
  const bright = catalogue.filter(
    ({ mag, designation }) =>
      mag !== null && mag < 11 && designation.startsWith('NGC') && !taken.has(HAZE + designation),
  );
  const apart = (entry: CatalogueEntry): number => angleBetweenDeg(unitVector(entry), unitVector(centre));
  const neighbour = bright.reduce((nearest, entry) => (apart(nearest) <= apart(entry) ? nearest : entry));
  return {
    designation: HAZE + neighbour.designation,
    name: null,
    kind: 'bright nebula',
    mag: null,
    sizeArcmin: 60,
    ...centre,
  };
}

/** Distance in right ascension alone. */
export const raApartDeg = (a: SkyPosition, b: SkyPosition): number => Math.abs(wrap360(a.raDeg - b.raDeg + 180) - 180);

export function meridianPlace(wish: DemoObjectWish, midnightUtcMs: number): SkyPosition {
  const sidereal = apparentSiderealDeg(frameOfDate(midnightUtcMs), midnightUtcMs) + STATION.longitudeDeg;
  return {
    raDeg: wrap360(sidereal + Number(wish.hoursFromMidnight) * 15),
    decDeg: (wish.decDeg[0] + wish.decDeg[1]) / 2,
  };
}

const moonPosition = (utcMs: number): SkyPosition => positionOf(luminaryVector(STATION, 'moon', utcMs));

/** One panel, or a grid around the target with a fifth shared; every panel keeps the camera's one angle. */
function panelsOf(source: DemoProject, name: string, target: SkyPosition | null): StoryPanel[] {
  const { rows, cols } = source.mosaic ?? { rows: 1, cols: 1 };
  const rig = RIGS.find((candidate) => candidate.key === source.rig)!;
  const stepDeg = (pixels: number): number =>
    0.8 * 2 * (Math.atan((pixels * rig.pixelUm) / 2000 / rig.focalLengthMm) / toRad(1));
  return Array.from({ length: rows * cols }, (_, i): StoryPanel => {
    const row = Math.floor(i / cols) - (rows - 1) / 2;
    const col = (i % cols) - (cols - 1) / 2;
    const shifted =
      target && shiftedPosition(target, source.angleDeg, col * stepDeg(rig.widthPx), -row * stepDeg(rig.heightPx));
    return {
      key: `${source.key}/${i + 1}`,
      name: panelName(name, i + 1, rows * cols),
      position: shifted,
      angleDeg: source.angleDeg,
    };
  });
}

/** A place moved along the camera's right and up, small-field. */
function shiftedPosition(
  { raDeg, decDeg }: SkyPosition,
  angleDeg: number,
  rightDeg: number,
  upDeg: number,
): SkyPosition {
  const angle = toRad(angleDeg);
  const east = -rightDeg * Math.cos(angle) + upDeg * Math.sin(angle);
  const north = rightDeg * Math.sin(angle) + upDeg * Math.cos(angle);
  return { raDeg: wrap360(raDeg + east / Math.cos(toRad(decDeg + north))), decDeg: decDeg + north };
}

/** Sixty nights played by the real planner under made-up weather. */
function history(
  projects: readonly StoryProject[],
  tonightDate: string,
  historyNights: number,
): { nights: ObservingNight[]; exposures: PlayedExposure[] } {
  const random = seededRandom(seedFrom(`weather ${tonightDate}`));
  const exposures: PlayedExposure[] = [];
  const nights: ObservingNight[] = [];
  let clear = true;
  for (let back = historyNights; back >= 1; back--) {
    if (random() > WEATHER_PERSISTENCE) clear = !clear;
    const night = observingNight(nightDatePlus(tonightDate, -back), STATION.timeZone);
    nights.push(night);
    const playable = back === 1 || clear;
    if (!playable) continue;
    for (const rig of RIGS) exposures.push(...playedNight(projects, rig, night, back, exposures));
  }
  return { nights, exposures };
}

function playedNight(
  projects: readonly StoryProject[],
  rig: DemoRig,
  night: ObservingNight,
  nightsBack: number,
  before: readonly PlayedExposure[],
): PlayedExposure[] {
  const active = projects.filter(
    ({ source }) => source.rig === rig.key && source.history && source.history.nights >= nightsBack,
  );
  const { plan } = planNight(storyRequest(active.map(unfinished), rig, night, before), {
    seed: 1,
    iterations: HISTORY_ITERATIONS,
  });
  const goals = new Map(
    active.flatMap((project) => project.goals.map((goal) => [goal.key, { goal, project }] as const)),
  );
  const skySeed = seedFrom(night.nightDate);
  return plan.blocks.flatMap((block) =>
    block.runs.flatMap((run, r) =>
      run.exposureStartsUtcMs.flatMap((startUtcMs, i): PlayedExposure[] => {
        const { goal, project } = goals.get(run.goalId)!;
        const sky = skyOver(project, goal, rig, startUtcMs);
        if (!sky) return [];
        const taken = simulatedExposure({
          id: `${night.nightDate} ${goal.key} ${startUtcMs}`,
          skySeed,
          overcast: 0.14,
          startUtcMs,
          exposureSec: goal.exposureSec,
          filterClass: goal.filterClass,
          imageScaleArcsec: (rig.pixelUm / rig.focalLengthMm) * 206.265,
          gain: rig.modes[goal.filterClass === 'narrowband' ? 1 : 0].gain,
          sensorC: -10,
          rateShare: sky.rateShare,
          airmass: sky.airmass,
          transparency: sky.transparency,
          skyRatio: sky.skyRatio,
          afterMove: r === 0 && i === 0,
        });
        if (!taken) return [];
        return [
          {
            ...taken,
            nightDate: night.nightDate,
            rig: rig.key,
            goalKey: goal.key,
            ratePredicted: sky.rateShare,
            airmass: sky.airmass,
            transparency: sky.transparency,
            skyRatio: sky.skyRatio,
          },
        ];
      }),
    ),
  );
}

/** The sky over an exposure of the story; null where its target is down. */
function skyOver(project: StoryProject, goal: StoryGoal, rig: DemoRig, startUtcMs: number): ExposureConditions | null {
  const target = project.panels.find(({ key }) => key === goal.panelKey)?.position;
  if (!target) return null;
  const { readNoiseE } = rig.modes[goal.filterClass === 'narrowband' ? 1 : 0];
  return exposureConditions({
    site: STATION,
    zenithMagV: STATION.zenithMagV,
    filter: FILTERS.find(({ letter }) => letter === goal.filter)!,
    detector: { ...rig, readNoiseE, binning: 1 },
    target,
    startUtcMs,
    exposureSec: goal.exposureSec,
  });
}

/** Verdicts by the rules; where a person decides, hers say the same, and the newest of each goal still wait for her. */
function judgedExposures(projects: readonly StoryProject[], exposures: readonly PlayedExposure[]): StoryExposure[] {
  const verdicts = new Map<PlayedExposure, Pick<StoryExposure, 'verdict' | 'reason'>>();
  const byGoal = new Map<string, PlayedExposure[]>();
  for (const exposure of exposures) {
    const own = byGoal.get(exposure.goalKey);
    if (own) own.push(exposure);
    else byGoal.set(exposure.goalKey, [exposure]);
  }
  for (const { source, goals } of projects) {
    for (const goal of goals) {
      const own = byGoal.get(goal.key) ?? [];
      const given = judgeSequence(
        own.map((exposure, i) => ({ ...exposure, ...figuresOf(exposure), id: String(i) })),
        DEFAULT_RULES,
      );
      own.forEach((exposure, i) => {
        const waits = source.counting === 'after_person' && i >= own.length - WAITING;
        const { verdict, worst } = given.get(String(i))!;
        const reason = verdict === 'rejected' ? REASONS[worst!.figure] : 'within limits';
        verdicts.set(exposure, waits ? { verdict: 'undecided', reason: '' } : { verdict, reason });
      });
    }
  }
  return exposures.map((exposure) => ({ ...exposure, ...verdicts.get(exposure)! }));
}

const REASONS = {
  starSize: 'focus',
  starCount: 'cloud',
  guiding: 'guiding',
  background: 'moonlight',
  elongation: 'guiding',
  starlight: 'cloud',
} as const;

const figuresOf = (exposure: PlayedExposure) => ({
  starSizePx: exposure.halfFluxRadiusPx,
  guidingArcsec: exposure.guidingRmsArcsec,
  elongation: null,
  zeroPointMag: null,
});

/** While history is played, what is to stay unfinished wants more than it will get. */
function unfinished(project: StoryProject): StoryProject {
  const shares = project.source.history?.shares ?? [];
  const wanted = (goal: StoryGoal): number =>
    shares[project.source.filters.indexOf(goal.filter)] >= 1 ? goal.wanted : goal.wanted * HISTORY_APPETITE;
  return { ...project, goals: project.goals.map((goal) => ({ ...goal, wanted: wanted(goal) })) };
}

/** A night of the station as the planner takes it. */
export function storyRequest(
  projects: readonly StoryProject[],
  rig: DemoRig,
  night: ObservingNight,
  before: readonly Pick<PlayedExposure, 'goalKey' | 'cloudShare'>[],
): NightRequest {
  const panels = projects.flatMap(({ source, panels: own }) =>
    own.map((panel): RequestedPanel => ({
      id: panel.key,
      projectId: source.key,
      position: panel.position,
      positionAngleDeg: panel.angleDeg,
    })),
  );
  const done = new Map<string, number>();
  for (const exposure of before)
    if (exposure.cloudShare <= CLOUDY_SHARE) done.set(exposure.goalKey, (done.get(exposure.goalKey) ?? 0) + 1);
  const goals = projects.flatMap(({ goals: own }) =>
    own.map((goal): RequestedGoal => {
      const mode = rig.modes[goal.filterClass === 'narrowband' ? 1 : 0];
      const already = done.get(goal.key) ?? 0;
      return {
        id: goal.key,
        panelId: goal.panelKey,
        filterId: goal.filter,
        settings: {
          exposureSec: goal.exposureSec,
          pauseSec: 0,
          ditherEvery: goal.filterClass === 'narrowband' ? 1 : 3,
        },
        binning: 1,
        readNoiseE: mode.readNoiseE,
        toPlan: Math.max(0, goal.wanted - already),
        done: Math.min(already, goal.wanted),
        wanted: goal.wanted,
        limits: [],
      };
    }),
  );
  return {
    site: STATION,
    timeZone: STATION.timeZone,
    night,
    fromUtcMs: null,
    zenithMagV: STATION.zenithMagV,
    horizon: horizonProfile(HORIZON),
    bounds: DEFAULT_BOUNDS,
    observatoryLimits: LIMITS.map((limit) => ({ ...limit, scope: 'observatory' })),
    rig: { ...rig, detector: rig },
    filters: FILTERS.map((filter) => ({
      ...filter,
      id: filter.letter,
      offsetKnown: !rig.offsetsUnknown.includes(filter.letter),
    })),
    projects: projects.map(({ source }) => ({ id: source.key, weight: source.grade, limits: [] })),
    panels,
    goals,
  };
}

/** Where the story says how far a goal is, what is wanted follows from what was gathered. */
function withWantedFromHistory(project: StoryProject, exposures: readonly StoryExposure[]): StoryProject {
  const { history: told, filters } = project.source;
  if (!told) return project;
  const goals = project.goals.map((goal): StoryGoal => {
    const gathered = exposures.filter(
      (exposure) => exposure.goalKey === goal.key && exposure.verdict !== 'rejected',
    ).length;
    const share = told.shares[filters.indexOf(goal.filter)];
    if (gathered === 0) return share >= 1 ? { ...goal, wanted: 0 } : goal;
    if (share >= 1)
      return {
        ...goal,
        wanted: Math.max(1, exposures.filter((e) => e.goalKey === goal.key && e.verdict === 'accepted').length),
      };
    return {
      ...goal,
      wanted: Math.max(gathered + 2, Math.min(Math.round(gathered / share), gathered + 2 * goal.wanted)),
    };
  });
  return { ...project, goals };
}
