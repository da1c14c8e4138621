export { deviceRoutes } from './routes.ts';
export type { DeviceService, ReachedDevices } from './service.ts';
export { createDeviceService } from './service.ts';
