// Previewed files into the ledger: exposures, the sky they were taken under, attributions, verdicts that came with them.
import { randomUUID } from 'node:crypto';
import { nightDateAt } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows-repository.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { skiesOf } from '../ledger/index.ts';
import type { ImportContext } from './context.ts';
import type { PreviewedFile } from './preview.ts';
import type { RigRevisionTime } from './repository.ts';
import { fillIdentities, insertPresence, revisionsOfRigs, setOutcomes } from './repository.ts';

export interface AddedExposure {
  readonly exposureId: string;
  readonly goalId: string | null;
}

interface WriteParts {
  readonly importId: string;
  readonly files: readonly PreviewedFile[];
  readonly context: ImportContext;
}

type NewExposure = PreviewedFile & { readonly exposureId: string; readonly headerKey: string };

/** @returns exposures that are new to the ledger, or back in it, and how many were known */
export async function writeExposures(
  queries: Queries,
  viewer: Viewer,
  { importId, files, context }: WriteParts,
): Promise<{ added: AddedExposure[]; known: number }> {
  const revisions = await revisionsOfRigs(queries, viewer.observatoryId);
  const fresh = files.flatMap((one): NewExposure[] =>
    isWritable(one) && (one.identity?.is === 'new' || one.identity?.is === 'unclear')
      ? [{ ...one, exposureId: randomUUID(), headerKey: one.identity.headerKey }]
      : [],
  );
  await insertExposures(queries, viewer, fresh, revisions, context);
  const back = files.flatMap((one) =>
    isWritable(one) && one.identity?.is === 'known' && one.identity.isWithdrawn && one.identity.exposureId
      ? [{ ...one, exposureId: one.identity.exposureId }]
      : [],
  );
  await insertPresence(
    queries,
    { observatoryId: viewer.observatoryId, importId, present: true },
    back.map(({ exposureId }) => exposureId),
  );
  const credited = [...fresh, ...back];
  await insertAttributions(queries, viewer, credited, context);
  await insertMeasurements(queries, fresh);
  await insertVerdicts(queries, viewer, credited);
  const known = files.filter((one) => one.state === 'known' && one.identity?.is === 'known');
  await learnIdentities(queries, known);
  await markOutcomes(queries, importId, credited, known);
  return {
    added: credited.map(({ exposureId, match, state }) => ({
      exposureId,
      goalId: state === 'ready' ? match!.goalId : null,
    })),
    known: known.length,
  };
}

const isWritable = ({ state }: PreviewedFile): boolean => ['ready', 'look', 'uncredited'].includes(state);

async function insertExposures(
  queries: Queries,
  viewer: Viewer,
  fresh: readonly NewExposure[],
  revisions: readonly RigRevisionTime[],
  context: ImportContext,
): Promise<void> {
  if (fresh.length === 0) return;
  const rows = fresh.map(({ file, match, identity, exposureId, headerKey }) => {
    const facts = file.facts!;
    const revision = revisionAt(revisions, match!.rigId!, facts.startUtcMs!);
    return {
      id: exposureId,
      observatory_id: viewer.observatoryId,
      rig_revision_id: revision.id,
      night_date: nightDateAt(facts.startUtcMs!, context.timeZone),
      kind: facts.kind,
      start_utc: new Date(facts.startUtcMs!).toISOString(),
      exposure_s: facts.exposureSec,
      filter_id: match!.filterId,
      gain: facts.gain,
      offset: facts.offset === null ? null : Math.round(facts.offset),
      binning: facts.binning,
      sensor_c: facts.sensorC,
      // Where another has the same data already, this one goes by its moment alone.
      data_sha256: file.dataSha256 === null || identity?.is === 'unclear' ? null : `\\x${file.dataSha256}`,
      header_key: headerKey,
      recorded: new Date().toISOString(),
      camera_name: facts.cameraName,
      observer_name: facts.observerName,
      is_truncated: facts.isTruncated,
    };
  });
  await insertRows(queries, 'exposures', rows);
}

/** The sky as predicted for the moment, where place and filter are known; an import measures nothing. */
async function insertMeasurements(queries: Queries, fresh: readonly NewExposure[]): Promise<void> {
  const places = fresh.flatMap(({ exposureId, file }) =>
    file.facts?.centre ? [[exposureId, file.facts.centre] as const] : [],
  );
  const skies = await skiesOf(
    queries,
    fresh.map(({ exposureId }) => exposureId),
    new Map(places),
  );
  await insertRows(
    queries,
    'measurements',
    fresh.map(({ exposureId }) => {
      const sky = skies.get(exposureId);
      return {
        exposure_id: exposureId,
        after_move: false,
        rate_predicted: sky?.rateShare ?? null,
        airmass: sky?.airmass ?? null,
        transparency: sky?.transparency ?? null,
        sky_ratio: sky?.skyRatio ?? null,
      };
    }),
  );
}

const insertAttributions = (
  queries: Queries,
  viewer: Viewer,
  credited: readonly (PreviewedFile & { exposureId: string })[],
  { panels }: ImportContext,
): Promise<void> =>
  insertRows(
    queries,
    'attributions',
    credited.flatMap(({ match, state, exposureId }) =>
      match!.panelId
        ? [
            {
              id: randomUUID(),
              observatory_id: viewer.observatoryId,
              exposure_id: exposureId,
              project_id: panels.find(({ id }) => id === match!.panelId)!.projectId,
              panel_id: match!.panelId,
              // What nobody has confirmed lies with its panel, without credit.
              goal_id: state === 'ready' ? match!.goalId : null,
              credit_share: state === 'ready' ? match!.creditShare : 0,
              coverage: match!.coverage,
              reason: match!.reasons.join('; ').slice(0, 500),
            },
          ]
        : [],
    ),
  );

const insertVerdicts = (
  queries: Queries,
  viewer: Viewer,
  credited: readonly (PreviewedFile & { exposureId: string })[],
): Promise<void> =>
  insertRows(
    queries,
    'verdicts',
    credited.flatMap(({ file, exposureId }) =>
      file.facts?.verdict === 'accepted' || file.facts?.verdict === 'rejected'
        ? [
            {
              observatory_id: viewer.observatoryId,
              exposure_id: exposureId,
              origin: 'hand',
              by_coordinator: viewer.role === 'coordinator',
              person_id: viewer.personId,
              verdict: file.facts.verdict,
              reason: 'as imported',
              at: new Date().toISOString(),
            },
          ]
        : [],
    ),
  );

/** What the ledger knew only by its run or header learns the hash of its data. */
async function learnIdentities(queries: Queries, known: readonly PreviewedFile[]): Promise<void> {
  const learned = known.flatMap(({ file, identity }) =>
    identity?.is === 'known' && identity.exposureId && file.dataSha256
      ? [{ id: identity.exposureId, sha: file.dataSha256 }]
      : [],
  );
  await fillIdentities(queries, learned);
}

async function markOutcomes(
  queries: Queries,
  importId: string,
  added: readonly (PreviewedFile & { exposureId: string })[],
  known: readonly PreviewedFile[],
): Promise<void> {
  const outcomes = [
    ...added.map(({ file, exposureId }) => ({ id: file.id, outcome: 'added', exposure: exposureId })),
    ...known.map(({ file, identity }) => ({
      id: file.id,
      outcome: 'known',
      exposure: identity?.is === 'known' ? identity.exposureId : null,
    })),
  ];
  await setOutcomes(queries, importId, outcomes);
}

/** The revision of that moment; frames older than the first one are taken for its. */
function revisionAt(revisions: readonly RigRevisionTime[], rigId: string, utcMs: number): RigRevisionTime {
  const own = revisions.filter((revision) => revision.rigId === rigId);
  return own.findLast((revision) => revision.fromUtcMs <= utcMs) ?? own[0];
}
