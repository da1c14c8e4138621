// What people say to a night, and what of it has been carried out.
import type { StandingOrders, TestShot, TestShotEnd } from '@meridiem/contract';

/** Orders by hand as the night carries them out. */
export interface HandOrders {
  readonly isHeld: boolean;
  readonly isLast: boolean;
  readonly isLeft: boolean;
  /** The target has been left. */
  leave(): void;
  /** Nobody has lifted the hold: the night goes on by itself. */
  endHold(): void;
  /** What is to be pointed at, or photographed, while the night is held. */
  readonly testShot: TestShot | null;
  endTestShot(end: TestShotEnd): void;
}

/** @param standing the orders that stand, as last heard
 * @param carriedOut told each order that was carried out
 * @param shotEnded told what came of each test shot */
export function handOrders(
  standing: () => StandingOrders,
  carriedOut: (id: string) => void,
  shotEnded: (end: TestShotEnd) => void,
): HandOrders {
  const past = new Set<string>();
  const stands = (id: string | null): boolean => id !== null && !past.has(id);
  return {
    get isHeld() {
      return stands(standing().holdId);
    },
    get isLast() {
      return standing().isLast;
    },
    get isLeft() {
      return stands(standing().leaveId);
    },
    leave() {
      const { leaveId } = standing();
      if (!leaveId) return;
      past.add(leaveId);
      carriedOut(leaveId);
    },
    endHold() {
      const { holdId } = standing();
      if (holdId) past.add(holdId);
    },
    get testShot() {
      const { testShot } = standing();
      return testShot && stands(testShot.id) ? testShot : null;
    },
    endTestShot(end) {
      past.add(end.shotId);
      shotEnded(end);
    },
  };
}
