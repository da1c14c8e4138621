// The protocol's binary pictures: a header of eleven 32-bit numbers, then the pixels column by column.
import { DeviceError } from './device-error.ts';

export interface CameraPicture {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Row by row, the first row first. */
  readonly pixels: Uint16Array;
}

const HEADER_BYTES = 44;
/** Numbers of the element types that cameras send. */
const ELEMENTS: Readonly<Record<number, { bytes: number; at: (view: DataView, offset: number) => number }>> = {
  1: { bytes: 2, at: (view, offset) => view.getInt16(offset, true) },
  2: { bytes: 4, at: (view, offset) => view.getInt32(offset, true) },
  6: { bytes: 1, at: (view, offset) => view.getUint8(offset) },
  8: { bytes: 2, at: (view, offset) => view.getUint16(offset, true) },
  9: { bytes: 4, at: (view, offset) => view.getUint32(offset, true) },
};
const LARGEST = 65_535;

/** @throws DeviceError where the bytes are no picture in one plane */
export function readImageBytes(device: string, bytes: Uint8Array): CameraPicture {
  const garbled = (words: string): DeviceError => new DeviceError(device, 'garbled', words);
  if (bytes.length < HEADER_BYTES) throw garbled('the picture is cut off');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [version, errorNumber, , , dataStart, , sent, rank, widthPx, heightPx] = Array.from({ length: 11 }, (_, i) =>
    view.getInt32(4 * i, true),
  );
  if (version !== 1) throw garbled(`version ${version} of pictures is not known`);
  if (errorNumber !== 0) throw new DeviceError(device, 'refused', new TextDecoder().decode(bytes.subarray(dataStart)));
  if (rank !== 2) throw garbled(`a picture of ${rank} dimensions is not read`);
  const element = ELEMENTS[sent];
  if (!element) throw garbled(`pixels of type ${sent} are not read`);
  if (widthPx < 1 || heightPx < 1 || bytes.length < dataStart + element.bytes * widthPx * heightPx)
    throw garbled('the picture is cut off');
  const pixels = new Uint16Array(widthPx * heightPx);
  let offset = dataStart;
  for (let x = 0; x < widthPx; x++)
    for (let y = 0; y < heightPx; y++, offset += element.bytes)
      pixels[y * widthPx + x] = Math.max(0, Math.min(LARGEST, element.at(view, offset)));
  return { widthPx, heightPx, pixels };
}

/** Pixels row by row as the protocol sends them. */
export function writeImageBytes({ widthPx, heightPx, pixels }: CameraPicture): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(HEADER_BYTES + 2 * pixels.length);
  const view = new DataView(bytes.buffer);
  for (const [i, value] of [1, 0, 0, 0, HEADER_BYTES, 2, 8, 2, widthPx, heightPx, 0].entries())
    view.setInt32(4 * i, value, true);
  let offset = HEADER_BYTES;
  for (let x = 0; x < widthPx; x++)
    for (let y = 0; y < heightPx; y++, offset += 2) view.setUint16(offset, pixels[y * widthPx + x], true);
  return bytes;
}
