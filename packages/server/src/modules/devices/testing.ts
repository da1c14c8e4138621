// Each device asked for its name: whether it is there, and what it says.
import type { DeviceTest } from '@meridiem/contract';

/** Kinds of the open device protocol by what people call them. */
const DEVICES = {
  telescope: 'mount',
  camera: 'camera',
  filterwheel: 'filter wheel',
  focuser: 'focuser',
  rotator: 'rotator',
  dome: 'roof',
  safetymonitor: 'safety monitor',
  observingconditions: 'weather station',
} as const;

const TIMEOUT_MS = 4000;
const MOST_CHARACTERS = 4000;

export const testDevices = (baseUrl: string, hasRotator: boolean): Promise<DeviceTest[]> =>
  Promise.all(
    Object.entries(DEVICES)
      .filter(([kind]) => hasRotator || kind !== 'rotator')
      .map(async ([kind, device]) => ({ device, ...(await nameOf(`${baseUrl}/api/v1/${kind}/0/name`)) })),
  );

export async function testSimulator(simulatorUrl: string): Promise<DeviceTest> {
  const answer = await fetch(`${simulatorUrl}/health`, { signal: AbortSignal.timeout(TIMEOUT_MS) }).catch(() => null);
  const answers = answer?.ok === true;
  return {
    device: 'simulated observatory',
    answers,
    words: answers ? 'its devices are ready for a night' : 'it can’t be reached',
  };
}

async function nameOf(address: string): Promise<Pick<DeviceTest, 'answers' | 'words'>> {
  try {
    const answer = await fetch(`${address}?ClientID=1&ClientTransactionID=1`, {
      redirect: 'error',
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
    if (!answer.ok) return { answers: false, words: `it answers ${answer.status}` };
    const { Value, ErrorNumber, ErrorMessage } = JSON.parse((await answer.text()).slice(0, MOST_CHARACTERS)) as {
      Value?: unknown;
      ErrorNumber?: number;
      ErrorMessage?: string;
    };
    if (ErrorNumber) return { answers: false, words: String(ErrorMessage ?? `error ${ErrorNumber}`).slice(0, 200) };
    return { answers: true, words: String(Value ?? 'there').slice(0, 200) };
  } catch (error) {
    const isSlow = error instanceof Error && error.name === 'TimeoutError';
    return { answers: false, words: isSlow ? `no answer within ${TIMEOUT_MS / 1000} s` : 'it can’t be reached' };
  }
}
