// A loaded database that others are copied from: made once for one state of the code, by whichever test comes first.
import { Client } from 'pg';
import { hashOfLoaders } from './story-cache.ts';

/** One number for the lock under which templates are made and dropped. */
const LOCK = 417_101;
const PREFIX = 'meridiem_template_';

/** @param what sets this template apart from others of the same code
 * @param fill migrates and loads a new database, and leaves no connection to it
 * @returns the name of the template */
export async function templateDatabase(
  maintenanceUrl: string,
  what: string,
  fill: (url: string) => Promise<void>,
): Promise<string> {
  const ofThisCode = `${PREFIX}${hashOfLoaders('').slice(0, 12)}_`;
  const name = `${ofThisCode}${what.replace(/\W+/g, '_')}`;
  const client = new Client({ connectionString: maintenanceUrl });
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock($1)', [LOCK]);
    const { rows } = await client.query<{ datname: string }>(
      `SELECT datname FROM pg_database WHERE datname = $1 AND datistemplate`,
      [name],
    );
    if (rows.length > 0) return name;
    await dropOthers(client, ofThisCode);
    await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
    await client.query(`CREATE DATABASE ${name}`);
    // A power cut would cost no more than a run of the tests.
    await client.query(`ALTER DATABASE ${name} SET synchronous_commit TO off`);
    const url = new URL(maintenanceUrl);
    url.pathname = `/${name}`;
    await fill(url.toString());
    // Only a whole one is a template.
    await client.query(`ALTER DATABASE ${name} IS_TEMPLATE true`);
    return name;
  } finally {
    await client.end();
  }
}

/** Templates of code that is no more. */
async function dropOthers(client: Client, ofThisCode: string): Promise<void> {
  const { rows } = await client.query<{ datname: string }>(
    `SELECT datname FROM pg_database WHERE starts_with(datname, $1) AND NOT starts_with(datname, $2)`,
    [PREFIX, ofThisCode],
  );
  for (const { datname } of rows) {
    await client.query(`ALTER DATABASE ${datname} IS_TEMPLATE false`);
    await client.query(`DROP DATABASE ${datname} WITH (FORCE)`);
  }
}
