// A claimed night: by the rig's devices where it has them, else exposure by exposure from the simulator. The server hears of
// every step behind the night, so that its silence holds up no command to a device.
import type { ClaimedRun, RunAction, SiteReading, StandingOrders } from '@meridiem/contract';
import {
  beginStep,
  endRun,
  endTestShot,
  finishStep,
  keepRun,
  MOST_ACTIONS_TOGETHER,
  readCalibrationToTake,
  replanRun,
  reportActions,
  reportCalibration,
} from '@meridiem/contract';
import { CLOSING_LONGEST_SEC } from '@meridiem/core';
import { runDeviceNight } from './device-night/run-device-night.ts';
import type { TakenFile } from './frame-copies.ts';
import { copyOnce } from './frame-copies.ts';
import type { KeptReport, Report } from './kept-reports.ts';
import { keptReports, takenFile } from './kept-reports.ts';
import { createOutbox } from './outbox.ts';
import type { ServerLink } from './server-link.ts';
import { RefusedCall } from './server-link.ts';
import type { NightParts } from './play-night.ts';

export interface DeviceNight extends Pick<NightParts, 'sleep'> {
  readonly link: ServerLink;
  readonly framesFolder: string;
  readonly say?: (words: string, details?: object) => void;
}

/** Looks at the server so often while a night goes on, so that a stop is heard and the lease is kept. */
const HEARD_EVERY_MS = 1000;
/** A server that does not plan again within this is gone on without. */
const ANSWER_WITHIN_MS = 15_000;

/** @returns how the night ended, in a word for the log */
export async function carryOutByDevices(run: ClaimedRun, parts: DeviceNight): Promise<string> {
  const { link, sleep, framesFolder } = parts;
  const { id, fence } = run;
  const server = heardServer(run, parts);
  const known = new Set(
    server.unsent.flatMap(({ report }) => (report.what === 'finish' ? [report.outcome.stepId] : [])),
  );
  server.resend();
  let isOver = false;
  const keeping = (async () => {
    while (!isOver) {
      await sleep(HEARD_EVERY_MS);
      server.keep();
    }
  })();
  // What a process before this one has taken is not taken twice.
  const open = { ...run, steps: run.steps.filter((step) => !known.has(step.id)) };
  const end = await runDeviceNight(open, {
    framesFolder,
    sleep,
    isStopped: () => server.isStopped,
    isUnheard: () => server.isUnheard,
    standing: () => server.standing,
    carriedOut: server.carriedOut,
    // A picture to look at now: what can't be told is not told later.
    shotEnded: (shot) => void link.call(endTestShot, id, { fence, ...shot }).catch(() => undefined),
    planAgain: (fromUtcMs, withoutPanelIds) =>
      within(
        ANSWER_WITHIN_MS,
        sleep,
        server
          .flush()
          .then(() => link.once(replanRun, id, { fence, fromUtcMs, withoutPanelIds: [...withoutPanelIds] }))
          .then(({ steps }) => steps),
      ),
    // What was reported before says which calibration is missing.
    calibrationToTake: () =>
      within(
        ANSWER_WITHIN_MS,
        sleep,
        server.flush().then(() => link.once(readCalibrationToTake, id, { fence })),
      ),
    keepCalibration: (taken, frame) => server.tell({ what: 'calibration', taken, frame }),
    reading: (take) => (server.reading = take),
    report: (action) => server.tell({ what: 'action', action }),
    begin: ({ id: stepId }) => server.tell({ what: 'begin', stepId }),
    finish: ({ id: stepId }, { frame, ...outcome }) =>
      server.tell({ what: 'finish', outcome: { stepId, ...outcome }, frame }),
  });
  isOver = true;
  await keeping;
  await server.flush();
  if (server.isLost) return `lease lost; ${end}`;
  await link.call(endRun, id, { fence, end });
  await server.forget();
  return end;
}

/** @returns null where it takes longer or fails */
const within = <T>(ms: number, sleep: DeviceNight['sleep'], work: Promise<T>): Promise<T | null> =>
  Promise.race([work.catch(() => null), sleep(ms).then(() => null)]);

interface Heard {
  readonly goOn: boolean;
  readonly orders?: StandingOrders;
}

/** What the server is told: a report that is kept until it is taken, or that this runner still minds the night. */
type Letter = ({ readonly what: 'reported' } & KeptReport) | { readonly what: 'keep' };

const actionOf = (letter: Letter): RunAction | null =>
  letter.what === 'reported' && letter.report.what === 'action' ? letter.report.action : null;

/** The server as one night hears it: told everything in order from this machine's disk, asked what people say. */
function heardServer(
  { id, fence, leaseSec }: ClaimedRun,
  { link, sleep, framesFolder, say = () => undefined }: DeviceNight,
) {
  const kept = keptReports(framesFolder, id, (words) => say('reports can’t be kept on disk', { words }));
  const lease = { isStopped: false, isLost: false };
  let standing: StandingOrders = { holdId: null, leaveId: null, isLast: false, testShot: null };
  const carriedOut: string[] = [];
  // This machine's own steady clock: a server that is away can't be asked.
  let heardMs = performance.now();
  const heard = ({ goOn, orders }: Heard): void => {
    heardMs = performance.now();
    if (!goOn) lease.isStopped = true;
    if (orders) standing = orders;
  };
  const sayOf = (words: string): void => say('a frame', { words });
  const copies = createOutbox<TakenFile & { readonly n: number }>({
    send: async ([{ n, ...file }]) => {
      await copyOnce({ link, framesFolder }, file, sayOf);
      kept.copied(n);
    },
    together: () => false,
    most: 1,
    sleep,
    onRefused: (error) => sayOf(String(error)),
  });
  kept.uncopied.forEach((file) => copies.add(file));
  const taken = ({ n, report }: KeptReport): void => {
    kept.sent(n);
    const file = takenFile(report);
    if (file) copies.add({ n, ...file });
  };
  const outbox = createOutbox<Letter>({
    send: async (letters) => {
      heard(await call(letters));
      for (const letter of letters) if (letter.what === 'reported') taken(letter);
    },
    together: (letter) => actionOf(letter) !== null,
    most: MOST_ACTIONS_TOGETHER,
    sleep,
    onRefused: (error) => {
      // Another runner minds this night now: this one closes and lets go.
      if (error instanceof RefusedCall && error.code === 'LEASE_LOST') lease.isLost = lease.isStopped = true;
      else say('a report was refused', { words: String(error) });
    },
  });
  const keep = (): Promise<Heard> => {
    const now = reading();
    return link.call(keepRun, id, { fence, carriedOut: carriedOut.splice(0), ...(now ? { reading: now } : {}) });
  };
  const call = (letters: readonly Letter[]): Promise<Heard> => {
    const actions = letters.flatMap((letter) => actionOf(letter) ?? []);
    if (actions.length > 0) return link.call(reportActions, id, { fence, actions });
    const [letter] = letters;
    if (letter.what === 'keep') return keep();
    if (letter.report.what === 'begin') return link.call(beginStep, id, { fence, stepId: letter.report.stepId });
    if (letter.report.what === 'calibration') return link.call(reportCalibration, id, letter.report.taken);
    if (letter.report.what === 'finish') return link.call(finishStep, id, { fence, ...letter.report.outcome });
    return Promise.resolve({ goOn: true });
  };
  const send = (report: KeptReport): void => outbox.add({ what: 'reported', ...report });
  let reading: () => SiteReading | null = () => null;
  return {
    set reading(take: () => SiteReading | null) {
      reading = take;
    },
    get isStopped() {
      return lease.isStopped;
    },
    get isLost() {
      return lease.isLost;
    },
    get isUnheard() {
      return leaseSec !== null && performance.now() - heardMs > 1000 * (leaseSec - CLOSING_LONGEST_SEC);
    },
    get standing() {
      return standing;
    },
    unsent: kept.unsent,
    resend: () => kept.unsent.forEach(send),
    tell: (report: Report) => send({ n: kept.keep(report), report }),
    keep(): void {
      if (outbox.waiting === 0) outbox.add({ what: 'keep' });
    },
    carriedOut: (orderId: string) => void carriedOut.push(orderId),
    flush: () => outbox.flush(),
    /** Every frame is on the server, or was refused there. */
    async forget(): Promise<void> {
      await copies.flush();
      kept.forget();
    },
  };
}
