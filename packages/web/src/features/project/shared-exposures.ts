// Sharing of exposures in words.
import type { JoinCandidate, ProjectJoin } from '@meridiem/contract';
import { percent } from '../../words/format.ts';

const HIDDEN = 'a private project';

export const nameOfCandidate = ({ name, ownerName }: Pick<JoinCandidate, 'name' | 'ownerName'>): string =>
  name === null ? 'A private project' : `${name} (${ownerName})`;

export const nameOfJoined = ({
  otherName,
  otherOwnerName,
}: Pick<ProjectJoin, 'otherName' | 'otherOwnerName'>): string =>
  otherName === null ? HIDDEN : `${otherName} (${otherOwnerName})`;

const goals = (count: number): string => (count === 1 ? '1 goal' : `${count} goals`);
const exposures = (count: number): string => (count === 1 ? '1 exposure' : `${count} exposures`);

/** How a candidate lies to this project's field. */
export const candidateWords = ({ coverage, goals: count }: Pick<JoinCandidate, 'coverage' | 'goals'>): string =>
  count > 0
    ? `frames ${percent(coverage)} of the same field and wants the same exposures for ${goals(count)}`
    : coverage >= 0.9
      ? `frames ${percent(coverage)} of the same field, but no goal asks for the same exposures: filter, length, binning and mode must agree`
      : `frames ${percent(coverage)} of the same field; exposures can be shared from 90 %`;

/** How a join stands, for the project that is looked at. */
export function joinWords(join: ProjectJoin): string {
  const other = nameOfJoined(join);
  const charge = `of each shared exposure this project is charged ${percent(join.ownShare)}`;
  switch (join.state) {
    case 'accepted':
      return `Shares exposures with ${other}: ${exposures(join.exposures)} so far, ${goals(join.goals)} ${join.areBothGranted ? 'from now on' : 'once both projects are granted'}; ${charge}.`;
    case 'open':
      return join.isOffered
        ? `Offered to share exposures with ${other}; ${charge}. Not answered yet.`
        : `The owner of ${other} offers to share exposures for ${goals(join.goals)}; ${charge}.`;
    case 'ended':
      return `Shared exposures with ${other}: ${exposures(join.exposures)}, credited to both for good.`;
    case 'declined':
      return `Sharing with ${other} was declined.`;
    case 'withdrawn':
      return `The offer to share with ${other} was withdrawn.`;
  }
}

/** A share typed in per cent.
 * @returns the share, null where it isn't one from 5 to 95 */
export function typedShare(typed: string): number | null {
  const value = Number(typed.trim().replace(/\s*%$/, '').replace(',', '.'));
  return typed.trim() !== '' && value >= 5 && value <= 95 ? value / 100 : null;
}
