// One exposure in words: its figures against what is usual, and who has said what of it.
import { binValue, formatDeclination, formatRightAscension } from '@meridiem/core';
import type { CalibrationDegree, Deviation, ExposurePage, GivenVerdictBody } from '@meridiem/contract';

const FIGURE_WORDS: Readonly<Record<Deviation['figure'], string>> = {
  starSize: 'star size',
  starCount: 'star count',
  guiding: 'guiding',
  background: 'sky background',
  elongation: 'star elongation',
  starlight: 'starlight',
};

export interface ShownDeviation {
  readonly figure: string;
  /** "+18 %" */
  readonly share: string;
  /** "4.1 σ worse" */
  readonly sigmas: string;
  readonly isFar: boolean;
}

/** Beyond so many robust sigmas a figure is shown as far out. */
const FAR_SIGMAS = 3;

export function shownDeviation({ figure, value, usual, sigmas }: Deviation): ShownDeviation {
  const percent = Math.round(100 * (value / usual - 1));
  const side = sigmas >= 0 ? 'worse' : 'better';
  return {
    figure: FIGURE_WORDS[figure],
    share: `${percent > 0 ? '+' : percent < 0 ? '−' : '±'}${Math.abs(percent)} %`,
    sigmas: `${Math.abs(sigmas).toFixed(1)} σ ${side}`,
    isFar: sigmas > FAR_SIGMAS,
  };
}

/** "rejected by Jonah Teague: trail" */
export const verdictLine = ({ verdict, reason, by, byCoordinator }: GivenVerdictBody): string =>
  reason === 'withdrawn'
    ? `${by ?? 'a rule'} withdrew the verdict before`
    : `${verdict} by ${by ?? 'a rule'}${byCoordinator ? ', coordinator' : ''}: ${reason}`;

/** Where the member and a coordinator say different things, the coordinator's word counts, and it is said; null where they agree.
 * @param verdicts the newest first */
export function disputeWords(verdicts: readonly GivenVerdictBody[]): string | null {
  const standing = verdicts.filter(({ by, reason }) => by !== null && reason !== 'withdrawn');
  const coordinator = standing.find(({ byCoordinator }) => byCoordinator);
  const member = standing.find(({ byCoordinator }) => !byCoordinator);
  if (!coordinator || !member || coordinator.verdict === member.verdict) return null;
  return `Disputed: ${member.by} says ${member.verdict}, ${coordinator.by} says ${coordinator.verdict}. The coordinator’s verdict counts.`;
}

export interface HistogramBar {
  readonly bin: number;
  readonly value: number;
  /** By logarithm, so that few bright pixels are seen beside many dark ones. */
  readonly height: number;
}

export const histogramBars = ({ histogram: { counts, to } }: Figures): HistogramBar[] =>
  counts.map((count, bin) => ({ bin, value: binValue(bin, counts.length, to), height: Math.log10(1 + count) }));

/** The bins in which ten, a hundred, a thousand and so on lie. */
export const decadeBins = ({ histogram: { counts, to } }: Figures): { bin: number; value: number }[] =>
  Array.from({ length: Math.floor(Math.log10(to)) }, (_, i) => {
    const value = 10 ** (i + 1);
    return { bin: Math.floor((Math.log(value) / Math.log(to)) * counts.length + 1e-9), value };
  });

/** Where it points and how much light it has, by its stars. */
export function pointingFacts({
  figures,
  offIntended,
}: Pick<ExposurePage, 'figures' | 'offIntended'>): [string, string][] {
  if (!figures) return [];
  const { pointing, zeroPoint, notSolved } = figures;
  if (!pointing) return [['pointing', `not solved: ${notSolved}`]];
  const { raDeg, decDeg } = pointing;
  return [
    ['points to', `${formatRightAscension(raDeg)}, ${formatDeclination(decDeg)}`],
    ...(offIntended ? [['from its panel', offWords(offIntended)] as [string, string]] : []),
    ['known by', knownBy(pointing)],
    ['zero point', zeroPoint ? `${zeroPoint.mag.toFixed(2)} mag is one count a second` : noZeroPoint(pointing)],
  ];
}

type Pointing = NonNullable<NonNullable<ExposurePage['figures']>['pointing']>;

const knownBy = ({ by, starCount, meanResidualArcsec }: Pointing): string =>
  ({
    stars: `${starCount} stars, within ${meanResidualArcsec.toFixed(2)}″ on average`,
    header: 'the coordinates written in its file',
    solver: 'the site’s own program',
  })[by];

const noZeroPoint = ({ by }: Pointing): string => (by === 'stars' ? 'too few stars' : 'none: no catalogue star is known in it'); // prettier-ignore

const offWords = ({ arcmin, turnedDeg }: NonNullable<ExposurePage['offIntended']>): string =>
  `${arcmin.toFixed(1)}′, turned by ${signed(turnedDeg)}°`;

export interface DegreeChoice {
  readonly degree: CalibrationDegree;
  readonly words: string;
  readonly isPossible: boolean;
}

/** As it was taken, without what the sensor adds, and evened by flats as well. */
export const degreeChoices = ({ darks, full }: NonNullable<ExposurePage['calibrated']>): DegreeChoice[] => [
  { degree: 'none', words: 'As taken', isPossible: true },
  { degree: 'darks', words: 'Darks only', isPossible: darks.isPossible },
  { degree: 'full', words: 'Darks and flats', isPossible: full.isPossible },
];

/** What is seen, and of what is missing to see more. */
export function pictureCaption(degree: CalibrationDegree, calibrated: ExposurePage['calibrated']): string {
  const same = 'the data are as they were taken. Rows as the file has them, its last one on top.';
  if (degree !== 'none' && calibrated) return `Calibrated by ${calibrated[degree].words}, and brightened for looking at; ${same}`; // prettier-ignore
  const missing = calibrated && !calibrated.full.isPossible ? ` Not to be calibrated wholly: ${calibrated.full.words}.` : ''; // prettier-ignore
  return `Brightened for looking at; ${same}${missing}`;
}

type Trails = NonNullable<ExposurePage['figures']>['trails'];

/** "A trail crosses it: a satellite or an aircraft, 14 σ over the sky’s noise." */
export function trailWords(trails: Trails): string {
  const brightest = `${Math.round(Math.max(...trails.map(({ sigmas }) => sigmas)))} σ`;
  return trails.length === 1
    ? `A trail crosses it: a satellite or an aircraft, ${brightest} over the sky’s noise.`
    : `${trails.length} trails cross it: satellites or aircraft, the brightest ${brightest} over the sky’s noise.`;
}

export interface TrailEdge {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
}

/** Two lines beside each trail, so that the trail itself is seen between them; y from the top, as pictures are drawn. */
export function trailEdges({ trails, widthPx, heightPx }: Crossed): TrailEdge[] {
  const apart = EDGE_SHARE * Math.hypot(widthPx, heightPx);
  return trails.flatMap(({ fromX, fromY, toX, toY }) => {
    const length = Math.hypot(toX - fromX, toY - fromY);
    const [dx, dy] = [(apart * (toY - fromY)) / length, (apart * (toX - fromX)) / length];
    return [1, -1].map((side) => ({
      x1: fromX + side * dx,
      y1: heightPx - 1 - fromY + side * dy,
      x2: toX + side * dx,
      y2: heightPx - 1 - toY + side * dy,
    }));
  });
}
const EDGE_SHARE = 0.012;
type Crossed = Pick<NonNullable<ExposurePage['figures']>, 'trails' | 'widthPx' | 'heightPx'>;

type Figures = Pick<NonNullable<ExposurePage['figures']>, 'histogram'>;

/** "0.02 %", "none" */
export const saturatedWords = (share: number): string =>
  share === 0 ? 'none' : share < 0.0001 ? 'under 0.01 %' : `${(100 * share).toFixed(2)} %`;

/** "1.4 MB" */
export const sizeWords = (bytes: number): string =>
  bytes < 1e6 ? `${Math.round(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

/** To a tenth, without a sign where none is left. */
const signed = (deg: number): string => (Math.abs(deg) < 0.05 ? '0.0' : deg.toFixed(1).replace('-', '−'));
