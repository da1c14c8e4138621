// What no service should ever see is refused before: text that no database keeps, and bodies nested without end.
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import { ServiceError } from '../errors.ts';

const DEEPEST_JSON = 40;

export const plainTextPlugin = fastifyPlugin(async (app: FastifyInstance) => {
  const parse = app.getDefaultJsonParser('error', 'error');
  app.removeContentTypeParser('application/json');
  app.addContentTypeParser('application/json', { parseAs: 'string' }, (request, body, done) => {
    const text = body as string;
    if (depthOf(text) > DEEPEST_JSON)
      return done(new ServiceError('INPUT_INVALID', `The body is nested deeper than ${DEEPEST_JSON} levels`));
    return parse(request, text, done);
  });
  app.addHook('preValidation', async ({ params, query, body }) => {
    for (const part of [params, query, body]) {
      const field = fieldWithOddText(part, '');
      if (field !== null)
        throw new ServiceError('INPUT_INVALID', 'There is a character in it that no text has', { field });
    }
  });
});

/** How deep lists and objects lie in each other; what stands in quotes does not count. */
export function depthOf(json: string): number {
  let depth = 0;
  let deepest = 0;
  let isQuoted = false;
  for (let i = 0; i < json.length; i += 1) {
    const sign = json[i];
    if (isQuoted) {
      if (sign === '\\') i += 1;
      else if (sign === '"') isQuoted = false;
    } else if (sign === '"') isQuoted = true;
    else if (sign === '{' || sign === '[') deepest = Math.max(deepest, (depth += 1));
    else if (sign === '}' || sign === ']') depth -= 1;
  }
  return deepest;
}

const isOdd = (text: string): boolean => text.includes('\u0000') || !text.isWellFormed();

/** The name of a field whose text holds a zero character or half a character; null where none does. */
function fieldWithOddText(value: unknown, name: string): string | null {
  if (typeof value === 'string') return isOdd(value) ? name : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inside] of Object.entries(value)) {
    if (isOdd(key)) return name;
    const found = fieldWithOddText(inside, Array.isArray(value) ? name : key);
    if (found !== null) return found;
  }
  return null;
}
