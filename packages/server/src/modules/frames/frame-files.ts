// Frames on this server's disk.
import { stat } from 'node:fs/promises';

/** @returns the file's size; null where it is not there */
export const sizeOf = async (path: string): Promise<number | null> =>
  stat(path).then(
    ({ size }) => size,
    () => null,
  );
