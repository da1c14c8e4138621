// Gzip undone, up to a size that a frame can have.

/** A frame of noise shrinks to a half, an empty one to a thousandth; unpacked data up to this size are read whatever they are. */
const MOST_TIMES = 200;
const SMALL_BYTES = 64 * 1_048_576;

/** @throws where the bytes are no gzip, or hold far more than a frame packed as tightly as frames are */
export const unzip = (packed: Blob): Promise<Blob> =>
  new Response(
    packed
      .stream()
      .pipeThrough(new DecompressionStream('gzip'))
      .pipeThrough(upTo(Math.max(SMALL_BYTES, packed.size * MOST_TIMES))),
  ).blob();

function upTo(mostBytes: number): TransformStream<Uint8Array, Uint8Array> {
  let size = 0;
  return new TransformStream({
    transform(part, controller) {
      size += part.length;
      if (size > mostBytes)
        controller.error(new Error('Unpacked it is far larger than a frame can be; it is not read'));
      else controller.enqueue(part);
    },
  });
}
