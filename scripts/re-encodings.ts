// Every re-encoding of a frame is that frame: reads the files of a folder as an import does and says what each is taken for.
import { openAsBlob, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { readFrameFile, hashesOf } from '@meridiem/contract';
import { headerKeyOf, identitiesOf } from '@meridiem/core';

const [folder] = process.argv.slice(2);
const names = readdirSync(folder).sort();
let refused = 0;
const frames = [];
for (const name of names) {
  const [{ file, data }] = await readFrameFile(name, await openAsBlob(join(folder, name)), 'Australia/Adelaide');
  const { facts } = file;
  if (!facts || facts.startUtcMs === null || facts.exposureSec === null) {
    refused += 1;
    console.log(`${name}: ${file.refused ?? 'no start or length'}`);
    continue;
  }
  frames.push({
    frameId: name,
    rigId: 'heron',
    startUtcMs: facts.startUtcMs,
    exposureSec: facts.exposureSec,
    ...(data ? await hashesOf(data) : { dataSha256: null, pixelsSha256: null }),
    headerKey: headerKeyOf('heron', facts as never, name),
  });
}
const identities = [...identitiesOf(frames, []).values()];
const count = (is: string): number => identities.filter((identity) => identity.is === is).length;
const expected = new Set(names.map((name) => name.split('-')[1])).size;
console.log(
  `${names.length} files of ${expected} frames: ${count('new')} exposures, ${count('known')} known again, ${count('unclear')} unclear, ${refused} refused`,
);
process.exit(count('new') === expected && count('known') === names.length - expected && refused === 0 ? 0 : 1);
