// What a change would do to a season: when projects would end with it and without it, and whom it would delay.
import { nightDatePlus } from '../../time/nights.ts';
import type { ProjectForecast, Season, SeasonOptions } from './season-outlook.ts';
import { outlookOfSeason } from './season-outlook.ts';
import type { SeasonRequest } from './season-of-nights.ts';
import { seasonOfNights } from './season-of-nights.ts';

/** A project's end with a change and without it. */
export interface Delay {
  readonly projectId: string;
  readonly middleWithout: string | null;
  readonly middleWith: string | null;
  readonly finishedShareWithout: number;
  readonly finishedShareWith: number;
  /** Nights that it ends later in the middle of all seasons; null where one of both has no such night. */
  readonly nights: number | null;
  /** Later, or less often at all, by more than three seeds of the same season differ by. */
  readonly isNoticeable: boolean;
  /** Sooner, or more often, by as much. */
  readonly isSooner: boolean;
}

/** Two seasons, the same but for a change. */
export interface ComparedSeasons {
  readonly changed: SeasonRequest;
  readonly asIs: SeasonRequest;
}

/** What becomes of every project of the season as it is. */
export interface SeasonDifference {
  /** Projects delayed noticeably come first. */
  readonly delays: readonly Delay[];
  readonly draws: number;
  /** The last night looked at. */
  readonly lastNight: string;
}

export interface Consequences extends SeasonDifference {
  /** The project asked for. */
  readonly own: ProjectForecast;
}

const SEEDS = 3;
/** Of being finished at all: less than this is no noticeable difference. */
const NOTICEABLE_SHARE = 0.1;

/** Compares the season with a project and without it.
 * @param withProject all that is granted and the project asked for
 * @param without the same without it
 * @returns null where it was stopped */
export function consequencesOf(
  { projectId, withProject, without }: { projectId: string; withProject: SeasonRequest; without: SeasonRequest },
  options: SeasonOptions,
  onProgress?: (share: number) => boolean,
): Consequences | null {
  const compared = comparedSeasons({ changed: withProject, asIs: without }, options, onProgress);
  if (!compared) return null;
  const { after, delays, ...difference } = compared;
  return {
    ...difference,
    own: forecastIn(after, projectId),
    delays: delays.filter((delay) => delay.projectId !== projectId),
  };
}

/** Compares the season as it is with one that is changed, project by project.
 * @returns null where it was stopped */
export function seasonDifference(
  compared: ComparedSeasons,
  options: SeasonOptions,
  onProgress?: (share: number) => boolean,
): SeasonDifference | null {
  const found = comparedSeasons(compared, options, onProgress);
  if (!found) return null;
  const { after: _, ...difference } = found;
  return difference;
}

/** Same start, same seed, same draws; what it is like without the change from two seeds more. */
function comparedSeasons(
  { changed, asIs }: ComparedSeasons,
  options: SeasonOptions,
  onProgress: (share: number) => boolean = () => false,
): (SeasonDifference & { readonly after: Season }) | null {
  const steps = SEEDS + 1;
  const surveyed = [changed, asIs].map((request) => ({ request, season: seasonOfNights(request) }));
  const seasons: Season[] = [];
  for (let step = 0; step < steps; step++) {
    const seed = options.seed + Math.max(0, step - 1);
    const season = outlookOfSeason(surveyed[Math.min(1, step)], { ...options, seed, boundRounds: 0 }, (share) =>
      onProgress((step + share) / steps),
    );
    if (!season) return null;
    seasons.push(season);
  }
  const [after, before, ...others] = seasons;
  const delays = before.projects.flatMap((project) => {
    const then = after.projects.find(({ projectId }) => projectId === project.projectId);
    const alike = others.map((season) => forecastIn(season, project.projectId));
    return then ? [delayOf(project, then, alike)] : [];
  });
  return {
    after,
    delays: delays.sort((a, b) => Number(b.isNoticeable) - Number(a.isNoticeable) || (b.nights ?? 0) - (a.nights ?? 0)),
    draws: options.draws,
    lastNight: changed.nights.at(-1)!.night.nightDate,
  };
}

const forecastIn = ({ projects }: Season, projectId: string): ProjectForecast =>
  projects.find((project) => project.projectId === projectId)!;

function delayOf(without: ProjectForecast, withProject: ProjectForecast, alike: readonly ProjectForecast[]): Delay {
  const nights = nightsBetween(without.middle, withProject.middle);
  const spread = Math.max(0, ...alike.map(({ middle }) => Math.abs(nightsBetween(without.middle, middle) ?? 0)));
  const shares = [without, ...alike].map(({ finishedShare }) => finishedShare);
  const lost = Math.min(...shares) - withProject.finishedShare;
  const won = withProject.finishedShare - Math.max(...shares);
  const isNoticeable = (nights !== null && nights > spread) || lost > NOTICEABLE_SHARE;
  return {
    projectId: without.projectId,
    middleWithout: without.middle,
    middleWith: withProject.middle,
    finishedShareWithout: without.finishedShare,
    finishedShareWith: withProject.finishedShare,
    nights,
    isNoticeable,
    isSooner: !isNoticeable && ((nights !== null && -nights > spread) || won > NOTICEABLE_SHARE),
  };
}

/** Nights from one night's date to another's; null where one is missing. */
function nightsBetween(from: string | null, to: string | null): number | null {
  if (!from || !to) return null;
  const [first, last, sign] = from <= to ? [from, to, 1] : [to, from, -1];
  let nights = 0;
  for (let date = first; date < last; date = nightDatePlus(date, 1)) nights += 1;
  return sign * nights;
}
