// How many exposures fit: tonight, in so many nights, for so many hours.

/** Exposures that fit into usable time, a change of target paid once a night.
 * @param usableSec per night */
export const exposuresThatFit = (
  usableSec: readonly number[],
  { cycleSec, exposureSec, changeSec }: { cycleSec: number; exposureSec: number; changeSec: number },
): number =>
  usableSec.reduce(
    (sum, sec) => sum + Math.max(0, Math.floor((sec - changeSec - exposureSec + 1e-6) / cycleSec) + 1),
    0,
  );
