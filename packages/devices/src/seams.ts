// Two small seams of our own over HTTP with JSON, for what the device protocol has no words for: guider and plate solver. See docs/devices.md.
import { DEFAULT_TIMEOUT_MS } from './alpaca.ts';
import type { CameraPicture } from './image-bytes.ts';
import { writeImageBytes } from './image-bytes.ts';
import { DeviceError, readTwice } from './device-error.ts';
import type { Asked } from './http.ts';
import { exchange } from './http.ts';

async function ask<T>(
  name: string,
  address: string,
  how: Omit<Asked, 'signal'> = {},
  timeoutMs = DEFAULT_TIMEOUT_MS,
): Promise<T> {
  const answer = await exchange(address, { ...how, signal: AbortSignal.timeout(timeoutMs) }).catch(() => {
    throw new DeviceError(name, 'silent', 'it can’t be reached');
  });
  const body = (await answer.json().catch(() => null)) as (T & { words?: string }) | null;
  if (body === null) throw new DeviceError(name, 'garbled', `it answered ${answer.status}`);
  if (!answer.isOk)
    throw new DeviceError(
      name,
      answer.status === 422 ? 'not ready' : 'refused',
      body.words ?? `it answered ${answer.status}`,
    );
  return body;
}

export interface GuiderState {
  readonly state: 'stopped' | 'calibrating' | 'guiding' | 'lost' | 'taking darks';
  /** Over the last minute; null while it does not guide. */
  readonly rmsArcsec: number | null;
}

/** `GET /guider`, and `PUT /guider/start`, `/stop`, `/dither?px=`. */
export const guiderClient = (baseUrl: string) => ({
  state: () => readTwice(() => ask<GuiderState>('guider', `${baseUrl}/guider`)),
  start: () => ask<object>('guider', `${baseUrl}/guider/start`, { method: 'PUT' }),
  stop: () => ask<object>('guider', `${baseUrl}/guider/stop`, { method: 'PUT' }),
  /** Darks of its own camera, which it keeps by itself; its state is "taking darks" until they are there. */
  takeDarks: ({ exposureSec, count }: { exposureSec: number; count: number }) =>
    ask<object>('guider', `${baseUrl}/guider/darks?exposureSec=${exposureSec}&count=${count}`, { method: 'PUT' }),
  dither: (px: number) => ask<object>('guider', `${baseUrl}/guider/dither?px=${px}`, { method: 'PUT' }),
});
export type GuiderClient = ReturnType<typeof guiderClient>;

export interface Solution {
  readonly raDeg: number;
  readonly decDeg: number;
  /** Of the picture's upward side, east of north. */
  readonly positionAngleDeg: number;
}

const SOLVE_TIMEOUT_MS = 60_000;

/** `POST /solve` with a picture in the protocol's binary form; near and scale in the query. */
export const solverClient = (baseUrl: string) => ({
  solve: (picture: CameraPicture, near: { raDeg: number; decDeg: number; scaleArcsecPerPx: number }) =>
    ask<Solution>(
      'plate solver',
      `${baseUrl}/solve?ra=${near.raDeg}&dec=${near.decDeg}&scale=${near.scaleArcsecPerPx}`,
      {
        method: 'POST',
        body: writeImageBytes(picture),
        headers: { 'content-type': 'application/imagebytes' },
      },
      SOLVE_TIMEOUT_MS,
    ),
});
export type SolverClient = ReturnType<typeof solverClient>;
