import * as calendar from './calendar.ts';
import * as calibration from './calibration.ts';
import * as catalogue from './catalogue.ts';
import * as delivery from './delivery.ts';
import * as depth from './depth.ts';
import * as devices from './devices.ts';
import * as earlyEnds from './early-ends.ts';
import * as equipmentChanges from './equipment-changes.ts';
import * as exports from './exports.ts';
import * as forecast from './forecast.ts';
import * as frames from './frames.ts';
import * as framing from './framing.ts';
import * as founding from './founding.ts';
import * as goalSets from './goal-sets.ts';
import * as handChanges from './hand-changes.ts';
import * as handOrders from './hand-orders.ts';
import * as imports from './imports.ts';
import * as jobs from './jobs.ts';
import * as joins from './joins.ts';
import * as judging from './judging.ts';
import * as ledger from './ledger.ts';
import * as limits from './limits.ts';
import * as messages from './messages.ts';
import * as nightReview from './night-review.ts';
import * as nights from './nights.ts';
import * as notices from './notices.ts';
import * as observatory from './observatory.ts';
import type { AnyOperation } from './operation.ts';
import * as people from './people.ts';
import * as progress from './progress.ts';
import * as projects from './projects.ts';
import * as requests from './requests.ts';
import * as runner from './runner.ts';
import * as searching from './search.ts';
import * as season from './season.ts';
import * as session from './session.ts';
import * as shares from './shares.ts';
import * as shelf from './shelf.ts';
import * as survey from './survey.ts';
import * as testShots from './test-shots.ts';
import * as timeAccount from './time-account.ts';
import * as visits from './visits.ts';
import * as watching from './watch.ts';

export * from './calendar.ts';
export * from './calibration.ts';
export * from './catalogue.ts';
export { namedOnly } from './closed.ts';
export * from './common.ts';
export * from './delivery.ts';
export * from './depth.ts';
export * from './device-run.ts';
export * from './devices.ts';
export * from './early-ends.ts';
export * from './equipment.ts';
export * from './equipment-changes.ts';
export * from './errors.ts';
export * from './exports.ts';
export * from './founding.ts';
export * from './forecast.ts';
export * from './frames.ts';
export * from './framing.ts';
export * from './frame-file.ts';
export * from './frame-hashes.ts';
export * from './goal-sets.ts';
export * from './hand-changes.ts';
export * from './hand-orders.ts';
export * from './imports.ts';
export * from './jobs.ts';
export * from './joins.ts';
export * from './judging.ts';
export * from './ledger.ts';
export * from './limits.ts';
export * from './messages.ts';
export * from './night-review.ts';
export * from './nights.ts';
export * from './notices.ts';
export * from './observatory.ts';
export * from './operation.ts';
export * from './panel-names.ts';
export * from './people.ts';
export * from './progress.ts';
export * from './projects.ts';
export * from './requests.ts';
export * from './runner.ts';
export * from './search.ts';
export * from './season.ts';
export * from './session.ts';
export * from './shares.ts';
export * from './shelf.ts';
export * from './shown-plan.ts';
export * from './shown-wishes.ts';
export * from './survey.ts';
export * from './test-shots.ts';
export * from './time-account.ts';
export * from './visits.ts';
export * from './watch.ts';

const isOperation = (value: unknown): value is AnyOperation =>
  typeof value === 'object' && value !== null && 'access' in value && 'path' in value;

/** Every operation there is, by name. */
export const OPERATIONS: Readonly<Record<string, AnyOperation>> = /* @__PURE__ */ Object.fromEntries(
  [
    session,
    observatory,
    equipmentChanges,
    catalogue,
    limits,
    projects,
    frames,
    framing,
    shelf,
    delivery,
    depth,
    devices,
    earlyEnds,
    survey,
    testShots,
    ledger,
    joins,
    judging,
    jobs,
    progress,
    imports,
    exports,
    people,
    nights,
    nightReview,
    handChanges,
    handOrders,
    goalSets,
    forecast,
    notices,
    messages,
    runner,
    timeAccount,
    calibration,
    founding,
    calendar,
    searching,
    season,
    shares,
    requests,
    visits,
    watching,
  ].flatMap((module) => Object.entries(module).filter(([, value]) => isOperation(value))),
) as Record<string, AnyOperation>;
