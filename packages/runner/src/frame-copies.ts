// Frames copied to the server, behind everything it is told: piece after piece, on from where a cut line or an ended process left off.
import { existsSync, readdirSync } from 'node:fs';
import type { FileHandle } from 'node:fs/promises';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { copyFrame, FRAME_PIECE_BYTES } from '@meridiem/contract';
import { keptReports, REPORTS_FOLDER, REPORTS_SUFFIX } from './kept-reports.ts';
import type { ServerLink } from './server-link.ts';

export interface TakenFile {
  /** Of the step of its exposure, or of a calibration frame itself. */
  readonly stepId: string;
  /** Under the folder for frames. */
  readonly name: string;
}

interface CopyParts {
  readonly link: Pick<ServerLink, 'call'>;
  readonly framesFolder: string;
}

/** Copies one frame, unless it is there already; what can't be copied is said, and not tried again. */
export async function copyOnce(parts: CopyParts, file: TakenFile, say: (words: string) => void): Promise<void> {
  await copyToServer(parts, file).catch((error: unknown) => say(`${file.name} was not copied: ${String(error)}`));
}

/** @throws where its file can't be read, or the server refuses it */
async function copyToServer({ link, framesFolder }: CopyParts, { stepId, name }: TakenFile): Promise<void> {
  let { bytes, isWanted } = await link.call(copyFrame, stepId, {});
  if (!isWanted) return;
  const file = await open(join(framesFolder, name));
  try {
    while (isWanted) {
      const piece = await pieceOf(file, bytes);
      ({ bytes, isWanted } = await link.call(copyFrame, stepId, { piece: { fromByte: bytes, base64: piece.toString('base64') } })); // prettier-ignore
    }
  } finally {
    await file.close();
  }
}

async function pieceOf(file: FileHandle, fromByte: number): Promise<Buffer> {
  const { bytesRead, buffer } = await file.read(Buffer.alloc(FRAME_PIECE_BYTES), 0, FRAME_PIECE_BYTES, fromByte);
  if (bytesRead === 0) throw new Error('the file is shorter than it was');
  return buffer.subarray(0, bytesRead);
}

/** Frames that a process before this one had told of and not copied, of nights that have ended. */
export async function copyWhatIsLeft(parts: CopyParts & { readonly say: (words: string) => void }): Promise<void> {
  const folder = join(parts.framesFolder, REPORTS_FOLDER);
  for (const file of existsSync(folder) ? readdirSync(folder) : []) {
    const reports = () => keptReports(parts.framesFolder, file.slice(0, -REPORTS_SUFFIX.length), parts.say);
    const kept = reports();
    // What was never told is told first, by whoever carries that night on.
    if (kept.unsent.length > 0) continue;
    for (const { n, ...frame } of kept.uncopied) {
      await copyOnce(parts, frame, parts.say);
      kept.copied(n);
    }
    // Its night may have been taken up again while frames were copied, and have told of more.
    const now = reports();
    if (now.unsent.length + now.uncopied.length === 0) now.forget();
  }
}
