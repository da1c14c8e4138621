// Who may see a project by name: everyone, unless it is private; then its owner and the coordinators.
import type { Role } from '@meridiem/contract';

/** What stands in place of a private project's name, panels and owner. */
export const RESERVED = 'reserved';

/** A condition in SQL on a row of `projects`.
 * @param personPlace the place of the viewer's id among the bound values, as "$3" */
export const maySee = (alias: string, personPlace: string, role: Role): string =>
  `(${role === 'coordinator'} OR NOT ${alias}.private OR ${alias}.owner_id = ${personPlace}::uuid)`;

/** The same for a row already read. */
export const isVisible = (
  project: { readonly private: boolean; readonly ownerId: string },
  viewer: { readonly role: Role; readonly personId: string },
): boolean => !project.private || viewer.role === 'coordinator' || project.ownerId === viewer.personId;
