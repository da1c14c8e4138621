// A revision is made on the one before it: somebody else's in between is looked at first.
import { ServiceError } from '../../errors.ts';

/** @throws CONFLICT */
export function refuseOldBase(currentSeq: number, basedOnSeq: number): void {
  if (currentSeq === basedOnSeq) return;
  throw new ServiceError(
    'CONFLICT',
    `This has been changed since (revision ${currentSeq}); look at it and change it again`,
    { details: { currentSeq } },
  );
}
