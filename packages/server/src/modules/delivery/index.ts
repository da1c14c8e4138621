export { deliveryRoutes } from './routes.ts';
export { createDeliveryService } from './service.ts';
