// Text that no database keeps is refused before any service sees it.
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import { ServiceError } from '../errors.ts';

export const plainTextPlugin = fastifyPlugin(async (app: FastifyInstance) => {
  app.addHook('preHandler', async ({ params, query, body }) => {
    for (const part of [params, query, body]) {
      const field = fieldWithNul(part, '');
      if (field !== null)
        throw new ServiceError('INPUT_INVALID', 'There is a character in it that no text has', { field });
    }
  });
});

/** The name of a field whose text holds a zero character; null where none does. */
function fieldWithNul(value: unknown, name: string): string | null {
  if (typeof value === 'string') return value.includes('\u0000') ? name : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inside] of Object.entries(value)) {
    if (key.includes('\u0000')) return name;
    const found = fieldWithNul(inside, Array.isArray(value) ? name : key);
    if (found !== null) return found;
  }
  return null;
}
