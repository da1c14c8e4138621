// Every table as a Sequelize model, and how they hang together.
import type { Model, ModelStatic, Sequelize } from 'sequelize';
import { defineAlert } from './alert.ts';
import { defineAttribution } from './attribution.ts';
import { defineCalendarFeed } from './calendar-feed.ts';
import { defineCamera } from './camera.ts';
import { defineCameraMode } from './camera-mode.ts';
import { defineCameraModeRevision } from './camera-mode-revision.ts';
import { defineChange } from './change.ts';
import { defineSharePeriod } from './share-period.ts';
import { defineAllotment } from './allotment.ts';
import { defineEntitlement } from './entitlement.ts';
import { defineProjectJoin } from './project-join.ts';
import { defineShareSwap } from './share-swap.ts';
import { defineShareGift } from './share-gift.ts';
import { defineRequest } from './request.ts';
import { defineGrant } from './grant.ts';
import { defineClimateMonth } from './climate-month.ts';
import { defineClosure } from './closure.ts';
import { defineDoneCall } from './done-call.ts';
import { defineEarlierMeasurement } from './earlier-measurement.ts';
import { defineEvent } from './event.ts';
import { defineExposure } from './exposure.ts';
import { defineExposurePresence } from './exposure-presence.ts';
import { defineFilter } from './filter.ts';
import { defineFilterAlias } from './filter-alias.ts';
import { defineFilterSlot } from './filter-slot.ts';
import { defineForecast } from './forecast.ts';
import { defineExposureNote } from './exposure-note.ts';
import { defineFrame } from './frame.ts';
import { defineFrameMeasure } from './frame-measure.ts';
import { defineGoal } from './goal.ts';
import { defineGoalSet } from './goal-set.ts';
import { defineGoalSetItem } from './goal-set-item.ts';
import { defineGoalTotal } from './goal-total.ts';
import { defineHandChange } from './hand-change.ts';
import { defineHorizon } from './horizon.ts';
import { defineImport } from './import.ts';
import { defineImportFile } from './import-file.ts';
import { defineJob } from './job.ts';
import { defineJobResult } from './job-result.ts';
import { defineLedgerRow } from './ledger-row.ts';
import { defineLedgerTally } from './ledger-tally.ts';
import { defineLimitValue } from './limit-value.ts';
import { defineMeasurement } from './measurement.ts';
import { defineMembership } from './membership.ts';
import { defineNight } from './night.ts';
import { defineNightClosing } from './night-closing.ts';
import { defineNightPlan } from './night-plan.ts';
import { defineNightRun } from './night-run.ts';
import { defineMessage } from './message.ts';
import { defineMessageChannel } from './message-channel.ts';
import { defineNotice } from './notice.ts';
import { defineObservatory } from './observatory.ts';
import { defineOneTimeLink } from './one-time-link.ts';
import { defineOrbit } from './orbit.ts';
import { definePanel } from './panel.ts';
import { definePanelPointing } from './panel-pointing.ts';
import { definePerson } from './person.ts';
import { definePlanBlock } from './plan-block.ts';
import { definePlanDraft } from './plan-draft.ts';
import { definePlanOmission } from './plan-omission.ts';
import { definePlanRequest } from './plan-request.ts';
import { definePlanRun } from './plan-run.ts';
import { defineProject } from './project.ts';
import { defineProjectOwner } from './project-owner.ts';
import { defineRecipe } from './recipe.ts';
import { defineRecipeRevision } from './recipe-revision.ts';
import { defineRig } from './rig.ts';
import { defineRigAngle } from './rig-angle.ts';
import { defineRigRevision } from './rig-revision.ts';
import { defineRigStep } from './rig-step.ts';
import { defineRuleRevision } from './rule-revision.ts';
import { defineRunAction } from './run-action.ts';
import { defineRunOrder } from './run-order.ts';
import { defineDuskCall } from './dusk-call.ts';
import { defineDepthWish } from './depth-wish.ts';
import { defineNightDelivery } from './night-delivery.ts';
import { defineTestShot } from './test-shot.ts';
import { defineRunReading } from './run-reading.ts';
import { defineRunStep } from './run-step.ts';
import { defineSession } from './session.ts';
import { defineSetting } from './setting.ts';
import { defineSignInFailure } from './sign-in-failure.ts';
import { defineTarget } from './target.ts';
import { defineTheme } from './theme.ts';
import { defineThemeTarget } from './theme-target.ts';
import { defineTimeEntry } from './time-entry.ts';
import { defineTimeRemark } from './time-remark.ts';
import { defineVerdict } from './verdict.ts';
import { defineVisit } from './visit.ts';
import { defineVisitJob } from './visit-job.ts';

export type Models = ReturnType<typeof defineModels>;

/** The models of one connection: each process and each test has its own. */
export function defineModels(sequelize: Sequelize) {
  const models = {
    Alert: defineAlert(sequelize),
    Attribution: defineAttribution(sequelize),
    CalendarFeed: defineCalendarFeed(sequelize),
    Camera: defineCamera(sequelize),
    CameraMode: defineCameraMode(sequelize),
    CameraModeRevision: defineCameraModeRevision(sequelize),
    Change: defineChange(sequelize),
    SharePeriod: defineSharePeriod(sequelize),
    Allotment: defineAllotment(sequelize),
    Entitlement: defineEntitlement(sequelize),
    Message: defineMessage(sequelize),
    MessageChannel: defineMessageChannel(sequelize),
    ProjectJoin: defineProjectJoin(sequelize),
    ShareSwap: defineShareSwap(sequelize),
    ShareGift: defineShareGift(sequelize),
    Request: defineRequest(sequelize),
    Grant: defineGrant(sequelize),
    ClimateMonth: defineClimateMonth(sequelize),
    Closure: defineClosure(sequelize),
    DoneCall: defineDoneCall(sequelize),
    EarlierMeasurement: defineEarlierMeasurement(sequelize),
    Event: defineEvent(sequelize),
    Exposure: defineExposure(sequelize),
    ExposurePresence: defineExposurePresence(sequelize),
    Filter: defineFilter(sequelize),
    FilterAlias: defineFilterAlias(sequelize),
    FilterSlot: defineFilterSlot(sequelize),
    Forecast: defineForecast(sequelize),
    ExposureNote: defineExposureNote(sequelize),
    Frame: defineFrame(sequelize),
    FrameMeasure: defineFrameMeasure(sequelize),
    Goal: defineGoal(sequelize),
    GoalSet: defineGoalSet(sequelize),
    GoalSetItem: defineGoalSetItem(sequelize),
    GoalTotal: defineGoalTotal(sequelize),
    HandChange: defineHandChange(sequelize),
    Horizon: defineHorizon(sequelize),
    Import: defineImport(sequelize),
    ImportFile: defineImportFile(sequelize),
    Job: defineJob(sequelize),
    JobResult: defineJobResult(sequelize),
    LedgerRow: defineLedgerRow(sequelize),
    LedgerTally: defineLedgerTally(sequelize),
    LimitValue: defineLimitValue(sequelize),
    Measurement: defineMeasurement(sequelize),
    Membership: defineMembership(sequelize),
    Night: defineNight(sequelize),
    NightClosing: defineNightClosing(sequelize),
    NightPlan: defineNightPlan(sequelize),
    NightRun: defineNightRun(sequelize),
    Notice: defineNotice(sequelize),
    Observatory: defineObservatory(sequelize),
    OneTimeLink: defineOneTimeLink(sequelize),
    Orbit: defineOrbit(sequelize),
    Panel: definePanel(sequelize),
    PanelPointing: definePanelPointing(sequelize),
    Person: definePerson(sequelize),
    PlanBlock: definePlanBlock(sequelize),
    PlanDraft: definePlanDraft(sequelize),
    PlanOmission: definePlanOmission(sequelize),
    PlanRequest: definePlanRequest(sequelize),
    PlanRun: definePlanRun(sequelize),
    Project: defineProject(sequelize),
    ProjectOwner: defineProjectOwner(sequelize),
    Recipe: defineRecipe(sequelize),
    RecipeRevision: defineRecipeRevision(sequelize),
    Rig: defineRig(sequelize),
    RigAngle: defineRigAngle(sequelize),
    RigRevision: defineRigRevision(sequelize),
    RigStep: defineRigStep(sequelize),
    RuleRevision: defineRuleRevision(sequelize),
    RunAction: defineRunAction(sequelize),
    RunOrder: defineRunOrder(sequelize),
    TestShot: defineTestShot(sequelize),
    DuskCall: defineDuskCall(sequelize),
    NightDelivery: defineNightDelivery(sequelize),
    DepthWish: defineDepthWish(sequelize),
    RunReading: defineRunReading(sequelize),
    RunStep: defineRunStep(sequelize),
    Session: defineSession(sequelize),
    Setting: defineSetting(sequelize),
    SignInFailure: defineSignInFailure(sequelize),
    Target: defineTarget(sequelize),
    Theme: defineTheme(sequelize),
    ThemeTarget: defineThemeTarget(sequelize),
    TimeEntry: defineTimeEntry(sequelize),
    TimeRemark: defineTimeRemark(sequelize),
    Verdict: defineVerdict(sequelize),
    Visit: defineVisit(sequelize),
    VisitJob: defineVisitJob(sequelize),
  };
  associate(models);
  return models;
}

/** What each row belongs to: model, name of the relation, its key, the model it refers to. */
const BELONGS_TO = [
  ['Alert', 'exposure', 'exposureId', 'Exposure'],
  ['Alert', 'observatory', 'observatoryId', 'Observatory'],
  ['Alert', 'project', 'projectId', 'Project'],
  ['Alert', 'seenByPerson', 'seenBy', 'Person'],
  ['Attribution', 'exposure', 'exposureId', 'Exposure'],
  ['Attribution', 'goal', 'goalId', 'Goal'],
  ['Attribution', 'panel', 'panelId', 'Panel'],
  ['Attribution', 'project', 'projectId', 'Project'],
  ['CalendarFeed', 'observatory', 'observatoryId', 'Observatory'],
  ['CalendarFeed', 'person', 'personId', 'Person'],
  ['Camera', 'observatory', 'observatoryId', 'Observatory'],
  ['CameraMode', 'rig', 'rigId', 'Rig'],
  ['CameraModeRevision', 'cameraMode', 'cameraModeId', 'CameraMode'],
  ['Change', 'observatory', 'observatoryId', 'Observatory'],
  ['Change', 'person', 'personId', 'Person'],
  ['Change', 'undoOfChange', 'undoOf', 'Change'],
  ['EarlierMeasurement', 'exposure', 'exposureId', 'Exposure'],
  ['Event', 'observatory', 'observatoryId', 'Observatory'],
  ['Exposure', 'filter', 'filterId', 'Filter'],
  ['Exposure', 'rigRevision', 'rigRevisionId', 'RigRevision'],
  ['Exposure', 'runStep', 'runStepId', 'RunStep'],
  ['ExposurePresence', 'exposure', 'exposureId', 'Exposure'],
  ['ExposurePresence', 'import', 'importId', 'Import'],
  ['Filter', 'observatory', 'observatoryId', 'Observatory'],
  ['FilterSlot', 'filter', 'filterId', 'Filter'],
  ['FilterSlot', 'rig', 'rigId', 'Rig'],
  ['Forecast', 'observatory', 'observatoryId', 'Observatory'],
  ['Goal', 'panel', 'panelId', 'Panel'],
  ['Goal', 'recipeRevision', 'recipeRevisionId', 'RecipeRevision'],
  ['GoalSet', 'createdByPerson', 'createdBy', 'Person'],
  ['GoalSet', 'rig', 'rigId', 'Rig'],
  ['GoalSetItem', 'recipe', 'recipeId', 'Recipe'],
  ['GoalSetItem', 'set', 'setId', 'GoalSet'],
  ['GoalTotal', 'goal', 'goalId', 'Goal'],
  ['HandChange', 'createdByPerson', 'createdBy', 'Person'],
  ['HandChange', 'goal', 'goalId', 'Goal'],
  ['HandChange', 'panel', 'panelId', 'Panel'],
  ['HandChange', 'rig', 'rigId', 'Rig'],
  ['Horizon', 'observatory', 'observatoryId', 'Observatory'],
  ['Import', 'observatory', 'observatoryId', 'Observatory'],
  ['Import', 'person', 'personId', 'Person'],
  ['ImportFile', 'exposure', 'exposureId', 'Exposure'],
  ['ImportFile', 'import', 'importId', 'Import'],
  ['LedgerRow', 'exposure', 'exposureId', 'Exposure'],
  ['LimitValue', 'goal', 'goalId', 'Goal'],
  ['LimitValue', 'observatory', 'observatoryId', 'Observatory'],
  ['LimitValue', 'project', 'projectId', 'Project'],
  ['Measurement', 'exposure', 'exposureId', 'Exposure'],
  ['Membership', 'observatory', 'observatoryId', 'Observatory'],
  ['Membership', 'person', 'personId', 'Person'],
  ['Night', 'observatory', 'observatoryId', 'Observatory'],
  ['NightClosing', 'closedByPerson', 'closedBy', 'Person'],
  ['NightClosing', 'rig', 'rigId', 'Rig'],
  ['NightPlan', 'publishedByPerson', 'publishedBy', 'Person'],
  ['NightPlan', 'rig', 'rigId', 'Rig'],
  ['NightRun', 'plan', 'planId', 'NightPlan'],
  ['NightRun', 'requestedByPerson', 'requestedBy', 'Person'],
  ['NightRun', 'rig', 'rigId', 'Rig'],
  ['Notice', 'observatory', 'observatoryId', 'Observatory'],
  ['Notice', 'person', 'personId', 'Person'],
  ['OneTimeLink', 'madeByPerson', 'madeBy', 'Person'],
  ['OneTimeLink', 'observatory', 'observatoryId', 'Observatory'],
  ['OneTimeLink', 'person', 'personId', 'Person'],
  ['Orbit', 'person', 'personId', 'Person'],
  ['Orbit', 'target', 'targetId', 'Target'],
  ['Panel', 'project', 'projectId', 'Project'],
  ['PanelPointing', 'panel', 'panelId', 'Panel'],
  ['PlanBlock', 'panel', 'panelId', 'Panel'],
  ['PlanBlock', 'plan', 'planId', 'NightPlan'],
  ['PlanDraft', 'rig', 'rigId', 'Rig'],
  ['PlanOmission', 'goal', 'goalId', 'Goal'],
  ['PlanOmission', 'plan', 'planId', 'NightPlan'],
  ['PlanOmission', 'rivalGoal', 'rivalGoalId', 'Goal'],
  ['PlanRun', 'block', 'blockId', 'PlanBlock'],
  ['PlanRun', 'goal', 'goalId', 'Goal'],
  ['Project', 'observatory', 'observatoryId', 'Observatory'],
  ['Project', 'owner', 'ownerId', 'Person'],
  ['Project', 'rig', 'rigId', 'Rig'],
  ['Project', 'target', 'targetId', 'Target'],
  ['ProjectOwner', 'person', 'personId', 'Person'],
  ['ProjectOwner', 'project', 'projectId', 'Project'],
  ['Recipe', 'filter', 'filterId', 'Filter'],
  ['Recipe', 'rig', 'rigId', 'Rig'],
  ['RecipeRevision', 'cameraMode', 'cameraModeId', 'CameraMode'],
  ['RecipeRevision', 'recipe', 'recipeId', 'Recipe'],
  ['Rig', 'observatory', 'observatoryId', 'Observatory'],
  ['RigAngle', 'rig', 'rigId', 'Rig'],
  ['RigRevision', 'camera', 'cameraId', 'Camera'],
  ['RigRevision', 'rig', 'rigId', 'Rig'],
  ['RigStep', 'rig', 'rigId', 'Rig'],
  ['RuleRevision', 'person', 'personId', 'Person'],
  ['RuleRevision', 'rig', 'rigId', 'Rig'],
  ['ExposureNote', 'exposure', 'exposureId', 'Exposure'],
  ['ExposureNote', 'person', 'personId', 'Person'],
  ['Frame', 'exposure', 'exposureId', 'Exposure'],
  ['FrameMeasure', 'frame', 'exposureId', 'Frame'],
  ['RunAction', 'run', 'runId', 'NightRun'],
  ['RunOrder', 'run', 'runId', 'NightRun'],
  ['RunReading', 'run', 'runId', 'NightRun'],
  ['RunOrder', 'person', 'orderedBy', 'Person'],
  ['TestShot', 'run', 'runId', 'NightRun'],
  ['TestShot', 'person', 'orderedBy', 'Person'],
  ['RunStep', 'goal', 'goalId', 'Goal'],
  ['RunStep', 'run', 'runId', 'NightRun'],
  ['Session', 'person', 'personId', 'Person'],
  ['Setting', 'observatory', 'observatoryId', 'Observatory'],
  ['Target', 'observatory', 'observatoryId', 'Observatory'],
  ['Theme', 'observatory', 'observatoryId', 'Observatory'],
  ['ThemeTarget', 'target', 'targetId', 'Target'],
  ['ThemeTarget', 'theme', 'themeId', 'Theme'],
  ['SharePeriod', 'observatory', 'observatoryId', 'Observatory'],
  ['SharePeriod', 'person', 'personId', 'Person'],
  ['Allotment', 'period', 'periodId', 'SharePeriod'],
  ['Allotment', 'person', 'personId', 'Person'],
  ['Allotment', 'rig', 'rigId', 'Rig'],
  ['Entitlement', 'closing', 'closingId', 'NightClosing'],
  ['Entitlement', 'person', 'personId', 'Person'],
  ['Message', 'notice', 'noticeId', 'Notice'],
  ['Message', 'observatory', 'observatoryId', 'Observatory'],
  ['Message', 'person', 'personId', 'Person'],
  ['MessageChannel', 'observatory', 'observatoryId', 'Observatory'],
  ['MessageChannel', 'person', 'personId', 'Person'],
  ['ProjectJoin', 'from', 'fromId', 'Project'],
  ['ProjectJoin', 'to', 'toId', 'Project'],
  ['ShareSwap', 'rig', 'rigId', 'Rig'],
  ['ShareSwap', 'from', 'fromId', 'Person'],
  ['ShareSwap', 'to', 'toId', 'Person'],
  ['ShareGift', 'rig', 'rigId', 'Rig'],
  ['ShareGift', 'from', 'fromId', 'Person'],
  ['ShareGift', 'to', 'toId', 'Person'],
  ['ShareGift', 'swap', 'swapId', 'ShareSwap'],
  ['Request', 'project', 'projectId', 'Project'],
  ['Request', 'person', 'personId', 'Person'],
  ['Request', 'decider', 'decidedBy', 'Person'],
  ['Grant', 'project', 'projectId', 'Project'],
  ['Grant', 'request', 'requestId', 'Request'],
  ['Grant', 'person', 'personId', 'Person'],
  ['ClimateMonth', 'observatory', 'observatoryId', 'Observatory'],
  ['Closure', 'observatory', 'observatoryId', 'Observatory'],
  ['Closure', 'person', 'personId', 'Person'],
  ['Closure', 'rig', 'rigId', 'Rig'],
  ['TimeEntry', 'closing', 'closingId', 'NightClosing'],
  ['TimeEntry', 'exposure', 'exposureId', 'Exposure'],
  ['TimeEntry', 'member', 'memberId', 'Person'],
  ['TimeEntry', 'project', 'projectId', 'Project'],
  ['TimeEntry', 'remark', 'remarkId', 'TimeRemark'],
  ['TimeRemark', 'person', 'personId', 'Person'],
  ['TimeRemark', 'rig', 'rigId', 'Rig'],
  ['Visit', 'observatory', 'observatoryId', 'Observatory'],
  ['Visit', 'goes', 'goesId', 'Person'],
  ['Visit', 'person', 'personId', 'Person'],
  ['VisitJob', 'visit', 'visitId', 'Visit'],
  ['VisitJob', 'rig', 'rigId', 'Rig'],
  ['VisitJob', 'fits', 'fitsId', 'Filter'],
  ['VisitJob', 'removes', 'removesId', 'Filter'],
  ['VisitJob', 'settledByPerson', 'settledBy', 'Person'],
  ['VisitJob', 'exposure', 'exposureId', 'Exposure'],
  ['Verdict', 'exposure', 'exposureId', 'Exposure'],
  ['Verdict', 'person', 'personId', 'Person'],
  ['Verdict', 'withdrawsVerdict', 'withdraws', 'Verdict'],
] as const;

function associate(models: Record<(typeof BELONGS_TO)[number][0 | 3], ModelStatic<Model>>): void {
  for (const [owner, as, foreignKey, referred] of BELONGS_TO)
    models[owner].belongsTo(models[referred], { as, foreignKey });
}
