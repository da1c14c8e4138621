import { describe, expect, it } from '@jest/globals';
import type { ClaimedRun } from '@meridiem/contract';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { playNight } from './play-night.ts';
import type { RigDriver } from './rig-driver.ts';
import type { ServerLink } from './server-link.ts';
import { RefusedCall, serverLink } from './server-link.ts';
import { claimRun } from '@meridiem/contract';

const step = (seq: number, panelId: string) =>
  ({ id: `s${seq}`, seq, panelId, exposureSec: 300 }) as ClaimedRun['steps'][number];
const run = {
  id: 'run',
  fence: 3,
  speed: 600,
  steps: [step(1, 'a'), step(2, 'a'), step(3, 'b')],
} as unknown as ClaimedRun;
const driver: RigDriver = {
  isSimulated: true,
  expose: async () => ({ outcome: 'done', words: 'Taken', exposure: null }),
};
const sleep = async (): Promise<void> => undefined;

function recordingLink(answer: (path: string, call: number) => unknown): {
  link: Pick<ServerLink, 'call'>;
  calls: string[];
} {
  const calls: string[] = [];
  const link: Pick<ServerLink, 'call'> = {
    async call(operation, _id, body) {
      calls.push(`${operation.path.split('/').pop()} ${(body as { stepId?: string }).stepId ?? ''}`.trim());
      const given = answer(operation.path, calls.length);
      if (given instanceof Error) throw given;
      return given as never;
    },
  };
  return { link, calls };
}

describe('a night', () => {
  it('writes intent before each exposure and its outcome after, then gives the lease back', async () => {
    const { link, calls } = recordingLink((path) => (path.endsWith('end') ? { state: 'finished' } : { goOn: true }));
    expect(await playNight(run, { link, driver, sleep })).toBe('finished');
    expect(calls).toEqual(['begin s1', 'finish s1', 'begin s2', 'finish s2', 'begin s3', 'finish s3', 'end']);
  });

  it('ends after the exposure in which it was stopped', async () => {
    const { link, calls } = recordingLink((path, call) =>
      path.endsWith('end') ? { state: 'stopped' } : { goOn: call < 2 },
    );
    expect(await playNight(run, { link, driver, sleep })).toBe('stopped');
    expect(calls).toEqual(['begin s1', 'finish s1', 'end']);
  });

  it('lets go when another runner has taken it over', async () => {
    const { link } = recordingLink((_path, call) =>
      call === 3 ? new RefusedCall({ code: 'LEASE_LOST', message: 'gone' }) : { goOn: true },
    );
    expect(await playNight(run, { link, driver, sleep })).toBe('lease lost');
  });

  it('that is a rehearsal never runs on a real rig', async () => {
    const { link, calls } = recordingLink(() => ({ state: 'stopped' }));
    const real: RigDriver = {
      isSimulated: false,
      expose: async () => {
        throw new Error('a real rig moved');
      },
    };
    expect(await playNight({ ...run, rehearsal: true }, { link, driver: real, sleep })).toBe('refused');
    expect(calls).toEqual(['end']);
  });

  it('keeps its lease through a long exposure', async () => {
    const { link, calls } = recordingLink((path) => (path.endsWith('end') ? { state: 'finished' } : { goOn: true }));
    const waits: number[] = [];
    await playNight(
      { ...run, speed: 30, steps: [step(1, 'a')] },
      { link, driver, sleep: async (ms) => void waits.push(ms) },
    );
    expect(waits).toEqual([5000, 5000]);
    expect(calls.filter((call) => call === 'begin s1')).toHaveLength(2);
  });

  it('tells the driver when a move came before', async () => {
    const moves: boolean[] = [];
    const { link } = recordingLink((path) => (path.endsWith('end') ? { state: 'finished' } : { goOn: true }));
    await playNight(run, {
      link,
      sleep,
      driver: {
        isSimulated: true,
        expose: async (_step, afterMove) => (moves.push(afterMove), { outcome: 'done', words: '', exposure: null }),
      },
    });
    expect(moves).toEqual([true, false, true]);
  });
});

describe('the link to the server', () => {
  const served = async (statuses: number[]): Promise<{ url: string; close: () => void; count: () => number }> => {
    let calls = 0;
    const server = createServer((_request, response) => {
      const status = statuses[Math.min(calls, statuses.length - 1)];
      calls += 1;
      response
        .writeHead(status, { 'content-type': 'application/json' })
        .end(
          JSON.stringify(
            status === 200 ? { run: null } : { code: status === 409 ? 'LEASE_LOST' : 'FAULT', message: 'words' },
          ),
        );
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return {
      url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
      close: () => server.close(),
      count: () => calls,
    };
  };
  const linkTo = (baseUrl: string, said: string[] = []) =>
    serverLink({ baseUrl, key: 'k', sleep, onSilent: (words) => void said.push(words) });

  it('repeats a call until the server is well again, and says so once', async () => {
    const server = await served([500, 503, 500, 200]);
    const said: string[] = [];
    expect(await linkTo(server.url, said).call(claimRun, null, { holder: 'x' })).toEqual({ run: null });
    expect([server.count(), said.length]).toEqual([4, 1]);
    server.close();
  });

  it('does not repeat what the server refuses', async () => {
    const server = await served([409]);
    await expect(linkTo(server.url).call(claimRun, null, { holder: 'x' })).rejects.toMatchObject({
      code: 'LEASE_LOST',
    });
    expect(server.count()).toBe(1);
    server.close();
  });
});
