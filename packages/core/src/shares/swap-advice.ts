// Suggested swaps: two members who each have too much of the sky that the other one works in.
import type { SharedSky } from './entitlement.ts';

/** Hours that a member has not used of what they were entitled to; below 0 where they used more. */
export interface UnusedHours {
  readonly memberId: string;
  readonly rigId: string;
  readonly skyClass: SharedSky;
  readonly unusedHours: number;
}

export interface SwapAdvice {
  readonly rigId: string;
  /** Gives moonlit hours, gets moonless ones. */
  readonly givesBrightId: string;
  readonly givesDarkId: string;
  readonly brightHours: number;
  readonly darkHours: number;
}

/** Less is not worth the words. */
const LEAST_HOURS = 0.5;

/** Pairs of one rig of whom one has moonlit hours left and lacks moonless ones, and the other the reverse; the largest first. */
export function swapAdvice(rows: readonly UnusedHours[]): SwapAdvice[] {
  const of = (rigId: string, memberId: string, sky: SharedSky): number =>
    rows.find((row) => row.rigId === rigId && row.memberId === memberId && row.skyClass === sky)?.unusedHours ?? 0;
  const members = [...new Set(rows.map(({ memberId }) => memberId))];
  const rigs = [...new Set(rows.map(({ rigId }) => rigId))];
  return rigs
    .flatMap((rigId) =>
      members.flatMap((a) =>
        members.flatMap((b): SwapAdvice[] => {
          const brightHours = Math.min(of(rigId, a, 'bright'), -of(rigId, b, 'bright'));
          const darkHours = Math.min(-of(rigId, a, 'dark'), of(rigId, b, 'dark'));
          const isGain = a !== b && brightHours >= LEAST_HOURS && darkHours >= LEAST_HOURS;
          return isGain ? [{ rigId, givesBrightId: a, givesDarkId: b, brightHours, darkHours }] : [];
        }),
      ),
    )
    .toSorted((a, b) => b.brightHours + b.darkHours - (a.brightHours + a.darkHours));
}
