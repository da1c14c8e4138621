// Project rows: their state in one word and tonight's chance in a few.
import type { ProjectRow } from '@meridiem/contract';
import { panelWithin } from '@meridiem/contract';
import { hours } from '../../words/format.ts';
import { shortReason } from '../../words/reasons.ts';

/** Complete and resting are said before the state a project is formally in. */
export function stateWords(project: Pick<ProjectRow, 'state' | 'resting' | 'complete'>): string {
  if (project.complete) return 'complete';
  return project.resting ? `${project.state}, resting` : project.state;
}

/** What tonight holds: planned exposures, a reason why not, or how long it could be exposed. "Nothing tonight" is not "finished". */
export function tonightWords({ tonight, complete, state }: Pick<ProjectRow, 'tonight' | 'complete' | 'state'>): string {
  if (state === 'retired') return '';
  if (complete) return 'nothing more wanted';
  if (tonight.planned > 0) return `${tonight.planned} exposures planned`;
  if (tonight.reason) return shortReason(tonight.reason);
  return tonight.usableHours > 0 ? `usable for ${hours(tonight.usableHours)} h` : 'no goals yet';
}

export type ProjectOrder = 'state' | 'share' | 'tonight' | 'owner';

/** Rows by the wished order; the server's own order breaks ties. */
export function orderedProjects(projects: readonly ProjectRow[], order: ProjectOrder): ProjectRow[] {
  const keys: Record<ProjectOrder, (project: ProjectRow) => number | string> = {
    state: () => 0,
    share: (project) => -project.share,
    tonight: (project) => -project.tonight.planned - project.tonight.usableHours / 100,
    owner: (project) => project.ownerName,
  };
  const key = keys[order];
  return [...projects].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0));
}

/** What the list is narrowed to. */
export const NARROWINGS = [
  { value: 'all', words: 'all projects' },
  { value: 'mine', words: 'my projects' },
  { value: 'granted', words: 'granted projects' },
  { value: 'undecided', words: 'projects with frames to judge' },
  { value: 'behind', words: 'projects held back by one panel' },
  { value: 'nothing', words: 'projects with nothing tonight' },
] as const;
export type Narrowing = (typeof NARROWINGS)[number]['value'];

const IS_WITHIN: Readonly<Record<Narrowing, (project: ProjectRow, personId: string) => boolean>> = {
  all: () => true,
  mine: ({ ownerId }, personId) => ownerId === personId,
  granted: ({ state, resting }) => state === 'granted' && !resting,
  undecided: ({ filters }) => filters.some(({ tally }) => tally.undecided > 0),
  behind: ({ heldBackBy, complete }) => heldBackBy !== null && !complete,
  nothing: ({ state, complete, tonight }) => state === 'granted' && !complete && tonight.planned === 0,
};

export const narrowedProjects = (projects: readonly ProjectRow[], to: Narrowing, personId: string): ProjectRow[] =>
  projects.filter((project) => IS_WITHIN[to](project, personId));

/** "panel 3 holds it back", where one panel of a mosaic does. */
export const heldBackWords = ({
  heldBackBy,
  complete,
  name,
}: Pick<ProjectRow, 'heldBackBy' | 'complete' | 'name'>): string =>
  heldBackBy && !complete ? `${panelWithin(name, heldBackBy)} holds it back` : '';
