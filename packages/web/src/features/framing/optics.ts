// What is framed with: a rig as it is, a part of its sensor, or another focal length to see what it would show.
import type { Recipe, Rig } from '@meridiem/contract';
import type { SensorSides } from '@meridiem/core';
import { readingPart } from '@meridiem/core';
import type { AddressChanges } from '../../app/address.ts';

export interface FramedOptics {
  /** With the part and the focal length that are framed with in place of its own. */
  readonly rig: Rig;
  /** The middle of the sensor that is read; null for all of it. */
  readonly part: SensorSides | null;
  /** A focal length that the rig does not have, in mm; null where it is framed with as it is. */
  readonly triedFocalMm: number | null;
}

const [SHORTEST_MM, LONGEST_MM] = [5, 30_000];

export function opticsFrom(search: URLSearchParams, rig: Rig): FramedOptics {
  const [widthPx, heightPx] = (search.get('part') ?? '').split('x').map(Number);
  const fits = widthPx >= 1 && heightPx >= 1 && widthPx <= rig.widthPx && heightPx <= rig.heightPx;
  const part = fits ? { widthPx, heightPx } : null;
  const focalMm = Number(search.get('focal'));
  const triedFocalMm =
    focalMm >= SHORTEST_MM && focalMm <= LONGEST_MM && focalMm !== rig.focalLengthMm ? focalMm : null;
  return {
    rig: { ...readingPart(rig, part), focalLengthMm: triedFocalMm ?? rig.focalLengthMm },
    part,
    triedFocalMm,
  };
}

/** @throws in words where the text is no focal length */
export function focalAddress(text: string, rig: Rig): AddressChanges {
  const focalMm = Number(text.replace(/\s*mm$/, '').replace(',', '.'));
  if (!(focalMm >= SHORTEST_MM && focalMm <= LONGEST_MM))
    throw new Error(`Give a focal length from ${SHORTEST_MM} to ${LONGEST_MM} mm`);
  return { focal: focalMm === rig.focalLengthMm ? null : String(focalMm) };
}

export const partText = ({ widthPx, heightPx }: SensorSides): string => `${widthPx}x${heightPx}`;

/** The parts of its sensor that a rig's light recipes read, each once, largest first. */
export function partsRead(rig: Rig, recipes: readonly Recipe[]): SensorSides[] {
  const parts = new Map<string, SensorSides>();
  for (const { rigId, kind, region } of recipes)
    if (rigId === rig.id && kind === 'light' && region) parts.set(partText(region), region);
  return [...parts.values()].sort((a, b) => b.widthPx * b.heightPx - a.widthPx * a.heightPx);
}
