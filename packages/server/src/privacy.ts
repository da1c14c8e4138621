// Who may see a project by name: everyone, unless it is private; then its owner and the coordinators.
import type { Role } from '@meridiem/contract';

interface Onlooker {
  readonly role: Role;
  readonly personId: string;
}

/** What stands in place of a private project's name, panels and owner. */
export const RESERVED = 'reserved';

/** A condition in SQL on a row of `projects`.
 * @param personPlace the place of the viewer's id among the bound values, as "$3" */
export const maySee = (alias: string, personPlace: string, role: Role): string =>
  `(${role === 'coordinator'} OR NOT ${alias}.private OR ${alias}.owner_id = ${personPlace}::uuid)`;

/** The same for a row already read. */
export const isVisible = (
  project: { readonly private: boolean; readonly ownerId: string },
  viewer: Onlooker,
): boolean => !project.private || viewer.role === 'coordinator' || project.ownerId === viewer.personId;

interface NamedGoal {
  readonly private: boolean;
  readonly ownerId: string;
  readonly ownerName: string;
  readonly projectName: string;
  readonly panelName: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
}

/** A goal as the viewer may know it: one of somebody's private project takes its time without a name or a place. */
export const asSeenBy =
  (viewer: Onlooker) =>
  <T extends NamedGoal>(goal: T): T =>
    isVisible(goal, viewer)
      ? goal
      : { ...goal, ownerName: RESERVED, projectName: RESERVED, panelName: RESERVED, raDeg: null, decDeg: null };
