// Answers are for whoever asked: nothing between them and the server keeps one, unless its route says otherwise.
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';

export const privateAnswersPlugin = fastifyPlugin(async (app: FastifyInstance) => {
  app.addHook('onSend', async (request, reply) => {
    if (request.url.startsWith('/api') && !reply.hasHeader('cache-control')) reply.header('cache-control', 'no-store');
  });
});
