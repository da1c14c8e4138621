// What names a frame's data: the bytes as they lie in the file, and the pixels whatever the file does to them.
import type { FitsCard } from '@meridiem/core';
import { pixelParts } from '@meridiem/core';
import { unzip } from './unzip.ts';

/** An image's data unit with the header that describes it. */
export interface FrameData {
  readonly bytes: Blob;
  readonly cards: readonly FitsCard[];
}

export interface FrameHashes {
  /** SHA-256 of the data unit as it lies there, hexadecimal. */
  readonly dataSha256: string;
  /** SHA-256 over the SHA-256 of each 2²⁰ pixels, written as real numbers of single precision, lowest byte first; null where the packing loses something or isn't read. */
  readonly pixelsSha256: string | null;
}

export const hashesOf = async (data: FrameData): Promise<FrameHashes> => ({
  dataSha256: await sha256Of(await data.bytes.arrayBuffer()),
  pixelsSha256: await pixelsSha256Of(data),
});

async function pixelsSha256Of({ bytes, cards }: FrameData): Promise<string | null> {
  const digests: ArrayBuffer[] = [];
  try {
    const parts = pixelParts(cards, {
      read: async (start, length) => bytesOf(bytes.slice(start, start + length)),
      unzip: async (packed) => bytesOf(await unzip(new Blob([new Uint8Array(packed)]))),
    });
    for await (const part of parts) digests.push(await crypto.subtle.digest('SHA-256', new Float32Array(part)));
  } catch {
    return null;
  }
  return sha256Of(await new Blob(digests).arrayBuffer());
}

const bytesOf = async (blob: Blob): Promise<Uint8Array> => new Uint8Array(await blob.arrayBuffer());

async function sha256Of(data: ArrayBuffer): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', data);
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
}
