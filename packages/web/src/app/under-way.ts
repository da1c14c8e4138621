// What is being saved: undo waits for it, so that it takes back the newest change and not the one before.

const saves = new Set<Promise<unknown>>();

/** Counts a save, whether it succeeds or not, until it has settled. */
export function underWay<T>(save: Promise<T>): Promise<T> {
  const settled: Promise<void> = save.then(
    () => void saves.delete(settled),
    () => void saves.delete(settled),
  );
  saves.add(settled);
  return save;
}

/** Settles once nothing is being saved any more. */
export async function allSaved(): Promise<void> {
  while (saves.size > 0) await Promise.all(saves);
}
