// Connections that a browser opened ahead and never asked anything on: they end with the server, which would wait for them for ever.
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import type { Socket } from 'node:net';

export const silentConnectionsPlugin = fastifyPlugin(async (app: FastifyInstance) => {
  const silent = new Set<Socket>();
  app.server.on('connection', (socket: Socket) => {
    silent.add(socket);
    socket.once('close', () => silent.delete(socket));
  });
  app.server.on('request', ({ socket }) => silent.delete(socket));
  app.addHook('preClose', async () => {
    for (const socket of silent) socket.destroy();
  });
});
