// Imports files by their paths: import-files.ts [--as ADDRESS] [--write] PATH… Without --write it shows what would happen and leaves the preview to look at.
import { openAsBlob } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { basename, join, relative } from 'node:path';
import { parseArgs } from 'node:util';
import type { ImportPreview } from '@meridiem/contract';
import { hashesOf, MAX_FILES_A_CALL, readFrameFile } from '@meridiem/contract';
import { configFrom } from './config.ts';
import type { Database } from './database/connection.ts';
import { createDatabase, UNHURRIED } from './database/connection.ts';
import type { ImportService } from './modules/imports/index.ts';
import { applyParts, createImportService } from './modules/imports/index.ts';
import type { Viewer } from './plugins/sessions.ts';
import { importerOf } from './modules/people/index.ts';

/** Lines of what needs a look; the page has all of them. */
const SHOWN = 20;
const STATE_WORDS: Readonly<Record<string, string>> = {
  ready: 'with credit',
  look: 'to be confirmed by a person, else without credit',
  uncredited: 'without credit',
  choose: 'need a rig or a filter chosen',
  known: 'in the ledger already',
  refused: 'can not be read',
  added: 'added',
};

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { as: { type: 'string' }, write: { type: 'boolean', default: false } },
});
if (positionals.length === 0) fail('say which files or folders to import');

const config = configFrom(process.env);
const database = createDatabase(config.databaseUrl, UNHURRIED);
try {
  const viewer = await importer(database, values.as);
  const { service, timeZone } = await services(database, viewer);
  const id = await readAll(service, viewer, timeZone, positionals);
  show(await service.preview(viewer, id));
  if (values.write) {
    const { added, known, left } = await service.apply(viewer, id);
    console.log(`Imported ${added}; ${known} were known; ${left} left out. One undo removes the import.`);
  } else
    console.log(
      `Nothing is written yet. Look at it, match by hand and import it at /imports/${id}, or run this with --write.`,
    );
} catch (error) {
  fail(error instanceof Error ? error.message : String(error));
} finally {
  await database.close();
}

/** The member whose import this is; a coordinator where nobody is named. */
async function importer(queries: Database, email: string | undefined): Promise<Viewer> {
  const found = await importerOf(queries, email);
  return found ?? fail(email ? `${email} is no member who may import` : 'there is no coordinator yet');
}

async function services(queries: Database, viewer: Viewer): Promise<{ service: ImportService; timeZone: string }> {
  const parts = applyParts(queries);
  const { timeZone } = await parts.observatory.site(viewer.observatoryId);
  return { service: createImportService({ database: queries, ...parts }), timeZone };
}

async function readAll(
  service: ImportService,
  viewer: Viewer,
  timeZone: string,
  roots: readonly string[],
): Promise<string> {
  const paths = (await Promise.all(roots.map(filesBelow))).flat();
  if (paths.length === 0) fail('there are no files there');
  const source = roots.length === 1 ? basename(roots[0]) : `${basename(roots[0])} and ${roots.length - 1} more`;
  const { id } = await service.begin(viewer, `${source} (${paths.length} files)`.slice(0, 200));
  for (let i = 0; i < paths.length; i += MAX_FILES_A_CALL) {
    const files = [];
    for (const { path, name } of paths.slice(i, i + MAX_FILES_A_CALL)) {
      for (const { file, data } of await readFrameFile(name, await openAsBlob(path), timeZone))
        files.push(data ? { ...file, ...(await hashesOf(data)) } : file);
    }
    for (let k = 0; k < files.length; k += MAX_FILES_A_CALL)
      await service.add(viewer, id, { files: files.slice(k, k + MAX_FILES_A_CALL) });
    console.log(`read ${Math.min(paths.length, i + MAX_FILES_A_CALL)} of ${paths.length} files`);
  }
  return id;
}

/** Files below a path, in order, named from the folder given. */
async function filesBelow(root: string): Promise<{ path: string; name: string }[]> {
  if (!(await stat(root)).isDirectory()) return [{ path: root, name: basename(root) }];
  const entries = await readdir(root, { recursive: true, withFileTypes: true });
  return entries
    .filter((entry) => entry.isFile() && !entry.name.startsWith('.'))
    .map((entry) => join(entry.parentPath, entry.name))
    .toSorted()
    .map((path) => ({ path, name: join(basename(root), relative(root, path)) }));
}

function show({ rows }: ImportPreview): void {
  for (const [state, words] of Object.entries(STATE_WORDS)) {
    const count = rows.filter((row) => row.state === state).length;
    if (count > 0) console.log(`${String(count).padStart(6)} ${words}`);
  }
  const doubtful = rows.filter(({ state }) => !['ready', 'known', 'added'].includes(state));
  for (const { name, reasons, doubts } of doubtful.slice(0, SHOWN))
    console.log(`  ${name}: ${[...reasons, ...doubts].join('; ')}`);
  if (doubtful.length > SHOWN) console.log(`  and ${doubtful.length - SHOWN} more`);
}

function fail(words: string): never {
  console.error(`meridiem: ${words}`);
  process.exit(1);
}
