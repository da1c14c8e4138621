// Every module with its service and routes, in the order in which they stand on each other.
import type { FastifyInstance } from 'fastify';
import type { Parts } from './app.ts';
import { jobRoutes } from './jobs/routes.ts';
import { createJobService } from './jobs/service.ts';
import { accountRoutes, createAccountService } from './modules/accounts/index.ts';
import { calendarRoutes, createCalendarService } from './modules/calendar/index.ts';
import { catalogueRoutes, createCatalogueService } from './modules/catalogue/index.ts';
import { changeRoutes, createChangeService } from './modules/changes/index.ts';
import { calibrationRoutes, createCalibrationService } from './modules/calibration/index.ts';
import { createDeliveryService, deliveryRoutes } from './modules/delivery/index.ts';
import { createDepthService, createDepthWishes, depthRoutes } from './modules/depth/index.ts';
import { createExportService, exportRoutes } from './modules/exports/index.ts';
import { createDuskCalls, createForecastService, forecastRoutes } from './modules/forecast/index.ts';
import { createFoundingService, foundingRoutes } from './modules/founding/index.ts';
import { createFrameService, frameRoutes } from './modules/frames/index.ts';
import { createFramingService, framingRoutes } from './modules/framing/index.ts';
import { createApplying, createImportService, importRoutes } from './modules/imports/index.ts';
import { createJoinService, joinRoutes } from './modules/joins/index.ts';
import { createLedgerService, createProgressService, createRuleService, ledgerRoutes } from './modules/ledger/index.ts';
import { createLimitService, limitRoutes } from './modules/limits/index.ts';
import { createNightService, nightRoutes } from './modules/nights/index.ts';
import { createMessageService, createNoticeService, noticeRoutes } from './modules/notices/index.ts';
import { createObservatoryService, observatoryRoutes } from './modules/observatory/index.ts';
import { createPeopleService, peopleRoutes } from './modules/people/index.ts';
import { createPlanningService, planningRoutes } from './modules/planning/index.ts';
import { createGoalSetService, createProjectService, projectRoutes } from './modules/projects/index.ts';
import { createRequestService, requestRoutes } from './modules/requests/index.ts';
import { createDeviceService, deviceRoutes } from './modules/devices/index.ts';
import { createRunService, runRoutes, tellAfterCopy } from './modules/runs/index.ts';
import { createSearchService, searchRoutes } from './modules/search/index.ts';
import { createShareService, shareRoutes } from './modules/shares/index.ts';
import { createShelfService, shelfRoutes } from './modules/shelf/index.ts';
import { createSurveyService, surveyRoutes } from './modules/survey/index.ts';
import { createTimeAccountService, timeAccountRoutes } from './modules/time-account/index.ts';
import { createVisitService, visitRoutes } from './modules/visits/index.ts';
import { named } from './plugins/named.ts';

export async function registerModules(
  app: FastifyInstance,
  { config, database, clock, planWorker, frameWorker }: Parts,
): Promise<void> {
  const changes = createChangeService({ database });
  const observatory = createObservatoryService({ database, clock, changes });
  const jobs = createJobService({ database });
  app.addHook('onClose', () => jobs.close());
  const planning = createPlanningService({
    ...{ database, clock, observatory, changes, planWorker, jobs },
    searchEffort: config.searchEffort,
  });
  await app.register(named(jobRoutes), { service: jobs });
  const projects = createProjectService({ database, changes, planning });
  const accounts = createAccountService({ database, config });
  await app.register(named(accountRoutes), { service: accounts });
  await app.register(named(peopleRoutes), { service: createPeopleService({ database, accounts, changes }) });
  await app.register(named(foundingRoutes), { service: createFoundingService({ database, accounts, observatory }) });
  await app.register(named(changeRoutes), { service: changes });
  await app.register(named(observatoryRoutes), { service: observatory });
  await app.register(named(catalogueRoutes), { service: createCatalogueService({ database }) });
  await app.register(named(limitRoutes), { service: createLimitService({ database, changes }) });
  await app.register(named(projectRoutes), { service: projects, sets: createGoalSetService({ database, changes }) });
  await app.register(named(framingRoutes), { service: createFramingService({ database, changes }) });
  await app.register(named(shelfRoutes), { service: createShelfService({ database, changes }) });
  await app.register(named(shareRoutes), { service: createShareService({ database, changes, observatory }) });
  await app.register(named(requestRoutes), { service: createRequestService({ database, changes, observatory }) });
  await app.register(named(joinRoutes), { service: createJoinService({ database, clock, changes }) });
  await app.register(named(visitRoutes), { service: createVisitService({ database, changes, observatory }) });
  await app.register(named(surveyRoutes), { service: createSurveyService({ database, config, changes }) });
  await app.register(named(nightRoutes), { service: createNightService({ clock, observatory }) });
  await app.register(named(planningRoutes), { service: planning });
  const forecasts = createForecastService({ database, clock, config, observatory });
  await app.register(named(forecastRoutes), { service: forecasts });
  const duskCalls = createDuskCalls({
    ...{ database, clock },
    forecast: (observatoryId, nightDate) => forecasts.read({ observatoryId }, nightDate),
    warn: (error) => app.log.warn({ err: error }, 'the call at dusk failed'),
  });
  app.addHook('onClose', async () => duskCalls.stop());
  await app.register(named(noticeRoutes), {
    service: createNoticeService({ database }),
    messages: createMessageService({ database, config }),
  });
  const ledger = createLedgerService({ database, changes });
  await app.register(named(ledgerRoutes), {
    service: ledger,
    rules: createRuleService({ database }),
    progress: createProgressService({ database }),
  });
  const warn = (error: unknown): void => app.log.warn({ err: error }, 'measuring files failed');
  const frames = createFrameService({
    ...{ database, config, changes, observatory, frameWorker, warn },
    onCopied: (exposureId) => tellAfterCopy(database, exposureId),
  });
  app.addHook('onClose', frames.stop);
  await app.register(named(frameRoutes), { service: frames });
  await app.register(named(deliveryRoutes), { service: createDeliveryService({ database, config }) });
  await app.register(named(depthRoutes), {
    service: createDepthService({ database }),
    wishes: createDepthWishes({ database, changes }),
  });
  await app.register(named(importRoutes), {
    service: createImportService({ database, changes, observatory }),
    applying: createApplying({ database, jobs, changes, observatory }),
  });
  await app.register(named(exportRoutes), { service: createExportService({ database }) });
  await app.register(named(calendarRoutes), { service: createCalendarService({ database, clock }) });
  await app.register(named(searchRoutes), { service: createSearchService({ database }) });
  await app.register(named(timeAccountRoutes), {
    service: createTimeAccountService({ database, clock, changes, observatory }),
  });
  await app.register(named(calibrationRoutes), { service: createCalibrationService({ database, observatory }) });
  const devices = createDeviceService({ database, config, changes, observatory });
  await app.register(named(deviceRoutes), { service: devices });
  await app.register(named(runRoutes), {
    service: createRunService({ database, clock, observatory, devices, planRest: planning.restOfNight }),
  });
}
