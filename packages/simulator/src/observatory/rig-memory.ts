// What outlasts the simulator's own process: rigs with their clock, roof and mount as they stood, and what really happened.
// Devices are iron: a server that is ended in front of them moves nothing.
import { mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { MountState } from './mount.ts';
import type { RigFacts } from './rig-facts.ts';
import type { TruthEntry } from './truth.ts';

export interface RigState {
  readonly name: string;
  readonly facts: RigFacts;
  readonly utcMs: number;
  readonly speed: number;
  readonly roofOpenShare: number;
  readonly mount: MountState;
  readonly focuserSteps: number;
  readonly rotatorDeg: number;
  readonly wheelPlace: number;
  readonly truth: readonly TruthEntry[];
}

export interface RigMemory {
  keep(state: () => RigState): void;
  all(): RigState[];
}

/** @param folder null: nothing is kept */
export function rigMemory(folder: string | null): RigMemory {
  if (folder === null) return { keep: () => undefined, all: () => [] };
  mkdirSync(folder, { recursive: true });
  return {
    keep(stateNow) {
      const state = stateNow();
      const path = join(folder, `${state.name.replace(/[^A-Za-z0-9-]/g, '_')}.json`);
      writeFileSync(`${path}.part`, JSON.stringify(state));
      renameSync(`${path}.part`, path);
    },
    all: () =>
      readdirSync(folder)
        .filter((name) => name.endsWith('.json'))
        .map((name) => JSON.parse(readFileSync(join(folder, name), 'utf8')) as RigState),
  };
}
