// Loads the demo where there is none yet.
import { createDatabase } from '../packages/server/src/database/connection.ts';
import { migrate } from '../packages/server/src/database/migrate.ts';
import { configFrom } from '../packages/server/src/config.ts';
import { loadCatalogue } from '../packages/server/src/modules/catalogue/index.ts';
import { closeHistory } from './close.ts';
import { hasObservatory } from '../packages/server/src/modules/founding/index.ts';
import { joinPair } from './joined.ts';
import { loadDemo } from './load.ts';
import { demoStory } from './story.ts';
import { planVisit } from './visits.ts';

const config = configFrom(process.env);
const { username, password } = new URL(config.databaseUrl);
await migrate(config.ownerDatabaseUrl, { role: decodeURIComponent(username), password: decodeURIComponent(password) });
const database = createDatabase(config.databaseUrl, { statementMs: 120_000 });
try {
  if (await hasObservatory(database)) console.log('The demo is loaded already.');
  else {
    const started = performance.now();
    const { byKey } = loadCatalogue();
    const story = demoStory(config.clockStartUtcMs ?? Date.now(), [...new Set(byKey.values())]);
    const loaded = await loadDemo(database, story);
    await closeHistory(database, story, loaded);
    await planVisit(database, story, loaded);
    await joinPair(database, story, loaded);
    console.log(
      `Loaded ${story.projects.length + 1} projects and ${story.exposures.length} exposures in ${((performance.now() - started) / 1000).toFixed(1)} s.`,
    );
  }
} finally {
  await database.close();
}
