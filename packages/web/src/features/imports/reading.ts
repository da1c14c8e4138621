// The reading that goes on while people look at the preview: one at a time, known to every page, stopped by a word.
import type { FrameData, ReadFile } from '@meridiem/contract';
import { addImportFiles, addImportHashes, beginImport, hashesOf, readFrameFile } from '@meridiem/contract';
import { useSyncExternalStore } from 'react';
import { call, wordsOf } from '../../app/api.ts';

export interface Reading {
  readonly importId: string | null;
  readonly stage: 'idle' | 'headers' | 'hashes' | 'done' | 'stopped' | 'failed';
  readonly done: number;
  readonly all: number;
  readonly words: string;
}

const IDLE: Reading = { importId: null, stage: 'idle', done: 0, all: 0, words: '' };
const CHUNK = 100;

let state = IDLE;
let stopping = false;
const listeners = new Set<() => void>();
const set = (next: Partial<Reading>): void => {
  state = { ...state, ...next };
  for (const listener of listeners) listener();
};

export const useReading = (): Reading =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => state,
  );

/** Files that are read stay in the import; the rest are left out. */
export const stopReading = (): void => {
  stopping = true;
};

/** @param onBegun is told the import's id as soon as the first headers are in it */
export async function startReading(
  files: readonly File[],
  timeZone: string,
  onBegun: (importId: string) => void,
): Promise<void> {
  stopping = false;
  set({ ...IDLE, stage: 'headers', all: files.length });
  try {
    const source = sourceOf(files);
    const { id } = await call(beginImport, { body: { source } });
    set({ importId: id });
    const toHash = await readHeaders(id, files, timeZone, () => onBegun(id));
    if (!stopping) await hashAll(id, toHash);
    set({ stage: stopping ? 'stopped' : 'done' });
  } catch (error) {
    set({ stage: 'failed', words: wordsOf(error) });
  }
}

interface ToHash {
  readonly fileId: string;
  readonly data: FrameData;
}

async function readHeaders(
  importId: string,
  files: readonly File[],
  timeZone: string,
  onFirst: () => void,
): Promise<ToHash[]> {
  const toHash: ToHash[] = [];
  let waiting: ReadFile[] = [];
  const send = async (): Promise<void> => {
    for (let i = 0; i < waiting.length; i += CHUNK) {
      const chunk = waiting.slice(i, i + CHUNK);
      const { ids } = await call(addImportFiles, {
        params: { id: importId },
        body: { files: chunk.map(({ file }) => file) },
      });
      chunk.forEach(({ data }, k) => data && toHash.push({ fileId: ids[k], data }));
    }
    if (waiting.length > 0) onFirst();
    waiting = [];
  };
  for (const [i, file] of files.entries()) {
    if (stopping) break;
    waiting.push(...(await readFrameFile(file.webkitRelativePath || file.name, file, timeZone)));
    set({ done: i + 1 });
    if (waiting.length >= CHUNK) await send();
  }
  await send();
  return toHash;
}

async function hashAll(importId: string, toHash: readonly ToHash[]): Promise<void> {
  set({ stage: 'hashes', done: 0, all: toHash.length });
  for (let i = 0; i < toHash.length && !stopping; i += CHUNK) {
    const hashes = [];
    for (const { fileId, data } of toHash.slice(i, i + CHUNK)) {
      hashes.push({ fileId, ...(await hashesOf(data)) });
      set({ done: i + hashes.length });
    }
    await call(addImportHashes, { params: { id: importId }, body: { hashes } });
  }
}

/** "night 14 (212 files)" from the folder, or the one file's name. */
function sourceOf(files: readonly File[]): string {
  const folder = files[0].webkitRelativePath.split('/')[0];
  if (folder) return `${folder} (${files.length} files)`;
  return files.length === 1 ? files[0].name : `${files[0].name} and ${files.length - 1} more`;
}
