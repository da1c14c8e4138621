// A map of depth as bands: few enough to be told apart, each with how much of the field has got so far.
import type { FilterDepth, Goal, ProjectDepth, WantedDepth } from '@meridiem/contract';
import { shareAsDeep, timesForDepth } from '@meridiem/core';
import { count, hours, percent } from '../../words/format.ts';

export type Cells = readonly (number | null)[];
export type Grid = NonNullable<ProjectDepth['grid']>;

export interface Band {
  readonly fromMag: number;
  /** Of what was covered, how much is at least so deep. */
  readonly share: number;
}

const STEPS_MAG = [0.1, 0.25, 0.5, 1];
const MOST_BANDS = 7;

/** The shallowest first; none where nothing was gathered. */
export function bandsOf(cells: Cells): Band[] {
  const mags = cells.filter((mag) => mag !== null);
  if (mags.length === 0) return [];
  const [least, most] = [Math.min(...mags), Math.max(...mags)];
  const stepMag = STEPS_MAG.find((step) => (most - least) / step <= MOST_BANDS - 1) ?? STEPS_MAG.at(-1)!;
  const first = Math.floor(least / stepMag);
  return Array.from({ length: Math.floor(most / stepMag) - first + 1 }, (_, i) => {
    const fromMag = (first + i) * stepMag;
    return { fromMag, share: shareAsDeep(cells, fromMag) };
  });
}

/** Cells of one band side by side, drawn as one. */
export interface Run {
  readonly column: number;
  readonly row: number;
  readonly length: number;
  readonly band: number;
}

export function runsOf(cells: Cells, across: number, bands: readonly Band[]): Run[] {
  const bandOf = (mag: number | null): number =>
    mag === null ? -1 : bands.findLastIndex(({ fromMag }) => mag >= fromMag);
  const runs: Run[] = [];
  cells.forEach((mag, index) => {
    const [column, row, band] = [index % across, Math.floor(index / across), bandOf(mag)];
    const last = runs.at(-1);
    if (band < 0) return;
    if (last?.row === row && last.band === band && last.column + last.length === column)
      runs[runs.length - 1] = { ...last, length: last.length + 1 };
    else runs.push({ column, row, length: 1, band });
  });
  return runs;
}

const BARS_ARCMIN = [600, 300, 120, 60, 30, 10, 5, 2, 1];

/** The longest round length that fits into a third of the picture. */
export function scaleBar({ stepDeg, across }: Pick<Grid, 'stepDeg' | 'across'>): {
  readonly cells: number;
  readonly words: string;
} {
  const arcmin = BARS_ARCMIN.find((length) => length / 60 <= (stepDeg * across) / 3) ?? 1;
  return { cells: arcmin / 60 / stepDeg, words: arcmin >= 60 ? `${arcmin / 60}°` : `${arcmin}′` };
}

/** "43 of 61 exposures" */
export const ofWords = ({ measured, exposures }: { readonly measured: number; readonly exposures: number }): string =>
  `${measured} of ${exposures} ${exposures === 1 ? 'exposure' : 'exposures'}`;

/** A wanted depth, as it is typed. */
export interface TypedDepth {
  readonly mag: string;
  readonly percent: string;
}

/** What is wrong with a wanted depth, by field. */
export function depthProblems({ mag, percent: share }: TypedDepth): {
  readonly mag?: string;
  readonly percent?: string;
} {
  const [wantedMag, wantedPercent] = [Number(mag.replace(',', '.')), Number(share.replace(',', '.'))];
  return {
    ...(mag.trim() !== '' && !(wantedMag >= 15 && wantedMag <= 35)
      ? { mag: 'Write magnitudes per square arcsecond from 15 to 35, as 26.5' }
      : {}),
    ...(!(wantedPercent > 0 && wantedPercent <= 100) ? { percent: 'Write a share of the field from 1 to 100' } : {}),
  };
}

type Gathered = Pick<FilterDepth, 'letter' | 'cells' | 'exposureSec' | 'measured' | 'exposures'>;

/** What a wanted depth takes, or that it is reached, by the exposures whose files tell; null where nothing is typed, or it can't be said. */
export function depthWords(typed: TypedDepth, filter: Gathered): string | null {
  const wanted = readWanted(typed);
  const needed = wanted && exposuresForDepth(filter, wanted);
  if (!needed) return null;
  const { letter, exposureSec, measured, exposures } = filter;
  const now = percent(shareAsDeep(filter.cells, wanted.mag));
  const others = exposures - measured;
  const rest = others > 0 ? ` That is by the ${count(measured)} whose files tell; ${count(others)} more make it deeper.` : ''; // prettier-ignore
  if (needed.more === 0) return `Reached: ${now} of the field is as deep in ${letter}.${rest}`;
  const moreHours = hours((needed.more * exposureSec) / measured / 3600);
  return `${now} of the field is as deep. It takes about ${moreHours} h more in ${letter} under skies like these, ${count(needed.more)} exposures as long as those that are there: ${needed.times.toFixed(1)} times what there is.${rest}`;
}

/** @returns null where no file tells */
function exposuresForDepth(
  { cells, measured }: Pick<FilterDepth, 'cells' | 'measured'>,
  { mag, share }: WantedDepth,
): { readonly times: number; readonly more: number } | null {
  const times = timesForDepth(cells, mag, share);
  return times === null || measured === 0
    ? null
    : { times, more: Math.max(0, Math.ceil((times - 1) * measured - 1e-9)) };
}

const USUAL_SHARE = 0.9;

export const asTyped = (wanted: WantedDepth | null): TypedDepth => ({
  mag: wanted ? String(wanted.mag) : '',
  percent: String(Math.round(100 * (wanted?.share ?? USUAL_SHARE))),
});

/** null where nothing is typed, or it can't be read */
export function readWanted(typed: TypedDepth): WantedDepth | null {
  if (typed.mag.trim() === '' || Object.keys(depthProblems(typed)).length > 0) return null;
  const [mag, percentOfField] = [typed.mag, typed.percent].map((text) => Number(text.replace(',', '.')));
  return { mag, share: percentOfField / 100 };
}

/** "26.5 mag/″² over 90 % of the field" */
export const wantedWords = ({ mag, share }: WantedDepth): string => `${mag} mag/″² over ${percent(share)} of the field`;

/** Which goals want too few exposures for a depth, and how many it takes: what is missing, spread evenly over the panels. */
export function countsForDepth(
  goals: readonly Goal[],
  filter: Pick<FilterDepth, 'cells' | 'measured'>,
  wanted: WantedDepth,
): { readonly goal: Goal; readonly count: number }[] {
  const more = exposuresForDepth(filter, wanted)?.more ?? 0;
  if (more === 0) return [];
  return goals.flatMap((goal) => {
    const { accepted, undecided } = goal.tally;
    const count = Math.min(MOST_WANTED, Math.ceil(accepted + undecided + more / goals.length));
    return goal.wanted !== null && count > goal.wanted ? [{ goal, count }] : [];
  });
}
const MOST_WANTED = 100_000;

const MORE_HOURS = 2;

/** "B +12 %, R +3 %": what two more hours of each filter add to signal over noise, which grows by the root of the time, the most first;
 * exposures whose file does not tell count as long as the others. Null where no file tells. */
export function nextHoursWords(
  filters: readonly Pick<FilterDepth, 'letter' | 'exposureSec' | 'measured' | 'exposures'>[],
): string | null {
  const gains = filters
    .filter(({ measured }) => measured > 0)
    .map(({ letter, exposureSec, measured, exposures }) => {
      const gatheredHours = (exposures * exposureSec) / measured / 3600;
      return { letter, gain: Math.sqrt(1 + MORE_HOURS / gatheredHours) - 1 };
    })
    .toSorted((a, b) => b.gain - a.gain);
  return gains.length === 0 ? null : gains.map(({ letter, gain }) => `${letter} +${percent(gain)}`).join(', ');
}
