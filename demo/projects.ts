// The dozen projects of the demo: what each is there to show, and where on the sky of the season it is looked for.
import type { CountingPolicy } from '@meridiem/core';

export interface DemoProject {
  readonly key: string;
  /** What it adds to the story. */
  readonly shows: string;
  readonly owner: string;
  readonly rig: 'wide' | 'long';
  readonly state: 'draft' | 'proposed' | 'returned' | 'queued' | 'granted' | 'retired';
  readonly resting?: boolean;
  readonly grade: 1 | 2 | 3;
  readonly counting: CountingPolicy;
  readonly private?: boolean;
  /** Ends the project's name. */
  readonly title: string;
  readonly object: DemoObjectWish | null;
  /** Camera angle; the wide rig is turned by hand to 12°. */
  readonly angleDeg: number;
  readonly mosaic?: { rows: number; cols: number };
  readonly filters: readonly string[];
  /** Wanted counts per filter where no history sets them. */
  readonly wanted: readonly number[];
  /** Nights of history, and how far each filter has come by tonight; none = no history. */
  readonly history?: { nights: number; shares: readonly number[] };
  readonly why?: string;
  /** Charged hours asked for without the moon and with it, and what a coordinator said to it. */
  readonly asked?: {
    readonly darkHours: number;
    readonly brightHours: number;
    readonly words: string;
    readonly remark?: string;
  };
}

export interface DemoObjectWish {
  readonly kinds: readonly string[];
  /** Right ascension against the sky's meridian at local midnight, in hours; or near the moon. */
  readonly hoursFromMidnight: number | 'moon';
  readonly decDeg: readonly [from: number, to: number];
  readonly sizeArcmin: readonly [from: number, to: number];
  readonly brighterThanMag?: number;
}

const NEBULA = ['bright nebula', 'emission nebula', 'star-forming region', 'supernova remnant'];
const GALAXY = ['spiral galaxy', 'galaxy', 'irregular galaxy', 'lenticular galaxy', 'elliptical galaxy'];

export const PROJECTS: readonly DemoProject[] = [
  {
    key: 'mosaic',
    shows: 'a mosaic of six panels in three narrowband filters',
    owner: 'mirela',
    rig: 'wide',
    state: 'granted',
    grade: 3,
    counting: 'all',
    title: 'in six panels',
    object: { kinds: NEBULA, hoursFromMidnight: 0.5, decDeg: [-62, -18], sizeArcmin: [40, 400] },
    angleDeg: 12,
    mosaic: { rows: 2, cols: 3 },
    filters: ['Ha', 'OIII', 'SII'],
    wanted: [18, 18, 18],
    history: { nights: 26, shares: [0.55, 0.3, 0.15] },
    why: 'Faint outer shells need the full three filters on every panel.',
  },
  {
    key: 'spiral',
    shows: 'a galaxy in colour, half done',
    owner: 'ruan',
    rig: 'long',
    state: 'granted',
    grade: 2,
    counting: 'all',
    title: 'in colour',
    object: { kinds: GALAXY, hoursFromMidnight: -1.5, decDeg: [-60, -12], sizeArcmin: [6, 24], brighterThanMag: 11 },
    angleDeg: 40,
    filters: ['L', 'R', 'G', 'B'],
    wanted: [90, 30, 30, 30],
    history: { nights: 45, shares: [0.6, 0.5, 0.45, 0.25] },
  },
  {
    key: 'globular',
    shows: 'nearly finished: one filter lags',
    owner: 'jonah',
    rig: 'long',
    state: 'granted',
    grade: 2,
    counting: 'after_rules',
    title: 'to the core',
    object: {
      kinds: ['globular cluster', 'open cluster'],
      hoursFromMidnight: 1.5,
      decDeg: [-70, -10],
      sizeArcmin: [4, 40],
      brighterThanMag: 10,
    },
    angleDeg: 0,
    filters: ['R', 'G', 'B'],
    wanted: [25, 25, 25],
    history: { nights: 20, shares: [1, 0.96, 0.7] },
  },
  {
    key: 'gas',
    shows: 'narrowband that bears the moon',
    owner: 'ruan',
    rig: 'wide',
    state: 'granted',
    grade: 2,
    counting: 'all',
    title: 'in hydrogen and oxygen',
    object: { kinds: NEBULA, hoursFromMidnight: 2.5, decDeg: [-65, -15], sizeArcmin: [20, 150] },
    angleDeg: 193,
    filters: ['Ha', 'OIII'],
    wanted: [40, 50],
    history: { nights: 56, shares: [0.4, 0.1] },
  },
  {
    key: 'planetary',
    shows: 'a small bright target for any night',
    owner: 'mirela',
    rig: 'long',
    state: 'granted',
    grade: 1,
    counting: 'after_person',
    private: true,
    title: 'halo',
    object: {
      kinds: ['planetary nebula'],
      hoursFromMidnight: 0,
      decDeg: [-65, -5],
      sizeArcmin: [0.4, 20],
      brighterThanMag: 13,
    },
    angleDeg: 90,
    filters: ['Ha', 'OIII'],
    wanted: [60, 60],
    history: { nights: 40, shares: [0.35, 0.3] },
    why: 'The faint outer halo: many exposures, judged by eye.',
  },
  {
    key: 'moonlit',
    shows: 'colour in the moon’s way',
    owner: 'jonah',
    rig: 'wide',
    state: 'granted',
    grade: 2,
    counting: 'all',
    title: 'beside the moon',
    object: { kinds: [...GALAXY, 'open cluster'], hoursFromMidnight: 'moon', decDeg: [-50, 25], sizeArcmin: [5, 120] },
    angleDeg: 12,
    filters: ['L', 'R', 'G', 'B'],
    wanted: [40, 20, 20, 20],
  },
  {
    key: 'leaving',
    shows: 'a season that ends before the goal',
    owner: 'mirela',
    rig: 'long',
    state: 'granted',
    grade: 2,
    counting: 'all',
    title: 'before it sets',
    object: { kinds: GALAXY, hoursFromMidnight: -4.6, decDeg: [-48, -20], sizeArcmin: [4, 40], brighterThanMag: 11.5 },
    angleDeg: 15,
    filters: ['L', 'B'],
    wanted: [400, 200],
    history: { nights: 55, shares: [0.3, 0.05] },
  },
  {
    key: 'turned',
    shows: 'a camera angle that needs a visit',
    owner: 'jonah',
    rig: 'wide',
    state: 'granted',
    grade: 2,
    counting: 'all',
    title: 'along the diagonal',
    object: { kinds: GALAXY, hoursFromMidnight: -0.5, decDeg: [-60, -10], sizeArcmin: [15, 60] },
    angleDeg: 71,
    filters: ['L', 'Ha'],
    wanted: [60, 30],
  },
  {
    key: 'cluster',
    shows: 'proposed, waiting for a decision',
    owner: 'ruan',
    rig: 'wide',
    state: 'proposed',
    grade: 2,
    counting: 'all',
    title: 'and its field',
    object: { kinds: ['open cluster'], hoursFromMidnight: 3, decDeg: [-65, -10], sizeArcmin: [15, 80] },
    angleDeg: 12,
    filters: ['R', 'G', 'B'],
    wanted: [20, 20, 20],
    asked: { darkHours: 2.5, brightHours: 0, words: 'A short one between the long ones; any clear week will do.' },
  },
  {
    key: 'pair',
    shows: 'queued behind others',
    owner: 'mirela',
    rig: 'long',
    state: 'queued',
    grade: 1,
    counting: 'all',
    title: 'and companion',
    object: { kinds: GALAXY, hoursFromMidnight: 4, decDeg: [-55, -10], sizeArcmin: [3, 15], brighterThanMag: 12 },
    angleDeg: 130,
    filters: ['L', 'R', 'G', 'B'],
    wanted: [80, 25, 25, 25],
    asked: {
      darkHours: 6,
      brightHours: 0,
      words: 'Best from January on.',
      remark: 'The long reflector is full until two galaxies are finished.',
    },
  },
  {
    key: 'idea',
    shows: 'a draft without a position: none, never zero',
    owner: 'jonah',
    rig: 'wide',
    state: 'draft',
    grade: 2,
    counting: 'all',
    title: 'Dust between the clouds',
    object: null,
    angleDeg: 12,
    filters: ['L'],
    wanted: [60],
  },
  {
    key: 'paused',
    shows: 'resting by its owner’s wish',
    owner: 'ruan',
    rig: 'long',
    state: 'granted',
    resting: true,
    grade: 2,
    counting: 'all',
    title: 'at rest',
    object: { kinds: GALAXY, hoursFromMidnight: -0.5, decDeg: [-50, -15], sizeArcmin: [4, 20], brighterThanMag: 12 },
    angleDeg: 60,
    filters: ['L', 'R', 'G', 'B'],
    wanted: [60, 20, 20, 20],
    history: { nights: 50, shares: [0.3, 0.2, 0.2, 0.2] },
  },
  {
    key: 'done',
    shows: 'complete: every goal met',
    owner: 'mirela',
    rig: 'wide',
    state: 'granted',
    grade: 2,
    counting: 'all',
    title: 'complete',
    object: { kinds: NEBULA, hoursFromMidnight: -3, decDeg: [-60, -10], sizeArcmin: [15, 120] },
    angleDeg: 12,
    filters: ['Ha', 'SII'],
    wanted: [16, 16],
    history: { nights: 58, shares: [1, 1] },
  },
];
