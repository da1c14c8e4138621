// Takes the mend of each fault out in turn and sees its test go red: npm run mends [-- WORDS]. A test that stays green could not have found the fault.
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { MENDS } from './mends-list.ts';

const root = join(import.meta.dirname, '..');
const [wanted = ''] = process.argv.slice(2);
if (execFileSync('git', ['status', '--porcelain', 'packages'], { cwd: root, encoding: 'utf8' }).trim() !== '') {
  console.error(
    'mends: there are changes that are not committed; commit them first, since files are put back from git',
  );
  process.exit(1);
}

/** Whether the test passes. */
function isGreen(test: string, named: string | undefined): boolean {
  const { status } = spawnSync('npx', ['jest', test, ...(named ? ['-t', named] : [])], {
    cwd: root,
    stdio: 'ignore',
    timeout: 120_000,
    env: { ...process.env, NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning' },
  });
  return status === 0;
}

let failures = 0;
for (const { fault, file, mend, without, test, named } of MENDS.filter((one) => one.fault.includes(wanted))) {
  const path = join(root, 'packages', file);
  const whole = readFileSync(path, 'utf8');
  if (!whole.includes(mend)) {
    failures += 1;
    console.log(`GONE   ${fault}: its mend no longer stands in ${file}`);
    continue;
  }
  writeFileSync(path, whole.replace(mend, without));
  try {
    const isRed = !isGreen(test, named);
    if (!isRed) failures += 1;
    console.log(`${isRed ? 'red   ' : 'GREEN '} ${fault}`);
  } finally {
    writeFileSync(path, whole);
  }
}
console.log(failures === 0 ? 'Every test finds its fault.' : `${failures} faults would not be found.`);
process.exit(failures === 0 ? 0 : 1);
