// The sun at noon, in words.

/** Which half of the sky the sun crosses at noon: the plainest sign of a wrong hemisphere. */
export const noonWords = (noonSunAzimuthDeg: number): string =>
  Math.abs(noonSunAzimuthDeg - 180) < 90 ? 'The noon sun is in the south' : 'The noon sun is in the north';
