// Writes each built file beside itself as brotli and gzip, so that serving one costs nothing.
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

const SMALLEST_BYTES = 1024;
const [folder] = process.argv.slice(2);
const asBrotli = promisify(brotliCompress);
const asGzip = promisify(gzip);

for (const name of await readdir(folder, { recursive: true })) {
  if (!/\.(js|css|html|svg|json)$/.test(name)) continue;
  const bytes = await readFile(join(folder, name));
  if (bytes.length < SMALLEST_BYTES) continue;
  await writeFile(
    join(folder, `${name}.br`),
    await asBrotli(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }),
  );
  await writeFile(join(folder, `${name}.gz`), await asGzip(bytes, { level: 9 }));
}
