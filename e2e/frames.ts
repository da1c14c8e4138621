// Small FITS frames for the browser to import.
const CARD = 80;
const BLOCK = 2880;

export interface FrameWish {
  readonly name: string;
  readonly raDeg: number;
  readonly decDeg: number;
  readonly filter: string;
  readonly startIso: string;
  readonly exposureSec: number;
  readonly camera: string;
  /** Frames with equal pixels are the same exposure. */
  readonly pixel: number;
}

/** A 4 × 4 frame as a file for a file chooser. */
export function frameFile(wish: FrameWish): { name: string; mimeType: string; buffer: Buffer } {
  const cards = [
    'SIMPLE  =                    T',
    'BITPIX  =                   16',
    'NAXIS   =                    2',
    'NAXIS1  =                    4',
    'NAXIS2  =                    4',
    `IMAGETYP= 'LIGHT   '`,
    `INSTRUME= '${wish.camera}'`,
    `FILTER  = '${wish.filter}'`,
    `EXPTIME = ${wish.exposureSec}`,
    `DATE-OBS= '${wish.startIso}'`,
    `RA      = ${wish.raDeg} / [deg]`,
    `DEC     = ${wish.decDeg} / [deg]`,
    'END',
  ];
  const header = cards.map((card) => card.padEnd(CARD)).join('');
  const data = Buffer.alloc(BLOCK, 0);
  for (let i = 0; i < 16; i++) data.writeInt16BE(wish.pixel + i, 2 * i);
  const padded = header.padEnd(Math.ceil(header.length / BLOCK) * BLOCK);
  return {
    name: wish.name,
    mimeType: 'application/fits',
    buffer: Buffer.concat([Buffer.from(padded, 'latin1'), data]),
  };
}
