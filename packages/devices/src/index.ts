export * from './alpaca.ts';
export * from './camera.ts';
export * from './device-error.ts';
export * from './http.ts';
export * from './image-bytes.ts';
export * from './mount.ts';
export * from './seams.ts';
export * from './small-devices.ts';
