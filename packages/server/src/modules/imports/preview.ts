// Files of an import as they stand now: what each is matched to, whether it is known, and why not.
import type { ImportRow } from '@meridiem/contract';
import type { FrameFacts, FrameMatch, Identity } from '@meridiem/core';
import { combinedName, headerKeyOf, matchFrame } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { mapUnhurried } from '../../unhurried.ts';
import type { ImportContext } from './context.ts';
import { identify } from '../ledger/index.ts';
import type { StoredFile } from './repository.ts';
import { storedFiles } from './repository.ts';

export interface PreviewedFile {
  readonly file: StoredFile;
  readonly match: FrameMatch | null;
  readonly identity: Identity | null;
  readonly state: ImportRow['state'];
}

/** Every file with its match and identity, as they are now. */
export async function previewed(
  queries: Queries,
  viewer: Viewer,
  importId: string,
  context: ImportContext,
): Promise<PreviewedFile[]> {
  const files = await storedFiles(queries, importId);
  const matched = await mapUnhurried(files, (file) => ({
    file,
    match: file.facts && creditable(file.facts, context, matchFrame(file.facts, context, file.byHand)),
  }));
  const identities = await identify(
    queries,
    viewer.observatoryId,
    matched.flatMap(({ file, match }) =>
      file.facts && match?.rigId && file.facts.startUtcMs !== null && file.facts.exposureSec !== null
        ? [
            {
              frameId: file.id,
              rigId: match.rigId,
              startUtcMs: file.facts.startUtcMs,
              exposureSec: file.facts.exposureSec,
              dataSha256: file.dataSha256,
              pixelsSha256: file.pixelsSha256,
              headerKey: file.facts.headerKey ?? headerKeyOf(match.rigId, file.facts, file.name),
            },
          ]
        : [],
    ),
  );
  return matched.map(({ file, match }) => {
    const identity = identities.get(file.id) ?? null;
    return { file, match, identity, state: stateOf(file, match, identity) };
  });
}

function creditable({ isSimulated }: FrameFacts, { simulatedCount }: ImportContext, match: FrameMatch): FrameMatch {
  if (!isSimulated || simulatedCount) return match;
  const reasons = [...match.reasons, 'made by a simulated observatory: never credited beside real devices'];
  return { ...match, goalId: null, creditShare: 0, reasons };
}

function stateOf(file: StoredFile, match: FrameMatch | null, identity: Identity | null): ImportRow['state'] {
  if (file.outcome === 'added') return 'added';
  if (file.outcome === 'known') return 'known';
  if (!file.facts || !match) return 'refused';
  const isLight = file.facts.kind === 'light';
  if (unwritableWords(file) !== null) return 'refused';
  if (!match.rigId || (isLight && !match.filterId)) return 'choose';
  if (identity?.is === 'known' && !identity.isWithdrawn) return 'known';
  if (identity?.is === 'unclear' && file.byHand.panelId === undefined) return 'look';
  if (match.certainty === 'ask') return 'look';
  return match.goalId ? 'ready' : 'uncredited';
}

/** Why a file can be no row of the ledger; null where it can. */
function unwritableWords({ facts, name }: StoredFile): string | null {
  if (!facts) return null;
  const combined = facts.combined ?? combinedName(name);
  if (combined) return combined;
  if (facts.startUtcMs === null) return 'the header says no start';
  if (facts.exposureSec === null) return 'the header says no length';
  return facts.binning === null ? 'the header says no binning that a ledger row has' : null;
}

export function rowOf({ file, match, identity, state }: PreviewedFile, { panels }: ImportContext): ImportRow {
  const { facts } = file;
  const panel = panels.find(({ id }) => id === match?.panelId);
  const unwritable = unwritableWords(file);
  return {
    id: file.id,
    name: file.name,
    state,
    kind: facts?.kind ?? null,
    startUtcMs: facts?.startUtcMs ?? null,
    exposureSec: facts?.exposureSec ?? null,
    objectName: facts?.objectName ?? null,
    filterName: facts?.filterName ?? null,
    rigId: match?.rigId ?? null,
    filterId: match?.filterId ?? null,
    panelId: match?.panelId ?? null,
    panelName: panel?.name ?? null,
    projectName: panel?.projectName ?? null,
    goalId: match?.goalId ?? null,
    coverage: match?.coverage ?? null,
    creditShare: match?.creditShare ?? 0,
    isByHand: file.byHand.panelId !== undefined,
    hasHash: file.dataSha256 !== null,
    reasons: file.refused
      ? [file.refused]
      : [
          ...(unwritable ? [unwritable] : []),
          ...(identity?.is === 'unclear' ? [identity.words] : []),
          ...(match?.reasons ?? []),
        ],
    doubts: [...(facts?.doubts ?? [])],
  };
}
