// Where the exposures of a project looked: as their headers say, else as their panel was framed when they were taken.
import { fieldOf } from '@meridiem/core';
import type { SkyField } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { Optics, PanelPointing, TakenRow } from './repository.ts';
import { takenRows } from './repository.ts';

export interface CreditedExposure extends Omit<TakenRow, keyof Optics | keyof Omit<PanelPointing, 'panelId'>> {
  /** null where nobody knows where it looked. */
  readonly field: SkyField | null;
}

export async function creditedExposures(queries: Queries, projectId: string): Promise<CreditedExposure[]> {
  const rows = await takenRows(queries, projectId);
  return rows.map(
    ({ raDeg, decDeg, positionAngleDeg, focalLengthMm, apertureMm, pixelUm, widthPx, heightPx, ...row }) => {
      const { widthDeg, heightDeg } = fieldOf({ focalLengthMm, apertureMm, pixelUm, widthPx, heightPx });
      const field =
        raDeg === null || decDeg === null ? null : { centre: { raDeg, decDeg }, positionAngleDeg, widthDeg, heightDeg };
      return { ...row, field };
    },
  );
}
