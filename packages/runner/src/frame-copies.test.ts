import { createHash, randomBytes } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { BodyOf, copyFrame } from '@meridiem/contract';
import { FRAME_PIECE_BYTES } from '@meridiem/contract';
import { copyOnce, copyWhatIsLeft } from './frame-copies.ts';
import { keptReports } from './kept-reports.ts';
import { RefusedCall } from './server-link.ts';

let folder: string;
const said: string[] = [];
const say = (words: string): void => void said.push(words);
const frame = { stepId: 'a step', name: 'Wren/2026-12-08/one.fits' };
const bytes = randomBytes(2 * FRAME_PIECE_BYTES + 5000);
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'copies-'));
  mkdirSync(join(folder, 'Wren/2026-12-08'), { recursive: true });
  writeFileSync(join(folder, frame.name), bytes);
  said.length = 0;
});
afterEach(() => rmSync(folder, { recursive: true }));

/** A server that has some bytes already, and takes pieces in their order. */
function server(had = 0, { isRefusing = false } = {}) {
  let here = bytes.subarray(0, had);
  let calls = 0;
  const call = async (_operation: unknown, _id: string | null, { piece }: BodyOf<typeof copyFrame>): Promise<never> => {
    calls += 1;
    if (isRefusing) throw new RefusedCall({ code: 'NOT_FOUND', message: 'There is no such frame' });
    if (piece?.fromByte === here.length) here = Buffer.concat([here, Buffer.from(piece.base64, 'base64')]);
    return { bytes: here.length, isWanted: here.length < bytes.length } as never;
  };
  return { link: { call }, here: () => here, calls: () => calls };
}
const hash = (of: Buffer): string => createHash('sha256').update(of).digest('hex');

describe('a frame', () => {
  it.each([
    [0, 4],
    [FRAME_PIECE_BYTES + 17, 3],
    [bytes.length, 1],
  ])('is copied on from what is there: %d bytes, in %d calls', async (had, calls) => {
    const at = server(had);
    await copyOnce({ link: at.link, framesFolder: folder }, frame, say);
    expect([hash(at.here()), at.calls(), said]).toEqual([hash(bytes), calls, []]);
  });

  it('that is refused, gone or cut short is said, and holds nothing up', async () => {
    await copyOnce({ link: server(0, { isRefusing: true }).link, framesFolder: folder }, frame, say);
    await copyOnce({ link: server().link, framesFolder: folder }, { ...frame, name: 'Wren/gone.fits' }, say);
    writeFileSync(join(folder, frame.name), bytes.subarray(0, 100));
    await copyOnce({ link: server(200).link, framesFolder: folder }, frame, say);
    expect(said).toEqual([
      expect.stringContaining('no such frame'),
      expect.stringContaining('no such file'),
      expect.stringContaining('shorter than it was'),
    ]);
  });

  it('is copied without losing what its night, taken up again, tells of meanwhile', async () => {
    const kept = keptReports(folder, 'again', say);
    const report = { what: 'finish' as const, outcome: { stepId: 'a step', outcome: 'done' as const, words: '', exposure: {} as never }, frame: { part: 'none', name: frame.name } }; // prettier-ignore
    kept.sent(kept.keep(report));
    const at = server();
    const call: typeof at.link.call = async (...of) => {
      if (at.calls() === 0) kept.keep({ what: 'begin', stepId: 'the next' });
      return at.link.call(...of);
    };
    await copyWhatIsLeft({ link: { call }, framesFolder: folder, say });
    expect(keptReports(folder, 'again', say).unsent).toHaveLength(1);
  });

  it('that an ended process had told of is copied by the next, once; what was never told is left to its night', async () => {
    const finish = (stepId: string) => ({
      what: 'finish' as const,
      outcome: { stepId, outcome: 'done' as const, words: '', exposure: {} as never },
      frame: { part: 'none', name: frame.name },
    });
    const told = keptReports(folder, 'told', say);
    told.sent(told.keep(finish('a step')));
    const untold = keptReports(folder, 'untold', say);
    untold.sent(untold.keep(finish('first')));
    untold.keep(finish('second'));
    const at = server();
    await copyWhatIsLeft({ link: at.link, framesFolder: folder, say });
    expect([hash(at.here()), at.calls()]).toEqual([hash(bytes), 4]);
    expect(readdirSync(join(folder, '.reports'))).toEqual(['untold.jsonl']);
    expect(keptReports(folder, 'untold', say).uncopied.map(({ stepId }) => stepId)).toEqual(['first']);
  });
});
