// A program of the site's own that says where a picture points: asked where our stars do not tell. It is called with the file's path,
// gets what is known as JSON on its input, and answers with JSON on its output.
import { spawn } from 'node:child_process';
import type { SkyPosition } from '@meridiem/core';
import { Ajv } from 'ajv';

export interface AskedOfSolver {
  /** Where it is thought to point; null: nobody knows. */
  readonly near: SkyPosition | null;
  readonly scaleArcsecPerPx: number;
}

export interface SolverAnswer extends SkyPosition {
  /** Of the direction in which rows are counted up, east of north. */
  readonly positionAngleDeg: number;
  readonly scaleArcsecPerPx: number;
  readonly isMirrored: boolean;
}

const isAnswer = new Ajv().compile<SolverAnswer>({
  type: 'object',
  required: ['raDeg', 'decDeg', 'positionAngleDeg', 'scaleArcsecPerPx', 'isMirrored'],
  properties: {
    raDeg: { type: 'number', minimum: 0, exclusiveMaximum: 360 },
    decDeg: { type: 'number', minimum: -90, maximum: 90 },
    positionAngleDeg: { type: 'number', minimum: 0, exclusiveMaximum: 360 },
    scaleArcsecPerPx: { type: 'number', exclusiveMinimum: 0, maximum: 3600 },
    isMirrored: { type: 'boolean' },
  },
});
const LONGEST_MS = 60_000;
const LONGEST_ANSWER = 10_000;

/** @returns null where it fails, takes too long or answers anything else: the picture is not solved then */
export function askSolver(program: string, path: string, asked: AskedOfSolver): Promise<SolverAnswer | null> {
  return new Promise((resolve) => {
    const child = spawn(program, [path], { stdio: ['pipe', 'pipe', 'ignore'], timeout: LONGEST_MS, killSignal: 'SIGKILL' }); // prettier-ignore
    let said = '';
    child.on('error', () => resolve(null));
    child.stdin.on('error', () => undefined);
    child.stdout.on('data', (part: Buffer) => {
      if (said.length < LONGEST_ANSWER) said += part.toString('utf8');
    });
    child.on('close', (code) => resolve(code === 0 ? answerIn(said) : null));
    child.stdin.end(JSON.stringify(asked));
  });
}

function answerIn(said: string): SolverAnswer | null {
  try {
    const answer: unknown = JSON.parse(said);
    return isAnswer(answer) ? answer : null;
  } catch {
    return null;
  }
}
