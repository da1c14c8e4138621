// A seeded family of realistic nights: goals crowded in right ascension, filters broad and narrow, half of them part done.
import type {
  Bounds,
  FilterSky,
  NightRequest,
  RequestedFilter,
  RequestedGoal,
  RequestedPanel,
  RequestedProject,
  StepCosts,
  StoredLimit,
} from '@meridiem/core';
import {
  apparentSiderealDeg,
  DEFAULT_BOUNDS,
  frameOfDate,
  horizonProfile,
  moonPhase,
  nightDatePlus,
  observingNight,
  seededRandom,
  wrap360,
} from '@meridiem/core';

const SITE = { latitudeDeg: -31.2, longitudeDeg: -70.1, elevationM: 1900 };
const ZONE = 'America/Santiago';

const filter = (
  id: string,
  numbers: Pick<FilterSky, 'class' | 'centreNm' | 'widthNm' | 'extinctionMagPerAirmass' | 'zenithMag' | 'moonFactor'>,
): RequestedFilter => ({ id, offsetKnown: true, ...numbers });
const FILTERS: readonly RequestedFilter[] = [
  filter('L', {
    class: 'broadband',
    centreNm: 550,
    widthNm: 260,
    extinctionMagPerAirmass: 0.17,
    zenithMag: 21.6,
    moonFactor: 1,
  }),
  filter('R', {
    class: 'broadband',
    centreNm: 635,
    widthNm: 95,
    extinctionMagPerAirmass: 0.12,
    zenithMag: 21,
    moonFactor: 0.35,
  }),
  filter('G', {
    class: 'broadband',
    centreNm: 530,
    widthNm: 85,
    extinctionMagPerAirmass: 0.17,
    zenithMag: 21.7,
    moonFactor: 1,
  }),
  filter('B', {
    class: 'broadband',
    centreNm: 450,
    widthNm: 95,
    extinctionMagPerAirmass: 0.27,
    zenithMag: 22.3,
    moonFactor: 4,
  }),
  filter('Ha', {
    class: 'narrowband',
    centreNm: 656,
    widthNm: 5,
    extinctionMagPerAirmass: 0.11,
    zenithMag: 20.9,
    moonFactor: 0.4,
  }),
  filter('OIII', {
    class: 'narrowband',
    centreNm: 501,
    widthNm: 5,
    extinctionMagPerAirmass: 0.19,
    zenithMag: 21.9,
    moonFactor: 1.6,
  }),
  filter('SII', {
    class: 'narrowband',
    centreNm: 672,
    widthNm: 5,
    extinctionMagPerAirmass: 0.1,
    zenithMag: 20.8,
    moonFactor: 0.35,
  }),
];
const SETS = [
  ['L', 'R', 'G', 'B'],
  ['Ha', 'OIII', 'SII'],
  ['Ha', 'OIII'],
  ['L', 'Ha'],
  ['R', 'G', 'B'],
] as const;
const WANTED: Readonly<Record<string, readonly [number, number]>> = {
  L: [30, 100],
  R: [15, 45],
  G: [15, 45],
  B: [15, 45],
  Ha: [12, 40],
  OIII: [12, 40],
  SII: [12, 40],
};

const COSTS: StepCosts = {
  slewDegPerSec: 3,
  slewSettleSec: 20,
  centreSec: 50,
  guidingStartSec: 20,
  filterChangeSec: 10,
  autofocusSec: 150,
  autofocusEveryMin: 60,
  ditherSec: 10,
  downloadSec: 5,
  flipSec: 300,
};

export interface InstanceOptions {
  readonly seed: number;
  readonly goals: number;
  /** Nights after 1 January 2029; a dark one where left out. */
  readonly night?: number;
  readonly bounds?: Bounds;
}

/** A realistic one-night request with about the given number of goals. */
export function nightInstance({
  seed,
  goals: wish,
  night = 12,
  bounds = DEFAULT_BOUNDS,
}: InstanceOptions): NightRequest {
  const random = seededRandom(seed * 7919 + 13);
  const between = (low: number, high: number): number => low + random() * (high - low);
  const observed = observingNight(nightDatePlus('2029-01-01', night), ZONE);
  const midnight = (observed.startUtcMs + observed.endUtcMs) / 2;
  const siderealDeg = apparentSiderealDeg(frameOfDate(midnight), midnight) + SITE.longitudeDeg;
  const litShare = moonPhase(midnight).illuminatedShare;
  const projects: RequestedProject[] = [];
  const panels: RequestedPanel[] = [];
  const goals: RequestedGoal[] = [];
  while (goals.length < wish) {
    const id = `p${projects.length}`;
    const moonLimitDeg = Math.round(between(30, 60) * litShare);
    const limits: StoredLimit[] = [
      { scope: 'project', class: null, key: 'minAltitudeDeg', value: Math.round(between(25, 35)) },
      { scope: 'project', class: 'broadband', key: 'moonSeparationMinDeg', value: moonLimitDeg },
      { scope: 'project', class: 'narrowband', key: 'moonSeparationMinDeg', value: moonLimitDeg / 2 },
      { scope: 'project', class: 'narrowband', key: 'sunAltitudeMaxDeg', value: -15 },
    ];
    projects.push({ id, weight: [0.5, 1, 1, 2][Math.floor(random() * 4)], limits });
    const crowded = random() < 0.6;
    const raDeg = wrap360(siderealDeg + (crowded ? between(-22, 22) : between(-90, 90)));
    const decDeg = between(-75, 10);
    const panelCount = random() < 0.6 ? 1 : 1 + Math.floor(random() * 12);
    const letters = SETS[Math.floor(random() * SETS.length)];
    const partDone = random() < 0.5;
    for (let p = 0; p < panelCount && goals.length < wish; p++) {
      panels.push({
        id: `${id}.${p}`,
        projectId: id,
        position: { raDeg: wrap360(raDeg + p * 1.2), decDeg },
        positionAngleDeg: 0,
      });
      for (const letter of letters) goals.push(instanceGoal(`${id}.${p}`, letter, random, partDone));
    }
  }
  return {
    site: SITE,
    timeZone: ZONE,
    night: observed,
    fromUtcMs: null,
    zenithMagV: 21.8,
    horizon: horizonProfile([
      { azimuthDeg: 0, altitudeDeg: 10 },
      { azimuthDeg: 120, altitudeDeg: 18 },
      { azimuthDeg: 260, altitudeDeg: 22 },
    ]),
    bounds,
    observatoryLimits: [],
    rig: {
      detector: {
        apertureMm: 150,
        obstructionShare: 0.3,
        focalLengthMm: 750,
        pixelUm: 4.6,
        throughput: 0.5,
        darkCurrentEPerSec: 0.004,
      },
      costs: COSTS,
      mountKind: 'german_equatorial',
      flipBeforeSec: 0,
      flipAfterSec: 300,
      rotatorKind: 'motor',
      skyAngleDeg: null,
      angleToleranceDeg: 3,
    },
    filters: FILTERS,
    projects,
    panels,
    goals,
  };
}

function instanceGoal(panelId: string, letter: string, random: () => number, partDone: boolean): RequestedGoal {
  const narrow = FILTERS.find((candidate) => candidate.id === letter)!.class === 'narrowband';
  const [low, high] = WANTED[letter];
  const wanted = Math.round(low + random() * (high - low));
  const done = partDone ? Math.floor(wanted * random() * 0.9) : 0;
  return {
    id: `${panelId}/${letter}`,
    panelId,
    filterId: letter,
    settings: { exposureSec: narrow ? 300 : 120, pauseSec: 0, ditherEvery: 3 },
    binning: 1,
    readNoiseE: 1.8,
    toPlan: wanted - done,
    done,
    wanted,
    limits: [],
  };
}
