export { deviceRoutes } from './routes.ts';
export type { DeviceService, ReachedDevices } from './service.ts';
export { ownRules } from './night-rules.ts';
export { createDeviceService } from './service.ts';
