// When the projects of two members would end, before they swap hours and after it.
import type { SwapDatesAnswer, TriedSwap } from '@meridiem/contract';
import type { SeasonDifference, SeasonOptions } from '@meridiem/core';
import { notAllowed, notFound, refused } from '../../errors.ts';
import type { Answer, AskedFor } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { SeasonParts } from './season.ts';
import { begun, COMPARED, keyed, searchOptions } from './season.ts';
import type { SeasonFacts } from './season-facts.ts';
import { seasonFacts } from './season-facts.ts';

export function createSwapDates(parts: SeasonParts) {
  const { jobs } = parts;

  async function asked(viewer: Viewer, swap: TriedSwap): Promise<{ facts: SeasonFacts; request: AskedFor }> {
    if (viewer.role !== 'coordinator' && ![swap.fromId, swap.toId].includes(viewer.personId))
      throw notAllowed('Only its two members and coordinators see what a swap does');
    if (swap.fromId === swap.toId) throw refused('toId', 'A swap is between two members');
    const facts = await seasonFacts(parts, viewer.observatoryId);
    if (!facts.observatory.rigs.some(({ id }) => id === swap.rigId)) throw notFound('rig');
    const asIs = facts.requestWith();
    for (const field of ['fromId', 'toId'] as const)
      if (!asIs.shares!.standings.some(({ memberId }) => memberId === swap[field]))
        throw refused(field, 'Choose a member who can own projects');
    const options: SeasonOptions = searchOptions(parts, COMPARED, facts);
    const swapped = { changed: facts.requestWith({ swapped: swap }), asIs };
    return { facts, request: keyed('swapDates', { swapped, options }) };
  }

  return {
    async swapDates(viewer: Viewer, swap: TriedSwap): Promise<SwapDatesAnswer> {
      const { facts, request } = await asked(viewer, swap);
      return shownTo(viewer, swap, await jobs.read<SeasonDifference>(viewer, request), facts);
    },

    async askSwapDates(viewer: Viewer, swap: TriedSwap): Promise<SwapDatesAnswer> {
      const { facts, request } = await asked(viewer, swap);
      return shownTo(
        viewer,
        swap,
        await jobs.ask<SeasonDifference>(viewer, await begun(parts, viewer, request)),
        facts,
      );
    },
  };
}

/** The two members' projects, another's private one without its name; of everybody else's only how many end later. */
function shownTo(
  viewer: Viewer,
  { fromId, toId }: TriedSwap,
  { result, job }: Answer<SeasonDifference>,
  { rows }: SeasonFacts,
): SwapDatesAnswer {
  if (!result) return { dates: null, job };
  const known = new Map(rows.map((row) => [row.projectId, row]));
  const isOfBoth = (projectId: string): boolean => [fromId, toId].includes(known.get(projectId)?.ownerId ?? '');
  const ends = result.delays
    .filter(({ projectId }) => isOfBoth(projectId))
    .map(({ projectId, ...end }) => {
      const row = known.get(projectId)!;
      const isSeen = isVisible(row, viewer);
      return { ...end, ownerId: row.ownerId, projectId: isSeen ? projectId : null, name: isSeen ? row.projectName : null }; // prettier-ignore
    });
  const others = result.delays.filter(({ projectId, isNoticeable }) => isNoticeable && !isOfBoth(projectId));
  const { draws, lastNight } = result;
  return { dates: { ends, othersDelayed: others.length, draws, lastNight }, job };
}
