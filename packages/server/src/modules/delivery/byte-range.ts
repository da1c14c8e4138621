// Which bytes of an answer are asked for. Source: RFC 9110, section 14.

export interface ByteRange {
  readonly start: number;
  /** Not included. */
  readonly end: number;
}

/** One range of bytes; null where all of it is meant: nothing asked, several ranges, or the answer has changed since.
 * @param ifRange the tag under which an earlier part was read
 * @returns 'beyond' where it begins after the last byte */
export function byteRange(
  asked: string | undefined,
  ifRange: string | undefined,
  { sizeBytes, tag }: { readonly sizeBytes: number; readonly tag: string },
): ByteRange | 'beyond' | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(asked ?? '');
  if (!match || (match[1] === '' && match[2] === '') || (ifRange !== undefined && ifRange !== `"${tag}"`)) return null;
  if (match[1] === '') return { start: Math.max(0, sizeBytes - Number(match[2])), end: sizeBytes };
  const start = Number(match[1]);
  const end = match[2] === '' ? sizeBytes : Math.min(sizeBytes, Number(match[2]) + 1);
  if (start >= sizeBytes) return 'beyond';
  return end > start ? { start, end } : null;
}
