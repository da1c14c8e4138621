// Hand changes in the core's ids to ones with names: the same for the server's answer and for a page that plans by itself.
import type { BrokenWish, NightWish } from '@meridiem/core';
import type { PlanName } from './hand-changes.ts';
import type { ShownWish } from './nights.ts';

/** Those whose goal or panel is known by name. */
export const shownWishes = (
  wishes: readonly NightWish[],
  names: readonly Pick<PlanName, 'goalId' | 'panelId' | 'panelName' | 'projectId' | 'filterLetter'>[],
  broken: readonly BrokenWish[],
): ShownWish[] =>
  wishes.flatMap((wish) => {
    const pin = wish.kind === 'pin' ? wish : null;
    const name = names.find(({ goalId, panelId }) =>
      wish.kind === 'pin' ? goalId === wish.goalId : panelId === wish.panelId,
    );
    if (!name) return [];
    const fault = broken.find(({ wishId }) => wishId === wish.id);
    return [
      {
        id: wish.id,
        kind: wish.kind,
        panelId: name.panelId,
        panelName: name.panelName,
        projectId: name.projectId,
        goalId: pin && pin.goalId,
        filterLetter: pin && name.filterLetter,
        utcMs: wish.kind === 'pin' ? wish.startUtcMs : wish.kind === 'ban' ? null : wish.utcMs,
        count: pin && pin.count,
        broken: fault ? { code: fault.code, kept: fault.kept, asked: fault.asked } : null,
      },
    ];
  });
