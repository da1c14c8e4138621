export { surveyRoutes } from './routes.ts';
export { createSurveyService } from './service.ts';
