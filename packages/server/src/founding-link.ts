// Prints the path of a founding link where the database holds no observatory; nothing where it does.
import { configFrom } from './config.ts';
import { createDatabase, UNHURRIED } from './database/connection.ts';
import { migrate } from './database/migrate.ts';
import { makeFoundingLink } from './modules/founding/index.ts';

const config = configFrom(process.env);
const { username, password } = new URL(config.databaseUrl);
await migrate(config.ownerDatabaseUrl, { role: decodeURIComponent(username), password: decodeURIComponent(password) });
const database = createDatabase(config.databaseUrl, UNHURRIED);
try {
  const path = await makeFoundingLink(database);
  if (path) console.log(path);
} finally {
  await database.close();
}
