// A folder whose disk takes no more, for as long as a test wants: a tiny file system over it where this process may mount one,
// else a file in its place. Either way every write in it really fails.
import { execFileSync } from 'node:child_process';
import { closeSync, openSync, renameSync, rmSync, writeFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';

const BLOCK = Buffer.alloc(4096);

/** @returns what makes room again; what lay in the folder before lies there then */
export function fillDisk(folder: string): () => void {
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', folder], { stdio: 'ignore' });
  } catch {
    renameSync(folder, `${folder}.aside`);
    writeFileSync(folder, '');
    return () => {
      rmSync(folder);
      renameSync(`${folder}.aside`, folder);
    };
  }
  const filler = openSync(join(folder, '.filler'), 'w');
  try {
    for (;;) writeSync(filler, BLOCK);
  } catch {
    closeSync(filler);
  }
  return () => void execFileSync('umount', ['-l', folder]);
}
