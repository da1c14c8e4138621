// The camera: cooled, exposed, downloaded.
import type { AlpacaDevice } from './alpaca.ts';
import { DeviceError, utcMsOf } from './device-error.ts';
import type { CameraPicture } from './image-bytes.ts';
import { readImageBytes } from './image-bytes.ts';

export type CameraActivity = 'idle' | 'waiting' | 'exposing' | 'reading' | 'downloading' | 'error';
const ACTIVITIES: readonly CameraActivity[] = ['idle', 'waiting', 'exposing', 'reading', 'downloading', 'error'];
const IMAGE_BYTES = 'application/imagebytes';

export interface CameraSetting {
  readonly gain: number;
  readonly offset: number;
  readonly binning: number;
  /** Unbinned pixels of the middle that is read; null for all of the sensor. */
  readonly region: { readonly widthPx: number; readonly heightPx: number } | null;
}

const unlessMissing = (error: unknown): void => {
  if (!(error instanceof DeviceError && error.failure === 'not implemented')) throw error;
};

export const cameraClient = (device: AlpacaDevice) => ({
  device,
  sides: async (): Promise<{ widthPx: number; heightPx: number }> => ({
    widthPx: await device.get<number>('cameraxsize'),
    heightPx: await device.get<number>('cameraysize'),
  }),
  temperatureC: () => device.get<number>('ccdtemperature'),
  coolerPowerPercent: () => device.get<number>('coolerpower'),
  setCooling: async (isOn: boolean, targetC?: number): Promise<void> => {
    if (targetC !== undefined) await device.put('setccdtemperature', { SetCCDTemperature: targetC });
    await device.put('cooleron', { CoolerOn: isOn });
  },
  activity: async (): Promise<CameraActivity> => ACTIVITIES[await device.get<number>('camerastate')] ?? 'error',
  isImageReady: () => device.get<boolean>('imageready'),
  set: async ({ gain, offset, binning, region }: CameraSetting): Promise<void> => {
    // Many cameras have only one of the two, or neither.
    await device.put('gain', { Gain: gain }).catch(unlessMissing);
    await device.put('offset', { Offset: offset }).catch(unlessMissing);
    await device.put('binx', { BinX: binning });
    await device.put('biny', { BinY: binning });
    const [width, height] = [await device.get<number>('cameraxsize'), await device.get<number>('cameraysize')];
    const read = region ?? { widthPx: width, heightPx: height };
    const frame = [Math.floor(read.widthPx / binning), Math.floor(read.heightPx / binning)];
    await device.put('startx', { StartX: Math.floor((width - read.widthPx) / 2 / binning) });
    await device.put('starty', { StartY: Math.floor((height - read.heightPx) / 2 / binning) });
    await device.put('numx', { NumX: frame[0] });
    await device.put('numy', { NumY: frame[1] });
  },
  beginExposure: (exposureSec: number, isLight: boolean) =>
    device.put('startexposure', { Duration: exposureSec, Light: isLight }),
  abort: () => device.put('abortexposure'),
  /** Start of the last exposure by the camera's own clock. */
  lastStartUtcMs: async (): Promise<number> => utcMsOf(device.name, await device.get<unknown>('lastexposurestarttime')),
  lastExposureSec: () => device.get<number>('lastexposureduration'),
  download: async (): Promise<CameraPicture> =>
    readImageBytes(device.name, await device.bytes('imagearray', IMAGE_BYTES)),
});
export type CameraClient = ReturnType<typeof cameraClient>;
