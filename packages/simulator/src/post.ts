// A stand-in for the world outside: takes letters by SMTP and calls by webhook, keeps the newest in memory, lets one read them.
import type { FastifyInstance } from 'fastify';
import { text } from 'node:stream/consumers';
import { SMTPServer } from 'smtp-server';

const KEPT = 200;

interface Letter {
  readonly by: 'email' | 'webhook';
  readonly to: string;
  readonly text: string;
}

/** @param port where letters are taken; null takes none */
export async function postRoutes(app: FastifyInstance, { port }: { port: number | null }): Promise<void> {
  const letters: Letter[] = [];
  const keep = (letter: Letter): void => {
    letters.unshift(letter);
    letters.length = Math.min(letters.length, KEPT);
  };
  app.get('/post', async () => ({ letters }));
  app.post('/post/hook', async ({ url, body }) => {
    keep({ by: 'webhook', to: url, text: JSON.stringify(body) });
    return { ok: true };
  });
  if (port === null) return;
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    onData: (stream, { envelope }, done) =>
      void text(stream).then((letter) => {
        keep({ by: 'email', to: envelope.rcptTo.map(({ address }) => address).join(', '), text: letter });
        done();
      }, done),
  });
  // A connection that is cut is the caller’s affair.
  server.on('error', (error) => app.log.warn({ err: error }, 'a letter was not taken'));
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  app.addHook('onClose', () => new Promise<void>((resolve) => void server.close(() => resolve())));
}
