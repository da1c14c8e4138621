// A claimed night: by the rig's devices where it has them, else exposure by exposure from the simulator. The server hears of
// every step behind the night, so that its silence holds up no command to a device.
import type { ClaimedRun, StandingOrders } from '@meridiem/contract';
import { beginStep, endRun, finishStep, keepRun, replanRun, reportAction } from '@meridiem/contract';
import { runDeviceNight } from './device-night/run-device-night.ts';
import { createOutbox } from './outbox.ts';
import type { ServerLink } from './server-link.ts';
import { RefusedCall } from './server-link.ts';
import type { NightParts } from './play-night.ts';

export interface DeviceNight extends Pick<NightParts, 'sleep'> {
  readonly link: ServerLink;
  readonly framesFolder: string;
}

/** Looks at the server so often while a night goes on, so that a stop is heard and the lease is kept. */
const HEARD_EVERY_MS = 1000;

/** A server that does not plan again within this is gone on without. */
const ANSWER_WITHIN_MS = 15_000;

/** @returns null where it takes longer or fails */
const within = <T>(ms: number, sleep: DeviceNight['sleep'], work: Promise<T>): Promise<T | null> =>
  Promise.race([work.catch(() => null), sleep(ms).then(() => null)]);

/** @returns how the night ended, in a word for the log */
export async function carryOutByDevices(run: ClaimedRun, { link, sleep, framesFolder }: DeviceNight): Promise<string> {
  const { id, fence } = run;
  const lease = { isStopped: false, isLost: false };
  let standing: StandingOrders = { holdId: null, leaveId: null, isLast: false };
  const carriedOut: string[] = [];
  const heard = ({ goOn, orders }: { goOn: boolean; orders?: StandingOrders }): void => {
    if (!goOn) lease.isStopped = true;
    if (orders) standing = orders;
  };
  const outbox = createOutbox((error) => {
    // Another runner minds this night now: this one closes and lets go.
    if (error instanceof RefusedCall && error.code === 'LEASE_LOST') lease.isLost = lease.isStopped = true;
  });
  let isOver = false;
  const keeping = (async () => {
    while (!isOver) {
      await sleep(HEARD_EVERY_MS);
      if (outbox.waiting === 0) outbox.add(async () => heard(await link.call(keepRun, id, { fence, carriedOut })));
    }
  })();
  const end = await runDeviceNight(run, {
    framesFolder,
    sleep,
    isStopped: () => lease.isStopped,
    standing: () => standing,
    carriedOut: (orderId) => void carriedOut.push(orderId),
    planAgain: (fromUtcMs, withoutPanelIds) =>
      within(
        ANSWER_WITHIN_MS,
        sleep,
        outbox
          .flush()
          .then(() => link.once(replanRun, id, { fence, fromUtcMs, withoutPanelIds: [...withoutPanelIds] }))
          .then(({ steps }) => steps),
      ),
    report: (action) => outbox.add(async () => heard(await link.call(reportAction, id, { fence, action }))),
    begin: (step) => outbox.add(async () => heard(await link.call(beginStep, id, { fence, stepId: step.id }))),
    finish: (step, outcome) =>
      outbox.add(async () => heard(await link.call(finishStep, id, { fence, stepId: step.id, ...outcome }))),
  });
  isOver = true;
  await keeping;
  await outbox.flush();
  if (lease.isLost) return `lease lost; ${end}`;
  await link.call(endRun, id, { fence, end });
  return end;
}
