// Previewed files into the ledger: exposures, the sky they were taken under, attributions, verdicts that came with them.
import { randomUUID } from 'node:crypto';
import { nightDateAt, regionRead } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { Recorded } from '../ledger/index.ts';
import { withPartners } from '../joins/index.ts';
import { attribute, recordExposures, recordMeasurements, recordVerdicts, skiesOf } from '../ledger/index.ts';
import type { ImportContext } from './context.ts';
import type { PreviewedFile } from './preview.ts';
import type { RigRevisionTime } from './repository.ts';
import { fillIdentities, insertPresence, lightsAmong, revisionsOfRigs, setOutcomes } from './repository.ts';

export interface AddedExposure {
  readonly exposureId: string;
  readonly goalId: string | null;
}

interface WriteParts {
  readonly importId: string;
  readonly files: readonly PreviewedFile[];
  readonly context: ImportContext;
}

type NewFrame = PreviewedFile & { readonly exposureId: string; readonly headerKey: string };

/** @returns exposures that are new to the ledger, or back in it, and how many were known */
export async function writeExposures(
  queries: Queries,
  viewer: Viewer,
  { importId, files, context }: WriteParts,
): Promise<{ added: AddedExposure[]; known: number }> {
  const fresh = files.flatMap((one): NewFrame[] =>
    isWritable(one) && (one.identity?.is === 'new' || one.identity?.is === 'unclear')
      ? [{ ...one, exposureId: randomUUID(), headerKey: one.identity.headerKey }]
      : [],
  );
  await insertExposures(queries, viewer, fresh, context);
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
  // What the ledger knows as a flat stays one, whatever a later file of the same moment says.
  const lights = await lightsAmong(
    queries,
    back.map(({ exposureId }) => exposureId),
  );
  const creditable = [...fresh, ...back.filter(({ exposureId }) => lights.has(exposureId))];
  await attributeFrames(queries, viewer, creditable, context);
  await storeVerdicts(queries, viewer, credited);
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

/** New exposures with the sky as predicted for them, where place and filter are known; an import measures nothing. */
async function insertExposures(
  queries: Queries,
  viewer: Viewer,
  fresh: readonly NewFrame[],
  { timeZone }: ImportContext,
): Promise<void> {
  if (fresh.length === 0) return;
  const revisions = await revisionsOfRigs(queries, viewer.observatoryId);
  await recordExposures(
    queries,
    viewer.observatoryId,
    fresh.map((frame) => ({ exposure: exposureOf(frame, revisions, timeZone), measurement: null })),
  );
  const places = fresh.flatMap(({ exposureId, file }) =>
    file.facts?.centre ? [[exposureId, file.facts.centre] as const] : [],
  );
  const exposureIds = fresh.map(({ exposureId }) => exposureId);
  const skies = await skiesOf(queries, exposureIds, new Map(places));
  await recordMeasurements(
    queries,
    exposureIds.map((exposureId) => {
      const { rateShare: ratePredicted, ...sky } = skies.get(exposureId) ?? { rateShare: null };
      return { exposureId, measuredUtcMs: Date.now(), method: 'predicted', ...sky, ratePredicted };
    }),
  );
}

function exposureOf(
  { file, match, identity, exposureId, headerKey }: NewFrame,
  revisions: readonly RigRevisionTime[],
  timeZone: string,
): Recorded['exposure'] {
  const facts = file.facts!;
  const revision = revisionAt(revisions, match!.rigId!, facts.startUtcMs!);
  return {
    id: exposureId,
    rigRevisionId: revision.id,
    nightDate: nightDateAt(facts.startUtcMs!, timeZone),
    kind: facts.kind,
    startUtcMs: facts.startUtcMs!,
    exposureSec: facts.exposureSec!,
    filterId: match!.filterId,
    gain: facts.gain,
    offset: facts.offset === null ? null : Math.round(facts.offset),
    binning: facts.binning,
    sensorC: facts.sensorC,
    region: facts.binning === null ? null : regionRead(revision.sensor, facts, facts.binning),
    // Where another has the same data already, this one goes by its moment alone.
    dataSha256: identity?.is === 'unclear' ? null : file.dataSha256,
    pixelsSha256: identity?.is === 'unclear' ? null : file.pixelsSha256,
    headerKey,
    cameraName: facts.cameraName,
    observerName: facts.observerName,
    isTruncated: facts.isTruncated,
    isSimulated: facts.isSimulated,
  };
}

type Credited = PreviewedFile & { readonly exposureId: string };

/** Gives frames to their panels; joined projects that want the same have them as well. */
async function attributeFrames(
  queries: Queries,
  { observatoryId }: Viewer,
  credited: readonly Credited[],
  { panels }: ImportContext,
): Promise<string[]> {
  const placed = credited.flatMap(({ match, file, state, exposureId }) =>
    match!.panelId
      ? [
          {
            exposureId,
            startUtcMs: file.facts!.startUtcMs!,
            projectId: panels.find(({ id }) => id === match!.panelId)!.projectId,
            panelId: match!.panelId,
            // What nobody has confirmed lies with its panel, without credit.
            goalId: state === 'ready' ? match!.goalId : null,
            creditShare: state === 'ready' ? match!.creditShare : 0,
            coverage: match!.coverage,
            reason: match!.reasons.join('; ').slice(0, 500),
          },
        ]
      : [],
  );
  return attribute(queries, observatoryId, await withPartners(queries, placed));
}

const storeVerdicts = (
  queries: Queries,
  { observatoryId, personId, role }: Viewer,
  credited: readonly Credited[],
): Promise<void> =>
  recordVerdicts(
    queries,
    observatoryId,
    credited.flatMap(({ file, exposureId }) =>
      file.facts?.verdict === 'accepted' || file.facts?.verdict === 'rejected'
        ? [
            {
              exposureId,
              origin: 'hand',
              byCoordinator: role === 'coordinator',
              personId,
              verdict: file.facts.verdict,
              reason: 'as imported',
            },
          ]
        : [],
    ),
  );

/** What the ledger knew only by its run or header learns the hash of its data. */
async function learnIdentities(queries: Queries, known: readonly PreviewedFile[]): Promise<void> {
  const learned = known.flatMap(({ file, identity }) =>
    identity?.is === 'known' && identity.exposureId && file.dataSha256
      ? [{ id: identity.exposureId, sha: file.dataSha256, pixels: file.pixelsSha256 }]
      : [],
  );
  await fillIdentities(queries, learned);
}

async function markOutcomes(
  queries: Queries,
  importId: string,
  added: readonly Credited[],
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
