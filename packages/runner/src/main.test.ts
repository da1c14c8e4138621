// The runner's own process on a bad line.
import type { ChildProcess } from 'node:child_process';
import { spawn } from 'node:child_process';
import type { AddressInfo, Server } from 'node:net';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import { afterEach, describe, expect, it } from '@jest/globals';

const MAIN = fileURLToPath(new URL('main.ts', import.meta.url));
const ROOT = fileURLToPath(new URL('../../..', import.meta.url));
const RUNNERS = 3;
/** Each runner has met each way to die once; a busy machine takes its time. */
const ENOUGH = 4 * RUNNERS;
const LONGEST_MS = 45_000;
const runners: ChildProcess[] = [];
let line: Server | undefined;
afterEach(() => {
  runners.forEach((runner) => runner.kill('SIGKILL'));
  line?.close();
});

describe('a runner', () => {
  it('lives on whenever its connection dies: as it is made, before the answer, in the middle of it', async () => {
    let connections = 0;
    line = createServer((socket) => {
      const turn = connections++ % 4;
      socket.on('error', () => undefined);
      if (turn === 0) return void socket.destroy();
      socket.on('data', () => {
        if (turn === 1) setTimeout(() => socket.destroy(), 5);
        if (turn === 2) socket.end('HTTP/1.1 200 OK\r\ncontent-length: 100\r\n\r\n{"run"');
        if (turn === 3) socket.resetAndDestroy();
      });
    });
    await new Promise<void>((ready) => line!.listen(0, '127.0.0.1', ready));
    const ended: (number | null)[] = [];
    for (let i = 0; i < RUNNERS; i++) {
      const runner = spawn('node', ['--conditions', '@meridiem/source', '--import', 'tsx', MAIN], {
        cwd: ROOT,
        env: {
          ...process.env,
          NODE_OPTIONS: '',
          MERIDIEM_SERVER_URL: `http://127.0.0.1:${(line.address() as AddressInfo).port}`,
          MERIDIEM_RUNNER_KEY: 'a key',
        },
        stdio: 'ignore',
      });
      runner.on('exit', (code) => ended.push(code));
      runners.push(runner);
    }
    const sinceMs = performance.now();
    while (connections < ENOUGH && performance.now() - sinceMs < LONGEST_MS)
      await new Promise((resolve) => setTimeout(resolve, 200));
    expect(ended).toEqual([]);
    expect(connections).toBeGreaterThanOrEqual(ENOUGH);
  });
});
