// A night by devices as a runner reports it to the server of the tests.
import { randomUUID } from 'node:crypto';
import type { ClaimedRun, RunAction, RunStep } from '@meridiem/contract';
import {
  claimRun,
  editRigDevices,
  finishStep,
  playNight,
  publishPlan,
  readNight,
  reportActions,
} from '@meridiem/contract';
import type { TestApp } from './test-app.ts';

type Reported = Partial<RunAction> & Pick<RunAction, 'kind' | 'startUtcMs'>;

/** The published plan of a rig with simulated devices, claimed. */
export async function claimedNight(test: TestApp, nightDate: string) {
  const { body } = await test.call('ilse', readNight, { params: { nightDate } });
  const { rigId } = body.rigs.find((rig) => rig.blocks.length > 0)!;
  await test.call('ilse', editRigDevices, { params: { id: rigId }, body: { kind: 'simulated', url: null } });
  await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
  await test.call('ilse', playNight, { params: { nightDate }, body: { rigId, speed: 60 } });
  const run: ClaimedRun = (await test.call('runner', claimRun, { body: { holder: 'tests' } })).body.run!;
  const params = { id: run.id };
  let seq = 0;

  const report = (actions: readonly Reported[]) =>
    test.call('runner', reportActions, {
      params,
      body: {
        fence: run.fence,
        actions: actions.map((action) => ({ id: randomUUID(), seq: ++seq, words: '', attempt: 1, endUtcMs: action.startUtcMs, outcome: 'done' as const, remark: null, ...action })), // prettier-ignore
      },
    });

  async function take(step: RunStep, more: { readonly mechanicalAngleDeg?: number } = {}): Promise<void> {
    const startUtcMs = step.plannedStartUtcMs;
    await report([{ kind: 'expose', startUtcMs, endUtcMs: startUtcMs + 1000 * step.exposureSec }]);
    const exposure = {
      startUtcMs, exposureSec: step.exposureSec, gain: step.gain, sensorC: step.sensorC, halfFluxRadiusPx: 1.9, starCount: 300,
      guidingRmsArcsec: 0.7, backgroundE: 120, temperatureC: 9, afterMove: false, rateMeasured: null, ...more,
    }; // prettier-ignore
    const body = { fence: run.fence, stepId: step.id, outcome: 'done' as const, words: 'Taken', exposure };
    const { status, error } = await test.call('runner', finishStep, { params, body });
    if (status !== 200) throw new Error(`An exposure was refused: ${error?.message}`);
  }

  return { rigId, run, params, report, take };
}
