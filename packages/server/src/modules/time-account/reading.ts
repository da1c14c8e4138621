// Where nights went: worked out from what was recorded while a night is open, read as it was written once it is closed.
import type {
  AccountedNight,
  ParamsOf,
  ResponseOf,
  readAccountedNight,
  readProjectTime,
  readTimeAccount,
} from '@meridiem/contract';
import type { ObservingNight, TimeEntry } from '@meridiem/core';
import { HOUR_MS, nightAccount } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { RESERVED } from '../../privacy.ts';
import { mapUnhurried } from '../../unhurried.ts';
import type { RigRecord, SiteRecord } from '../observatory/index.ts';
import { rigsOf, siteOf } from '../observatory/index.ts';
import { ruleOf } from './charging.ts';
import { factsOf, nightsFrom, recordedOf } from './facts.ts';
import { closingsOf, datesBetween, rigNamed, stateOf } from './nights.ts';
import type { WrittenEntry } from './repository.ts';
import {
  chargedBetween,
  closingsOfProject,
  integrationOf,
  projectNames,
  rejectedHours,
  seenRig,
  spentByNight,
  spentOfProject,
  writtenEntries,
} from './repository.ts';
import type { TimeAccountParts } from './service.ts';

export function createTimeReading({ database, clock }: TimeAccountParts) {
  async function nightsOfRig(site: SiteRecord, rig: RigRecord, nights: readonly ObservingNight[]) {
    const span = { startUtcMs: nights[0].startUtcMs, endUtcMs: nights.at(-1)!.endUtcMs };
    const [recorded, closings, written] = await Promise.all([
      recordedOf(database, rig.id, span),
      closingsOf(database, rig.id, nights),
      writtenSums(database, rig.id, nights),
    ]);
    return mapUnhurried(nights, (night): AccountedNight => {
      const closing = closings.get(night.nightDate);
      const state = stateOf(night, closing, clock.nowUtcMs());
      return {
        nightDate: night.nightDate,
        state,
        closedUtcMs: closing?.closedUtcMs ?? null,
        closedBy: closing?.closedBy ?? null,
        spent: closing
          ? (written.get(night.nightDate) ?? [])
          : sumsOf(nightAccount(factsOf(site, rig, night, recorded))),
      };
    });
  }

  return {
    async read(viewer: Viewer, from: string, to: string): Promise<ResponseOf<typeof readTimeAccount>> {
      const dates = datesBetween(from, to);
      const site = await siteOf(database, viewer.observatoryId);
      const nights = await nightsFrom(database, viewer.observatoryId, site.timeZone, dates);
      const rigs = await rigsOf(database, viewer.observatoryId);
      const accounts = await Promise.all(rigs.map((rig) => nightsOfRig(site, rig, nights)));
      return {
        rigs: rigs.map((rig, i) => ({ rigId: rig.id, rigName: rig.name, nights: accounts[i] })),
        charged: await chargedBetween(database, viewer.observatoryId, from, to),
        rule: await ruleOf(database, viewer.observatoryId),
      };
    },

    async readNight(
      viewer: Viewer,
      { id, nightDate }: ParamsOf<typeof readAccountedNight>,
    ): Promise<ResponseOf<typeof readAccountedNight>> {
      const [site, rig] = await rigNamed(database, viewer.observatoryId, id);
      const [night] = await nightsFrom(
        database,
        viewer.observatoryId,
        site.timeZone,
        datesBetween(nightDate, nightDate),
      );
      const [recorded, closings, projects] = await Promise.all([
        recordedOf(database, rig.id, night),
        closingsOf(database, rig.id, [night]),
        projectNames(database, viewer),
      ]);
      const closing = closings.get(night.nightDate);
      const nameOf = new Map(projects.map((project) => [project.id, project]));
      const entries = closing
        ? await writtenEntries(database, rig.id, night.nightDate)
        : nightAccount(factsOf(site, rig, night, recorded)).map(({ owner, ...entry }) => ({
            ...entry,
            projectId: owner?.projectId ?? null,
          }));
      return {
        rigName: rig.name,
        startUtcMs: night.startUtcMs,
        endUtcMs: night.endUtcMs,
        state: stateOf(night, closing, clock.nowUtcMs()),
        stretches: joined(entries).map(({ projectId, kind, skyClass, startUtcMs, endUtcMs }) => {
          const project = projectId === null ? undefined : nameOf.get(projectId);
          const projectName = project ? (project.seen ? project.name : RESERVED) : null;
          return { kind, skyClass, startUtcMs, endUtcMs, projectId: project?.seen ? project.id : null, projectName };
        }),
        remarks: [...recorded.remarks],
      };
    },

    async ofProject(viewer: Viewer, projectId: string): Promise<ResponseOf<typeof readProjectTime>> {
      const project = await seenRig(database, viewer, projectId);
      if (!project) throw notFound('project');
      const [ledger, rejected, account, nights] = await Promise.all([
        integrationOf(database, projectId),
        rejectedHours(database, projectId),
        spentOfProject(database, projectId),
        closingsOfProject(database, projectId, project.rigId),
      ]);
      return {
        acceptedHours: ledger!.accepted,
        undecidedHours: ledger!.undecided,
        effectiveHours: ledger!.effective,
        rejected,
        overheadHours: account!.overhead,
        faultHours: account!.fault,
        chargedHours: account!.charged,
        closedNights: nights!.closed,
        openNights: nights!.open,
      };
    },
  };
}

async function writtenSums(
  queries: Queries,
  rigId: string,
  nights: readonly ObservingNight[],
): Promise<Map<string, AccountedNight['spent']>> {
  const rows = await spentByNight(queries, rigId, nights);
  const byNight = new Map<string, AccountedNight['spent']>();
  for (const { nightDate, ...spent } of rows) {
    const sums = byNight.get(nightDate) ?? [];
    sums.push(spent);
    byNight.set(nightDate, sums);
  }
  return byNight;
}

/** Neighbours that differ in nothing a reader sees are one stretch. */
function joined(entries: readonly WrittenEntry[]): WrittenEntry[] {
  const stretches: WrittenEntry[] = [];
  for (const { kind, skyClass, projectId, startUtcMs, endUtcMs } of entries) {
    const last = stretches.at(-1);
    if (last && last.kind === kind && last.skyClass === skyClass && last.projectId === projectId)
      stretches[stretches.length - 1] = { ...last, endUtcMs };
    else stretches.push({ kind, skyClass, projectId, startUtcMs, endUtcMs });
  }
  return stretches;
}

function sumsOf(entries: readonly TimeEntry[]): AccountedNight['spent'] {
  const sums = new Map<string, AccountedNight['spent'][number]>();
  for (const { kind, skyClass, startUtcMs, endUtcMs } of entries) {
    const key = `${kind} ${skyClass}`;
    const before = sums.get(key)?.hours ?? 0;
    sums.set(key, { kind, skyClass, hours: before + (endUtcMs - startUtcMs) / HOUR_MS });
  }
  return [...sums.values()];
}
