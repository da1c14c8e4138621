// The built pages: a file where there is one, the single page for every other address of people.
import { stat } from 'node:fs/promises';
import { join, normalize, sep } from 'node:path';
import fastifyStatic from '@fastify/static';
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';

/** Where no page is: files whose names carry a hash of what is in them, and the interface for programs. */
const NO_PAGES = [`assets${sep}`, `api${sep}`];

/** Files are looked for when they are asked for: pages built anew are served without a restart. */
export const pagesPlugin = fastifyPlugin(async (app: FastifyInstance, { webRoot }: { webRoot: string }) => {
  await app.register(fastifyStatic, { root: webRoot, serve: false, maxAge: '1h', preCompressed: true });
  app.get<{ Params: { '*': string } }>('/*', async ({ params }, reply) => {
    const path = normalize(params['*']);
    if (await isFileIn(webRoot, path)) return reply.sendFile(path);
    // A page in the place of a file that is gone would be read as a script.
    if (NO_PAGES.some((folder) => path.startsWith(folder))) return reply.callNotFound();
    return reply.sendFile('index.html', { maxAge: 0 });
  });
});

async function isFileIn(root: string, path: string): Promise<boolean> {
  if (path === '.' || path.startsWith('..') || path.includes('\u0000')) return false;
  const found = await stat(join(root, path)).catch(() => null);
  return found?.isFile() ?? false;
}
