// A framing taken back: panels point where they pointed, added ones go, dropped ones return, and every credit is as it was.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';
import { panelsOf } from '../projects/index.ts';
import type { ReframingRecord } from './reframe.ts';
import type { PanelPointing } from './repository.ts';
import {
  countMovedCredit,
  countOtherCredit,
  dropPanels,
  restoreAttributions,
  restorePointing,
  withdrawAttributions,
} from './repository.ts';

export async function takeBackReframing(
  queries: Queries,
  { observatoryId }: Viewer,
  change: StoredChange,
): Promise<void> {
  const pointings = change.before.pointings as readonly PanelPointing[];
  const after = change.after as unknown as ReframingRecord;
  const panels = await panelsOf(queries, observatoryId, change.entityId);
  await refuseBuiltUpon(queries, panels, after);
  await withdrawAttributions(queries, after.inserted);
  await restoreAttributions(queries, after.withdrawn);
  await dropPanels(queries, after.dropped, false);
  await dropPanels(queries, after.added, true);
  for (const pointing of pointings) await restorePointing(queries, pointing);
}

/** Refused where the panels have moved on, or exposures were taken or credited since. */
async function refuseBuiltUpon(
  queries: Queries,
  panels: Awaited<ReturnType<typeof panelsOf>>,
  { pointings, added, withdrawn, inserted }: ReframingRecord,
): Promise<void> {
  const isAsLeft =
    panels.length === pointings.length &&
    pointings.every((left) =>
      panels.some(
        (panel) =>
          panel.id === left.panelId &&
          panel.raDeg === left.raDeg &&
          panel.decDeg === left.decDeg &&
          panel.positionAngleDeg === left.positionAngleDeg,
      ),
    );
  if (!isAsLeft) throw new ServiceError('CONFLICT', 'The project has been reframed since; undo that first');
  const since = await countOtherCredit(queries, { panelIds: added }, inserted);
  if (since > 0)
    throw new ServiceError(
      'CONFLICT',
      `${since} exposures have been taken for the new panels since; frame it back by hand`,
    );
  if ((await countMovedCredit(queries, withdrawn, inserted)) > 0)
    throw new ServiceError('CONFLICT', 'Exposures have been matched again since; undo that first');
}
