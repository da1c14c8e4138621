// A seeded generator of uniform numbers: equal seeds give equal sequences on every machine.

/** Uniform numbers in [0, 1), one a call. */
export type Random = () => number;

/** A generator with 32 bits of state (mulberry32), good enough for searches and simulated weather, not for secrets. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A whole number in [0, below). */
export const pickBelow = (random: Random, below: number): number => Math.floor(random() * below);

/** A number from a normal distribution (Box–Muller), mean 0 and standard deviation 1. */
export function normalFrom(random: Random): number {
  const radius = Math.sqrt(-2 * Math.log(1 - random()));
  return radius * Math.cos(2 * Math.PI * random());
}

/** A 32-bit seed from text (FNV-1a): the same words, the same seed. */
export function seedFrom(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}
