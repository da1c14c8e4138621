// Fetching a picture of the sky from its source: an allowed host, no redirects, bounded in size and time.
import type { PictureFrame } from '@meridiem/core';
import { refused, ServiceError } from '../../errors.ts';

const MOST_BYTES = 8 * 1_048_576;
const LONGEST_MS = 60_000;
const PLACES = ['{ra}', '{dec}', '{width}', '{px}'] as const;

export interface Picture {
  readonly bytes: Buffer;
  readonly type: 'image/png' | 'image/jpeg';
}

/** @throws VALUE_REFUSED in words that say what is missing */
export function checkTemplate(template: string, hosts: readonly string[]): void {
  const missing = PLACES.filter((place) => !template.includes(place));
  if (missing.length > 0) throw refused('template', `The address must have ${missing.join(', ')} in it`);
  let address: URL;
  try {
    address = new URL(addressOf(template, { centre: { raDeg: 0, decDeg: 0 }, widthDeg: 1 }, 64));
  } catch {
    throw refused('template', 'This is no address');
  }
  if (address.protocol !== 'https:' && address.protocol !== 'http:')
    throw refused('template', 'The address must begin with https:// or http://');
  if (!hosts.includes(address.host))
    throw refused(
      'template',
      hosts.length === 0
        ? 'No other source is allowed here: the hosts it may be on are set where the server is started'
        : `${address.host} is not allowed here; allowed are ${hosts.join(', ')}`,
    );
}

export const addressOf = (template: string, { centre, widthDeg }: PictureFrame, px: number): string =>
  template
    .replaceAll('{ra}', centre.raDeg.toFixed(6))
    .replaceAll('{dec}', centre.decDeg.toFixed(6))
    .replaceAll('{width}', widthDeg.toFixed(6))
    .replaceAll('{px}', String(px));

/** @throws NOT_READY where the source is silent or sends no picture */
export async function fetchPicture(address: string): Promise<Picture> {
  const answer = await fetch(address, { redirect: 'error', signal: AbortSignal.timeout(LONGEST_MS) }).catch(() => null);
  if (!answer?.ok || !answer.body) throw silent();
  const type = answer.headers.get('content-type')?.split(';')[0].trim();
  if (type !== 'image/png' && type !== 'image/jpeg') throw silent();
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of answer.body as unknown as AsyncIterable<Uint8Array>) {
    size += part.length;
    if (size > MOST_BYTES) throw silent();
    parts.push(part);
  }
  return { bytes: Buffer.concat(parts), type };
}

const silent = (): ServiceError =>
  new ServiceError('NOT_READY', 'The source of sky pictures sends none just now; the drawn map stays');
