// A light for flats that the telescope must point at: there under the closed roof, and parked again whatever has happened.
import type { NightContext } from './context.ts';
import { park } from './site-acts.ts';

/** @param use is left out where the telescope may not move under the closed roof */
export async function atFlatPanel(context: NightContext, use: () => Promise<void>): Promise<void> {
  const { journal, devices, deviceRun, rules } = context;
  const panel = { altitudeDeg: rules.flatPanelAltitudeDeg, azimuthDeg: rules.flatPanelAzimuthDeg };
  if (panel.altitudeDeg < 0) return use();
  if (!deviceRun.roofClears)
    return journal.note('No flats: their light must be pointed at, and this roof may not close over a telescope there');
  try {
    await journal.step('flat setting', 'pointing at the light', async (until) => {
      await devices.mount.unpark();
      await devices.mount.setTracking(false);
      await devices.mount.beginSlewToDirection(panel);
      await until(async () => !(await devices.mount.state()).isSlewing);
    });
    await use();
  } finally {
    await park(context);
  }
}
