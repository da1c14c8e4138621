// The runner's process: asks for nights to play, plays them, tells what it does.
import { claimRun } from '@meridiem/contract';
import { carryOutByDevices } from './carry-out.ts';
import { copyWhatIsLeft } from './frame-copies.ts';
import { playNight } from './play-night.ts';
import { simulatedRig } from './rig-driver.ts';
import { serverLink } from './server-link.ts';

// A log that can't be written is lost; the work goes on.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);

const serverUrl = process.env.MERIDIEM_SERVER_URL ?? 'http://127.0.0.1:4310';
const simulatorUrl = process.env.MERIDIEM_SIMULATOR_URL ?? 'http://127.0.0.1:4311';
const framesFolder = process.env.MERIDIEM_FRAMES ?? 'frames';
const key = process.env.MERIDIEM_RUNNER_KEY;
if (!key) throw new Error('The setting MERIDIEM_RUNNER_KEY is missing');

const POLL_MS = 1000;
const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const say = (words: string, details: object = {}): void =>
  console.log(JSON.stringify({ at: new Date().toISOString(), words, ...details }));

const link = serverLink({ baseUrl: serverUrl, key, sleep, onSilent: (words) => say(words) });
const holder = `runner ${process.pid}`;
/** Set where this machine stands beside the devices: their nights are its own until they are closed. */
const site = process.env.MERIDIEM_RUNNER_SITE;
/** A night under way here is never claimed a second time, however long the server was away: two would mind one rig. */
const playing = new Set<string>();
let stopping = false;
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.on(signal, () => {
    stopping = true;
    setTimeout(() => process.exit(0), 300).unref();
  });

// A call whose connection dies at the wrong moment is answered by its time-out alone, and that keeps no process alive.
setInterval(() => undefined, 60_000);

say('waiting for nights', { serverUrl });
void copyWhatIsLeft({ link, framesFolder, say }).catch((error: unknown) =>
  say('frames of earlier nights were not copied', { error: String(error) }),
);
while (!stopping) {
  const { run } = await link.call(claimRun, null, { holder, ...(site ? { site } : {}), playing: [...playing] });
  if (run) {
    say('playing', { run: run.id, rig: run.rig.name, steps: run.steps.length, speed: run.speed });
    const carriedOut = run.deviceRun
      ? carryOutByDevices(run, { link, sleep, framesFolder, say })
      : playNight(run, { link, driver: simulatedRig(simulatorUrl, run), sleep });
    playing.add(run.id);
    void carriedOut
      .then(
        (end) => say(end, { run: run.id }),
        (error: unknown) => say('the night failed', { run: run.id, error: String(error) }),
      )
      .finally(() => playing.delete(run.id));
  }
  await sleep(POLL_MS);
}
