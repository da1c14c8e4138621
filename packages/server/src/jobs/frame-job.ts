// The worker's side of pictures: a file in, what its pixels say or a drawing of it out.
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import type { FrameFigures } from '@meridiem/contract';
import type { FramePicture, PartName } from '@meridiem/core';
import { brightened, histogram, measurePicture, partNamed, readFramePicture, skyBackground } from '@meridiem/core';
import { greyPng } from './grey-png.ts';

export interface DrawJob {
  readonly path: string;
  readonly part: PartName;
  readonly px: number;
}

const BINS = 96;
/** What sixteen bits hold; a file with larger values is spread over what it has. */
const SIXTEEN_BITS = 65_535;

export async function drawJob({ path, part, px }: DrawJob): Promise<Uint8Array> {
  const picture = await pictureOf(path);
  return greyPng(brightened(picture, skyBackground(picture), partNamed(picture, part, px), px));
}

export async function measureJob({ path }: Pick<DrawJob, 'path'>): Promise<FrameFigures> {
  const picture = await pictureOf(path);
  let to = SIXTEEN_BITS;
  for (const value of picture.pixels) if (value > to) to = value;
  const { widthPx, heightPx } = picture;
  const { counts, saturatedShare } = histogram(picture, { bins: BINS, to });
  return { widthPx, heightPx, ...measurePicture(picture), histogram: { to, counts: [...counts], saturatedShare } };
}

const unzip = promisify(gunzip);
const pictureOf = async (path: string): Promise<FramePicture> =>
  (await readFramePicture(await readFile(path), (packed) => unzip(packed))).picture;
