// One-time links as rows: the hash of each, what it is for, until when, and whether it has been used.
import type { Role } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';

export type LinkKind = 'found' | 'invite' | 'reset';

export interface Invited {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly timeZone: string;
  readonly fitsObserver: string | null;
}

export interface OpenLink {
  readonly id: string;
  readonly observatoryId: string;
  readonly kind: 'invite' | 'reset';
  readonly personId: string | null;
  readonly invited: Invited | null;
}

export interface NewLink {
  readonly observatoryId?: string;
  readonly kind: LinkKind;
  readonly sha256: string;
  readonly personId?: string;
  readonly invited?: Invited;
  readonly madeBy?: string;
  readonly expiresUtcMs: number;
}

export const insertLink = ({ models }: Queries, { sha256, expiresUtcMs, ...link }: NewLink): Promise<unknown> =>
  models.OneTimeLink.create({
    ...link,
    tokenSha256: Buffer.from(sha256, 'hex'),
    expires: new Date(expiresUtcMs),
  });

/** The link of a token, unused and not expired; it may be held until the transaction ends. */
export async function unusedLink(
  { models }: Queries,
  sha256: string,
  kinds: readonly LinkKind[],
  { isHeld }: { isHeld: boolean },
): Promise<OpenLink | null> {
  const row = await models.OneTimeLink.findOne({
    where: {
      tokenSha256: Buffer.from(sha256, 'hex'),
      kind: { [Op.in]: [...kinds] },
      used: null,
      expires: { [Op.gt]: NOW },
    },
    lock: isHeld,
  });
  return row as unknown as OpenLink | null;
}

/** Links that are open no more, by what they are for.
 * @returns how many that were */
export async function voidLinks(
  { models }: Queries,
  where: { id: string; observatoryId?: string; kind?: LinkKind } | { kind: LinkKind; personId?: string },
): Promise<number> {
  const [count] = await models.OneTimeLink.update({ used: NOW }, { where: { ...where, used: null } });
  return count;
}
