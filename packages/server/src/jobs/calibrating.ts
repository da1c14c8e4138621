// The worker's side of calibrated pictures: means of sets, kept as they are made, for one picture after the other needs them.
import type { Picture, RealPicture } from '@meridiem/core';
import { calibrated, levelledFlat, MeanFrame } from '@meridiem/core';
import { keptBytes } from '../kept-bytes.ts';

/** Paths of frames; where there are none of a kind, it is done without. */
export interface CalibratedBy {
  readonly dark: readonly string[];
  readonly flat: readonly string[];
  readonly flatDark: readonly string[];
}

export interface Reading {
  readonly cacheFolder: string | null;
  readonly read: (path: string) => Promise<Picture>;
}

const MADE_BY = 'mean 1';

/** @throws CALIBRATION_UNUSABLE where frames are not of one size */
export async function calibratedBy(light: Picture, paths: CalibratedBy, reading: Reading): Promise<RealPicture> {
  const dark = await meanOf('dark', paths.dark, reading, async (picture) => picture);
  return calibrated(light, paths.flat.length === 0 ? { dark } : { dark, flat: await flatOf(paths, reading) });
}

async function flatOf({ flat, flatDark }: CalibratedBy, reading: Reading): Promise<RealPicture> {
  let dark: Promise<RealPicture> | null = null;
  const without = `flat without ${flatDark.join()}`;
  return meanOf(without, flat, reading, async (picture) => {
    if (flatDark.length > 0) dark ??= meanOf('dark', flatDark, reading, async (one) => one);
    return levelledFlat(picture, await dark);
  });
}

async function meanOf(
  how: string,
  paths: readonly string[],
  { cacheFolder, read }: Reading,
  prepare: (picture: Picture) => Promise<Picture>,
): Promise<RealPicture> {
  const bytes = await keptBytes(
    cacheFolder,
    { under: 'means', ending: 'f32', of: [MADE_BY, how, ...paths] },
    async () => {
      const mean = new MeanFrame();
      for (const path of paths) mean.add(await prepare(await read(path)));
      return packed(mean.mean());
    },
  );
  return unpacked(bytes);
}

/** Sides first, then the pixels. */
function packed({ widthPx, heightPx, pixels }: RealPicture): Uint8Array {
  const whole = new Float32Array(2 + pixels.length);
  whole.set([widthPx, heightPx]);
  whole.set(pixels, 2);
  return new Uint8Array(whole.buffer);
}

function unpacked(bytes: Uint8Array): RealPicture {
  // A file's bytes may begin anywhere in memory; numbers of four bytes may not.
  const whole = new Float32Array(bytes.slice().buffer);
  return { widthPx: whole[0], heightPx: whole[1], pixels: whole.subarray(2) };
}
