// Whether a file is an exposure that the ledger knows: by the hash of its data unit, then by what its header says.
import type { FrameFacts } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';

export interface Identified {
  readonly fileId: string;
  readonly dataSha256: string | null;
  readonly headerKey: string;
}

export type Identity =
  | { readonly is: 'new'; readonly headerKey: string }
  /** `exposureId` null: the same as an earlier file of this import. */
  | { readonly is: 'known'; readonly exposureId: string | null; readonly isWithdrawn: boolean };

/** Rig, start and length; where a start is given in whole seconds only, the sequence number or the file's name as well. */
export function headerKeyOf(rigId: string, facts: FrameFacts, fileName: string): string {
  const key = `${rigId}|${Math.round(facts.startUtcMs ?? 0)}|${facts.exposureSec}`;
  if ((facts.startStepMs ?? 1000) < 1000) return key;
  return `${key}|${facts.sequence ?? fileName.replace(/^.*[/\\]/, '')}`;
}

interface KnownExposure {
  readonly id: string;
  readonly dataSha256: string | null;
  readonly headerKey: string | null;
  readonly isWithdrawn: boolean;
}

/** Resolves files in their order, against the ledger and against each other.
 * Equal headers with different data are different exposures; equal data is one exposure whatever the headers say. */
export async function identify(
  queries: Queries,
  observatoryId: string,
  files: readonly Identified[],
): Promise<Map<string, Identity>> {
  const known = await queries.rows<KnownExposure>(
    `SELECT e.id, encode(e.data_sha256, 'hex') AS "dataSha256", e.header_key AS "headerKey",
       NOT coalesce((SELECT p.present FROM exposure_presence p WHERE p.exposure_id = e.id ORDER BY p.seq DESC LIMIT 1), true) AS "isWithdrawn"
     FROM exposures e WHERE e.observatory_id = $1 AND (e.header_key = ANY ($2) OR e.data_sha256 = ANY (SELECT decode(s, 'hex') FROM unnest($3::text[]) s))`,
    [
      observatoryId,
      files.flatMap((file) => [
        file.headerKey,
        ...(file.dataSha256 ? [distinctKey(file.headerKey, file.dataSha256)] : []),
      ]),
      files.flatMap((file) => file.dataSha256 ?? []),
    ],
  );
  const byHash = new Map<string, { exposureId: string | null; isWithdrawn: boolean }>();
  const byKey = new Map<string, { exposureId: string | null; isWithdrawn: boolean; dataSha256: string | null }>();
  for (const { id, dataSha256, headerKey, isWithdrawn } of known) {
    if (dataSha256) byHash.set(dataSha256, { exposureId: id, isWithdrawn });
    if (headerKey) byKey.set(headerKey, { exposureId: id, isWithdrawn, dataSha256 });
  }
  const identities = new Map<string, Identity>();
  for (const { fileId, dataSha256, headerKey } of files) {
    const sameData = dataSha256 ? byHash.get(dataSha256) : undefined;
    const sameHeader = byKey.get(headerKey);
    const differs = sameHeader?.dataSha256 && dataSha256 && sameHeader.dataSha256 !== dataSha256;
    const same = sameData ?? (differs ? byKey.get(distinctKey(headerKey, dataSha256)) : sameHeader);
    if (same) {
      if (dataSha256) byHash.set(dataSha256, same);
      identities.set(fileId, { is: 'known', exposureId: same.exposureId, isWithdrawn: same.isWithdrawn });
      continue;
    }
    const key = differs ? distinctKey(headerKey, dataSha256) : headerKey;
    identities.set(fileId, { is: 'new', headerKey: key });
    if (dataSha256) byHash.set(dataSha256, { exposureId: null, isWithdrawn: false });
    byKey.set(key, { exposureId: null, isWithdrawn: false, dataSha256 });
  }
  return identities;
}

const distinctKey = (headerKey: string, dataSha256: string): string => `${headerKey}|${dataSha256.slice(0, 16)}`;
