// A worker: works off stored jobs, beside servers or alone on another machine.
import { setPriority } from 'node:os';
import { createClock } from './clock.ts';
import { messageSettings } from './config.ts';
import { createDatabase } from './database/connection.ts';
import { createJobWorker } from './jobs/job-worker.ts';
import { createThreadPool } from './jobs/thread-pool.ts';
import { applyParts, importWork } from './modules/imports/index.ts';
import { createMessenger, createOutside } from './modules/notices/index.ts';

for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);

/** Work that nobody watches gives way to whoever waits for a page or minds a telescope. */
const GIVES_WAY = 10;
setPriority(GIVES_WAY);

const databaseUrl = process.env.MERIDIEM_DATABASE_URL;
if (!databaseUrl) throw new Error('The setting MERIDIEM_DATABASE_URL is missing');
const say = (words: string, details: object = {}): void =>
  console.log(JSON.stringify({ at: new Date().toISOString(), words, ...details }));

const database = createDatabase(databaseUrl, { connections: 4 });
const threads = createThreadPool(2);
const START_AGAIN_MS = 1000;

/** The database may not be there yet, or not migrated yet by the server that starts beside. */
async function started() {
  for (;;) {
    try {
      return await createJobWorker({
        database,
        databaseUrl: databaseUrl!,
        threads,
        works: { import: importWork(database, applyParts(database)) },
        warn: (error, words) => say(`${words} failed`, { error: String(error) }),
      });
    } catch (error) {
      say('waiting for the database', { error: String(error) });
      await new Promise((resolve) => setTimeout(resolve, START_AGAIN_MS));
    }
  }
}

const worker = await started();
const clockStart = process.env.MERIDIEM_CLOCK;
const messenger = createMessenger({
  database,
  clock: createClock(clockStart ? Date.parse(clockStart) : null),
  outside: createOutside(messageSettings(process.env)),
  warn: (error, words) => say(`${words} failed`, { error: String(error) }),
});
say('waiting for jobs');
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.on(signal, () => {
    void Promise.all([worker.close(), messenger.close()])
      .then(() => threads.close())
      .then(() => database.close())
      .finally(() => process.exit(0));
  });
