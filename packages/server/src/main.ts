// Starts the server: settings, migrations, application, graceful stop.
import { writeFileSync } from 'node:fs';
import { createApp } from './app.ts';
import type { FastifyInstance } from 'fastify';
import { createClock } from './clock.ts';
import { configFrom } from './config.ts';
import { createDatabase } from './database/connection.ts';
import { migrate } from './database/migrate.ts';
import { createFrameWorker, FRAME_THREADS } from './jobs/frame-worker.ts';
import { createPlanWorker, PLANNING_THREADS } from './jobs/plan-worker.ts';
import { createThreadPool } from './jobs/thread-pool.ts';

/** How long requests under way may take to finish after a signal. */
const STOP_WITHIN_MS = 20_000;
const PORTS_TRIED = 50;

// A log that can't be written, on a full disk say, is lost; the server goes on.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);

const config = configFrom(process.env);
const app_ = new URL(config.databaseUrl);
await migrate(config.ownerDatabaseUrl, {
  role: decodeURIComponent(app_.username),
  password: decodeURIComponent(app_.password),
});
const database = createDatabase(config.databaseUrl);
const threads = createThreadPool(PLANNING_THREADS + FRAME_THREADS);
const planWorker = createPlanWorker(threads);
const frameWorker = createFrameWorker(threads);
const app = await createApp({ config, database, clock: createClock(config.clockStartUtcMs), planWorker, frameWorker });
const port = await listenOnNextFree(app, config.host, config.port);
if (config.portFile) writeFileSync(config.portFile, `${port}\n`);

/** Another program may have taken the port between looking and listening: then the next one is tried. */
async function listenOnNextFree(app: FastifyInstance, host: string, first: number): Promise<number> {
  for (let port = first; ; port += 1) {
    try {
      return Number(new URL(await app.listen({ host, port })).port);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE' || port - first >= PORTS_TRIED) throw error;
    }
  }
}

let stopping = false;
async function stop(signal: string): Promise<void> {
  if (stopping) return;
  stopping = true;
  app.log.info({ signal }, 'stopping');
  setTimeout(() => app.server.closeAllConnections(), STOP_WITHIN_MS).unref();
  await app.close();
  await threads.close();
  await database.close();
  process.exit(0);
}
process.on('SIGTERM', () => void stop('SIGTERM'));
process.on('SIGINT', () => void stop('SIGINT'));
