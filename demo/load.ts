// Plays the demo's story into an empty database, through the services that people use: never against one that holds an observatory.
import { randomUUID } from 'node:crypto';
import type { Allotment } from '@meridiem/contract';
import type { LimitKey } from '@meridiem/core';
import { exposureKey, formatDeclination, formatHorizonFile, formatRightAscension } from '@meridiem/core';
import { createClock } from '../packages/server/src/clock.ts';
import type { Config } from '../packages/server/src/config.ts';
import type { Database } from '../packages/server/src/database/connection.ts';
import { createAccountService, showPassword } from '../packages/server/src/modules/accounts/index.ts';
import { createChangeService } from '../packages/server/src/modules/changes/index.ts';
import { createFoundingService, makeFoundingLink } from '../packages/server/src/modules/founding/index.ts';
import { attribute, recordExposures, recordVerdicts } from '../packages/server/src/modules/ledger/index.ts';
import { createLimitService } from '../packages/server/src/modules/limits/index.ts';
import { createObservatoryService } from '../packages/server/src/modules/observatory/index.ts';
import { createPeopleService } from '../packages/server/src/modules/people/index.ts';
import { createGoals, createProjectEditing } from '../packages/server/src/modules/projects/index.ts';
import { createRequestService } from '../packages/server/src/modules/requests/index.ts';
import { createShareService } from '../packages/server/src/modules/shares/index.ts';
import { createShelfService } from '../packages/server/src/modules/shelf/index.ts';
import type { Viewer } from '../packages/server/src/plugins/sessions.ts';
import { AGREED_SHARES, DEMO_PASSWORD, emailOf, PEOPLE } from './people.ts';
import { demoComet, SHELVED, THEMES } from './shelf.ts';
import type { DemoRig } from './station.ts';
import { CLEAR_ODDS, CLIMATE_SOURCE, closedNights, FILTERS, HORIZON, LIMITS, RIGS, STATION } from './station.ts';
import type { Story, StoryProject } from './story.ts';

/** What the rest of the story needs to go on. */
export interface LoadedDemo {
  readonly observatoryId: string;
  readonly viewers: ReadonlyMap<string, Viewer>;
  readonly rigIds: ReadonlyMap<DemoRig['key'], string>;
}

type Services = ReturnType<typeof servicesFor>;

/** A goal of the story as it stands in the database. */
interface LoadedGoal {
  readonly projectId: string;
  readonly panelId: string;
  readonly goalId: string;
  readonly filterId: string;
  readonly project: StoryProject;
}

function servicesFor(database: Database, nowUtcMs: number) {
  const clock = createClock(nowUtcMs);
  const changes = createChangeService({ database });
  const accounts = createAccountService({ database, config: { demo: true } as Config });
  const observatory = createObservatoryService({ database, clock, changes });
  return {
    database,
    accounts,
    observatory,
    founding: createFoundingService({ database, accounts, observatory }),
    people: createPeopleService({ database, accounts, changes }),
    limits: createLimitService({ database, changes }),
    requests: createRequestService({ database, changes, observatory }),
    shares: createShareService({ database, changes, observatory }),
    shelf: createShelfService({ database, changes }),
    projects: { ...createProjectEditing({ database, changes }), ...createGoals({ database, changes }) },
  };
}

/** How often nights are clear, and a few nights closed for work on the roof. */
async function loadClimate({ observatory }: Services, coordinator: Viewer): Promise<void> {
  const { climate, version, tonight } = await observatory.read(coordinator.observatoryId);
  for (const { id, month, version: monthVersion } of climate)
    await observatory.editClimateMonth(coordinator, id, { version: monthVersion, clearOdds: CLEAR_ODDS[month - 1] });
  await observatory.edit(coordinator, { version, weatherPersistence: 0.35, climateSource: CLIMATE_SOURCE });
  await observatory.addClosure(coordinator, {
    rigId: null,
    ...closedNights(tonight),
    reason: 'the roof’s motor is exchanged',
  });
}

/** Shares as the members agreed on them: two who image most have more, the coordinator and the helper less. */
async function loadShares(
  { shares }: Services,
  coordinator: Viewer,
  viewers: ReadonlyMap<string, Viewer>,
): Promise<void> {
  await shares.addPeriod(coordinator, {
    firstNight: '2020-01-01',
    lastNight: null,
    allotments: AGREED_SHARES.flatMap(([key, dark, bright]): Allotment[] => {
      const memberId = viewers.get(key)!.personId;
      const of = { memberId, rigId: null };
      if (dark === bright) return [{ ...of, skyClass: null, share: dark }];
      return [
        { ...of, skyClass: 'dark', share: dark },
        { ...of, skyClass: 'bright', share: bright },
      ];
    }),
  });
}

/** Loads the story, all or nothing. */
export function loadDemo(database: Database, story: Story): Promise<LoadedDemo> {
  const services = servicesFor(database, story.nowUtcMs);
  return database.transaction(async () => {
    const { observatoryId, viewers } = await loadPeople(services);
    const coordinator = viewers.get('ilse')!;
    await services.observatory.replaceHorizon(coordinator, formatHorizonFile(HORIZON), false);
    await loadClimate(services, coordinator);
    await loadShares(services, coordinator, viewers);
    for (const { class: ofClass, key, value } of LIMITS)
      await services.limits.set(coordinator, {
        scope: 'observatory',
        scopeId: null,
        class: ofClass,
        key: key as LimitKey,
        setting: { value },
      });
    const rigIds = new Map<DemoRig['key'], string>();
    for (const rig of RIGS) rigIds.set(rig.key, await loadRig(services, coordinator, rig));
    const goals = new Map<string, LoadedGoal>();
    for (const project of story.projects) await loadProject(services, { project, viewers, rigIds, goals });
    await loadLedger(services, { story, observatoryId, viewers, goals });
    await loadShelf(services, coordinator, story.nowUtcMs);
    return { observatoryId, viewers, rigIds };
  });
}

/** The first person founds the observatory, the others follow their invitations. */
async function loadPeople({
  database,
  founding,
  people,
}: Services): Promise<{ observatoryId: string; viewers: Map<string, Viewer> }> {
  const viewers = new Map<string, Viewer>();
  let observatoryId = '';
  for (const { key, name, role, timeZone } of PEOPLE) {
    const email = emailOf({ key });
    if (observatoryId === '') {
      const [, , token] = (await makeFoundingLink(database))!.split('/');
      await founding.found(token, { observatory: STATION, name, email, password: DEMO_PASSWORD });
      observatoryId = (await database.models.Observatory.findOne())!.id;
    } else {
      const fitsObserver = role === 'guest' ? null : name;
      const invited = { name, email, role, timeZone, fitsObserver };
      const [, , token] = (await people.invite(viewers.get('ilse')!, invited)).path.split('/');
      await people.join(token, DEMO_PASSWORD);
    }
    const { id: personId } = (await database.models.Person.findOne({ where: { email } }))!;
    await showPassword(database, personId, DEMO_PASSWORD);
    viewers.set(key, { personId, observatoryId, name, role, timeZone });
  }
  return { observatoryId, viewers };
}

async function loadRig({ observatory }: Services, coordinator: Viewer, rig: DemoRig): Promise<string> {
  const [broadband, ...others] = rig.modes;
  const { key: _key, modes: _modes, offsetsUnknown, ...numbers } = rig;
  await observatory.addRig(coordinator, { ...numbers, mode: broadband });
  const named = async () =>
    (await observatory.read(coordinator.observatoryId)).rigs.find(({ name }) => name === rig.name)!;
  const { id: rigId, slots, revisionSeq } = await named();
  for (const mode of others) await observatory.addCameraMode(coordinator, rigId, mode);
  await observatory.reviseRig(coordinator, rigId, {
    basedOnSeq: revisionSeq,
    slots: slots.map(({ slot, filterId }, i) => ({
      slot,
      filterId,
      focusOffsetSteps: offsetsUnknown.includes(FILTERS[i].letter) ? null : 12 * i,
    })),
  });
  const { cameraModes: allModes } = await named();
  for (const [i, filter] of FILTERS.entries()) {
    const isNarrow = filter.class === 'narrowband';
    await observatory.addRecipe(coordinator, {
      rigId,
      kind: 'light',
      filterId: slots[i].filterId,
      name: `${filter.letter} standard`,
      cameraModeId: allModes.find(({ name }) => name === (isNarrow ? 'Narrowband' : 'Broadband'))!.id,
      exposureSec: isNarrow ? 300 : 120,
      offset: 30,
      binning: 1,
      sensorC: -10,
      pauseSec: 0,
      ditherEvery: isNarrow ? 1 : 3,
      ditherPx: isNarrow ? 8 : 5,
      region: null,
    });
  }
  return rigId;
}

interface ProjectParts {
  readonly project: StoryProject;
  readonly viewers: ReadonlyMap<string, Viewer>;
  readonly rigIds: ReadonlyMap<DemoRig['key'], string>;
  readonly goals: Map<string, LoadedGoal>;
}

async function loadProject(
  { database, observatory, projects, requests }: Services,
  { project, viewers, rigIds, goals }: ProjectParts,
): Promise<void> {
  const { source, target, panels } = project;
  const owner = viewers.get(source.owner)!;
  const coordinator = viewers.get('ilse')!;
  const rigId = rigIds.get(source.rig)!;
  const isPlaced = target !== null && panels.every(({ position }) => position !== null);
  const { id: projectId } = await projects.add(owner, {
    name: project.name,
    rigId,
    targetName: project.targetName,
    raText: target ? formatRightAscension(target.raDeg) : '',
    decText: target ? formatDeclination(target.decDeg) : '',
    positionAngleDeg: panels[0].angleDeg,
    ...(isPlaced
      ? { panels: panels.map(({ position, angleDeg }) => ({ ...position!, positionAngleDeg: angleDeg })) }
      : {}),
  });
  const rows = await database.models.Panel.findAll({ where: { projectId }, order: ['position'] });
  const { recipes } = await observatory.read(owner.observatoryId);
  for (const goal of project.goals) {
    const panelId = rows[panels.findIndex(({ key }) => key === goal.panelKey)].id;
    const recipe = recipes.find((one) => one.rigId === rigId && one.name === `${goal.filter} standard`)!;
    const { ids } = await projects.addGoal(owner, {
      panelId,
      recipeId: recipe.id,
      wanted: goal.wanted,
      allPanels: false,
    });
    goals.set(goal.key, { projectId, panelId, goalId: ids[0], filterId: recipe.filterId!, project });
  }
  await projects.edit(coordinator, projectId, {
    version: 1,
    state: source.asked ? 'draft' : source.state,
    resting: source.resting ?? false,
    counting: source.counting,
    judging: source.counting !== 'after_person',
    private: source.private ?? false,
    grade: source.grade,
    why: source.why ?? null,
  });
  if (!source.asked) return;
  const { remark, ...asked } = source.asked;
  const { id } = await requests.ask(owner, projectId, asked);
  if (source.state === 'queued') await requests.queue(coordinator, id, { remark: remark! });
}

interface LedgerParts {
  readonly story: Story;
  readonly observatoryId: string;
  readonly viewers: ReadonlyMap<string, Viewer>;
  readonly goals: ReadonlyMap<string, LoadedGoal>;
}

/** Sixty nights of exposures with what was measured in them and how they were judged, through the ledger's one door. */
async function loadLedger(
  { database, observatory }: Services,
  { story, observatoryId, viewers, goals }: LedgerParts,
): Promise<void> {
  const { rigs } = await observatory.read(observatoryId);
  const rows = story.exposures.map((exposure) => {
    const goal = goals.get(exposure.goalKey)!;
    const rig = rigs.find(({ name }) => name === RIGS.find(({ key }) => key === goal.project.source.rig)!.name)!;
    return { exposure, goal, rig, id: randomUUID() };
  });
  await recordExposures(
    database,
    observatoryId,
    rows.map(({ exposure, goal, rig, id }) => ({
      exposure: {
        id,
        rigRevisionId: rig.revisionId,
        nightDate: exposure.nightDate,
        kind: 'light',
        startUtcMs: exposure.startUtcMs,
        exposureSec: exposure.exposureSec,
        filterId: goal.filterId,
        gain: exposure.gain,
        offset: 30,
        binning: 1,
        sensorC: exposure.sensorC,
        headerKey: exposureKey(rig.id, exposure),
        recordedUtcMs: exposure.startUtcMs + 1000 * exposure.exposureSec,
      },
      measurement: { method: 'runner', ...exposure },
    })),
  );
  await attribute(
    database,
    observatoryId,
    rows.map(({ goal: { projectId, panelId, goalId }, id }) => ({
      exposureId: id,
      projectId,
      panelId,
      goalId,
      creditShare: 1,
      reason: 'taken for this goal',
    })),
  );
  await recordVerdicts(
    database,
    observatoryId,
    rows
      .filter(({ exposure }) => exposure.verdict !== 'undecided')
      .map(({ exposure, goal: { project }, id }) => {
        const isByHand = project.source.counting === 'after_person';
        return {
          exposureId: id,
          origin: isByHand ? 'hand' : 'rule',
          byCoordinator: false,
          personId: isByHand ? viewers.get(project.source.owner)!.personId : null,
          verdict: exposure.verdict,
          reason: isByHand && exposure.verdict === 'accepted' ? 'looked at' : exposure.reason,
          utcMs: exposure.startUtcMs + 43_200_000,
        };
      }),
  );
}

async function loadShelf({ shelf }: Services, coordinator: Viewer, nowUtcMs: number): Promise<void> {
  const ids = new Map<string, string[]>();
  const keepIn = (theme: string, targetId: string): void => void ids.set(theme, [...(ids.get(theme) ?? []), targetId]);
  for (const { name, raDeg, decDeg, sizeArcmin, theme } of SHELVED)
    keepIn(theme, (await shelf.shelve(coordinator, { name, raDeg, decDeg, sizeArcmin })).id);
  const { orbit, line } = demoComet(nowUtcMs);
  keepIn('visitors', await shelf.shelveOrbit(coordinator, orbit, line));
  for (const { key, name, take } of THEMES) {
    const { id } = await shelf.addTheme(coordinator, { name, take });
    await shelf.editTheme(coordinator, id, { targetIds: ids.get(key) ?? [] });
  }
}
