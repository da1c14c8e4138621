// A frame's facts with what can't be true taken for unknown: one odd header never keeps the others of an import out.
import type { FrameFacts } from './frame-facts.ts';

/** What each number must lie between; beyond it the header is wrong, whatever it means. */
export const FACT_RANGES = {
  startUtcMs: [-2e12, 8e12],
  startStepMs: [0, 86_400_000],
  exposureSec: [0, 86_400],
  gain: [0, 100_000],
  offset: [-100_000, 1_000_000],
  sensorC: [-150, 100],
  sequence: [-1e9, 1e9],
  positionAngleDeg: [0, 360],
  scaleArcsecPerPx: [1e-4, 1e5],
} as const satisfies Partial<Record<keyof FrameFacts, readonly [number, number]>>;

const LONGEST_NAME = 300;
const MOST_DOUBTS = 50;
const LONGEST_DOUBT = 500;
const NAMES = ['objectName', 'filterName', 'cameraName', 'telescopeName', 'observerName'] as const;

/** Numbers out of range become unknown, names are cut, both with a doubt. */
export function soundFacts(facts: FrameFacts): FrameFacts {
  const doubts = [...facts.doubts];
  const sound: Record<string, unknown> = { ...facts };
  for (const [name, [least, most]] of Object.entries(FACT_RANGES)) {
    const value = facts[name as keyof typeof FACT_RANGES];
    if (value === null || (value >= least && value <= most)) continue;
    doubts.push(`${name} ${value} can’t be; it is unknown`);
    sound[name] = null;
  }
  if (facts.gain !== null && sound.gain !== null && !Number.isInteger(facts.gain)) sound.gain = null;
  for (const name of NAMES) sound[name] = plainText(facts[name], LONGEST_NAME);
  const { centre } = facts;
  if (centre && !(centre.raDeg >= 0 && centre.raDeg < 360 && Math.abs(centre.decDeg) <= 90)) {
    doubts.push('the position lies outside the sky; it is unknown');
    sound.centre = null;
  }
  sound.doubts = doubts.slice(0, MOST_DOUBTS).map((doubt) => plainText(doubt, LONGEST_DOUBT) ?? '');
  return sound as unknown as FrameFacts;
}

/** Without control characters and half characters, cut to a length; null where nothing is left. */
function plainText(text: string | null, longest: number): string | null {
  const plain = text
    ?.toWellFormed()
    .replace(/[\u0000-\u001f\u007f]/g, ' ')
    .slice(0, longest)
    .trim();
  return plain ? plain : null;
}
