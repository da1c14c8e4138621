// The seam for simulated time, for an observatory that has none of its own: time passes only while the night waits by it.
import type { IncomingMessage, ServerResponse } from 'node:http';
import { observatoryClock, SteppedTime } from '@meridiem/simulator';

export type Answers = (request: IncomingMessage, response: ServerResponse, body: Buffer) => boolean;

export function heldClock(startUtcMs: number) {
  const clock = observatoryClock(() => performance.now(), startUtcMs);
  const time = new SteppedTime(clock);
  const say = (response: ServerResponse): void =>
    void response
      .writeHead(200, { 'content-type': 'application/json' })
      .end(JSON.stringify({ utcMs: clock.nowUtcMs() }));
  /** @returns whether the request was for it; a rig that is to be built is built already */
  const answers: Answers = ({ url, method }, response, body) => {
    if (!['/', '/clock', '/clock/run'].includes(url!)) return false;
    const asked = (body.length > 0 ? JSON.parse(body.toString()) : {}) as { sec?: number; isBeside?: boolean; utcMs?: number; speed?: number; stands?: boolean }; // prettier-ignore
    if (url === '/clock/run') {
      const gone = new Promise<void>((resolve) => response.once('close', resolve));
      void time.run(asked.sec!, { isBeside: asked.isBeside, gone }).then(() => say(response));
      return true;
    }
    if (method === 'PUT' && url === '/clock') clock.set(asked);
    if (asked.stands) time.stand();
    say(response);
    return true;
  };
  return { nowUtcMs: clock.nowUtcMs, answers, end: (): void => time.end() };
}
