import {
  askConsequences,
  askNightReview,
  askHelps,
  askVisitAdvice,
  askWhatIf,
  askSeason,
  askSeasonReason,
  askSwapDates,
  askProjectOutlook,
  changeByHand,
  editEarlyEnds,
  keepHandChange,
  previewLimit,
  publishPlan,
  readEarlyEnds,
  readFits,
  readPlanning,
  readNight,
  readNightReview,
  readNightStandings,
  readProjectOutlook,
  readConsequences,
  readHelps,
  readSeason,
  readSeasonReason,
  readSwapDates,
  readVisitAdvice,
  readVisitEffects,
  readWhatIf,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { PlanningService } from './service.ts';

export async function planningRoutes(app: FastifyInstance, { service }: { service: PlanningService }): Promise<void> {
  serve(
    app,
    readNight,
    async ({ viewer, params, query }) =>
      service.read(viewer, params.nightDate, (query.plan ?? null) as Parameters<PlanningService['read']>[2]),
    { isKept: true },
  );
  serve(app, readNightStandings, async ({ viewer, params }) => service.standings(viewer, params.nightDate));
  serve(app, readSeason, async ({ viewer }) => service.season(viewer));
  serve(app, readNightReview, async ({ viewer, params }) => service.nightReview(viewer, params.id));
  serve(app, askNightReview, async ({ viewer, params }) => service.askNightReview(viewer, params.id));
  serve(app, readVisitEffects, async ({ viewer }) => service.visitEffects(viewer));
  serve(app, readVisitAdvice, async ({ viewer }) => service.visitAdvice(viewer));
  serve(app, askVisitAdvice, async ({ viewer }) => service.askVisitAdvice(viewer));
  serve(app, readWhatIf, async ({ viewer, body }) => service.whatIf(viewer, body));
  serve(app, askWhatIf, async ({ viewer, body }) => service.askWhatIf(viewer, body));
  serve(app, readHelps, async ({ viewer, params }) => service.helps(viewer, params.id));
  serve(app, askHelps, async ({ viewer, params }) => service.askHelps(viewer, params.id));
  serve(app, readSeasonReason, async ({ viewer, params }) => service.seasonReason(viewer, params));
  serve(app, askSeasonReason, async ({ viewer, params }) => service.askSeasonReason(viewer, params));
  serve(app, readConsequences, async ({ viewer, params }) => service.consequences(viewer, params.id));
  serve(app, askConsequences, async ({ viewer, params }) => service.askConsequences(viewer, params.id));
  serve(app, readSwapDates, async ({ viewer, body }) => service.swapDates(viewer, body));
  serve(app, askSwapDates, async ({ viewer, body }) => service.askSwapDates(viewer, body));
  serve(app, askSeason, async ({ viewer }) => service.askSeason(viewer));
  serve(app, readProjectOutlook, async ({ viewer, params }) => service.outlook(viewer, params.id));
  serve(app, askProjectOutlook, async ({ viewer, params }) => service.askOutlook(viewer, params.id));
  serve(app, publishPlan, async ({ viewer, params, body }) => service.publish(viewer, params.nightDate, body));
  serve(app, readPlanning, async ({ viewer, params }) => service.planning(viewer, params.id, params.nightDate));
  serve(app, changeByHand, async ({ viewer, params, body }) =>
    service.changeByHand(viewer, params.id, params.nightDate, body),
  );
  serve(app, readEarlyEnds, async ({ viewer, params }) => service.earlyEnds(viewer, params.id, params.nightDate));
  serve(app, editEarlyEnds, async ({ viewer, body }) => service.editEarlyEnds(viewer, body));
  serve(app, keepHandChange, async ({ viewer, params }) => service.keepHandChange(viewer, params.id));
  serve(app, previewLimit, async ({ viewer, params, body }) => service.limitEffect(viewer, params.id, body));
  serve(app, readFits, async ({ viewer, params, query }) => service.fits(viewer, params.id, query.nights));
}
