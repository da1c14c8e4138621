// What a project asked for would do to a season: when it would end, what it would take, and whom it would delay.
import { nightDatePlus } from '../../time/nights.ts';
import type { ProjectForecast, Season, SeasonOptions } from './season-outlook.ts';
import { outlookOfSeason } from './season-outlook.ts';
import type { SeasonRequest } from './season-of-nights.ts';
import { seasonOfNights } from './season-of-nights.ts';

/** Another project's end with and without the one asked for. */
export interface Delay {
  readonly projectId: string;
  readonly middleWithout: string | null;
  readonly middleWith: string | null;
  readonly finishedShareWithout: number;
  readonly finishedShareWith: number;
  /** Nights that it ends later in the middle of all seasons; null where one of both has no such night. */
  readonly nights: number | null;
  /** More than three seeds of the same season differ by. */
  readonly isNoticeable: boolean;
}

export interface Consequences {
  /** The project asked for. */
  readonly own: ProjectForecast;
  /** Projects delayed noticeably come first. */
  readonly delays: readonly Delay[];
  readonly draws: number;
  /** The last night looked at. */
  readonly lastNight: string;
}

const SEEDS = 3;
/** Of being finished at all: less than this is no noticeable difference. */
const NOTICEABLE_SHARE = 0.1;

/** Compares the season with a project and without it: same start, same seed, same draws.
 * @param withProject all that is granted and the project asked for
 * @param without the same without it
 * @returns null where it was stopped */
export function consequencesOf(
  { projectId, withProject, without }: { projectId: string; withProject: SeasonRequest; without: SeasonRequest },
  options: SeasonOptions,
  onProgress: (share: number) => boolean = () => false,
): Consequences | null {
  const steps = SEEDS + 1;
  const surveyed = [withProject, without].map((request) => ({ request, season: seasonOfNights(request) }));
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
  const delays = before.projects
    .filter((project) => project.projectId !== projectId)
    .map((project) => {
      const alike = others.map((season) => forecastIn(season, project.projectId));
      return delayOf(project, forecastIn(after, project.projectId), alike);
    });
  return {
    own: forecastIn(after, projectId),
    delays: delays.sort((a, b) => Number(b.isNoticeable) - Number(a.isNoticeable) || (b.nights ?? 0) - (a.nights ?? 0)),
    draws: options.draws,
    lastNight: withProject.nights.at(-1)!.night.nightDate,
  };
}

const forecastIn = ({ projects }: Season, projectId: string): ProjectForecast =>
  projects.find((project) => project.projectId === projectId)!;

function delayOf(without: ProjectForecast, withProject: ProjectForecast, alike: readonly ProjectForecast[]): Delay {
  const nights = nightsBetween(without.middle, withProject.middle);
  const spread = Math.max(0, ...alike.map(({ middle }) => Math.abs(nightsBetween(without.middle, middle) ?? 0)));
  const shares = [without, ...alike].map(({ finishedShare }) => finishedShare);
  const lost = Math.min(...shares) - withProject.finishedShare;
  return {
    projectId: without.projectId,
    middleWithout: without.middle,
    middleWith: withProject.middle,
    finishedShareWithout: without.finishedShare,
    finishedShareWith: withProject.finishedShare,
    nights,
    isNoticeable: (nights !== null && nights > spread) || lost > NOTICEABLE_SHARE,
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
