// Names of delivered files as they are chosen, and where the archive is.
import type { DeliveredFile, DeliveryQuery } from '@meridiem/contract';
import { DEFAULT_DELIVERY, deliveryArchive } from '@meridiem/contract';
import type { NamePart } from '@meridiem/core';

export const PART_WORDS: Readonly<Record<NamePart, string>> = {
  project: 'project',
  panel: 'panel',
  filter: 'filter',
  length: 'exposure length',
  night: 'night',
  time: 'start, UTC',
  kind: 'kind',
  rig: 'rig',
  verdict: 'verdict',
};

export const partsOf = (text: string): NamePart[] => (text === '' ? [] : (text.split(',') as NamePart[]));

/** A part taken away where it is chosen, put at the end where it is not. */
export const toggledPart = (text: string, part: NamePart): string => {
  const parts = partsOf(text);
  return (parts.includes(part) ? parts.filter((one) => one !== part) : [...parts, part]).join(',');
};

/** What the address says, or what is usual. "none" stands for no part at all. */
export function deliveryQuery(search: URLSearchParams): Required<DeliveryQuery> {
  const text = (key: 'folders' | 'name'): string => {
    const said = search.get(key);
    return said === null ? DEFAULT_DELIVERY[key] : said === 'none' ? '' : said;
  };
  const set = search.get('set');
  return {
    folders: text('folders'),
    name: text('name'),
    set: set === 'accepted' || set === 'all' ? set : DEFAULT_DELIVERY.set,
    calibration: search.get('calibration') === 'without' ? 'without' : DEFAULT_DELIVERY.calibration,
  };
}

export const archiveAddress = (projectId: string, query: Required<DeliveryQuery>): string =>
  `/api${deliveryArchive.path.replace(':id', projectId)}?${new URLSearchParams(query)}`;

/** "Calibration that fits: 20 flats, 10 darks, 20 bias."; null where the lights have none. */
export function calibrationWords(files: readonly Pick<DeliveredFile, 'kind'>[]): string | null {
  const counts = (['flat', 'dark', 'bias'] as const).flatMap((kind) => {
    const count = files.filter((file) => file.kind === kind).length;
    if (count === 0) return [];
    return [`${count} ${kind === 'bias' || count === 1 ? kind : `${kind}s`}`];
  });
  return counts.length === 0 ? null : `Calibration that fits: ${counts.join(', ')}.`;
}

/** "1.4 GB" */
export function amountWords(bytes: number): string {
  const units = ['B', 'kB', 'MB', 'GB', 'TB'];
  const power = Math.min(units.length - 1, Math.floor(Math.log10(Math.max(1, bytes)) / 3));
  const value = bytes / 1000 ** power;
  return `${power === 0 || value >= 100 ? Math.round(value) : value.toFixed(1)} ${units[power]}`;
}
