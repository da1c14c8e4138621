// Two members of the demo on one object: the second one asks for the same exposures, and they share them half and half.
import { formatDeclination, formatRightAscension } from '@meridiem/core';
import { createClock } from '../packages/server/src/clock.ts';
import type { Database } from '../packages/server/src/database/connection.ts';
import { createChangeService } from '../packages/server/src/modules/changes/index.ts';
import { createJoinService } from '../packages/server/src/modules/joins/index.ts';
import { createObservatoryService } from '../packages/server/src/modules/observatory/index.ts';
import { createGoals, createProjectEditing } from '../packages/server/src/modules/projects/index.ts';
import type { LoadedDemo } from './load.ts';
import type { Story } from './story.ts';

const FIRST = 'spiral';
const SECOND = { owner: 'jonah', title: 'for the atlas', wanted: { L: 60, R: 20, G: 20, B: 20 } } as const;
const OWN_SHARE = 0.5;

export async function joinPair(database: Database, story: Story, { viewers, rigIds }: LoadedDemo): Promise<void> {
  const clock = createClock(story.nowUtcMs);
  const changes = createChangeService({ database });
  const observatory = createObservatoryService({ database, clock, changes });
  const projects = { ...createProjectEditing({ database, changes }), ...createGoals({ database, changes }) };
  const joins = createJoinService({ database, clock, changes });
  const first = story.projects.find(({ source }) => source.key === FIRST)!;
  const [{ position, angleDeg }] = first.panels;
  if (!position) return;
  const [offers, answers] = [viewers.get(first.source.owner)!, viewers.get(SECOND.owner)!];
  const rigId = rigIds.get(first.source.rig)!;
  const { id } = await projects.add(answers, {
    name: `${first.targetName} ${SECOND.title}`,
    rigId,
    targetName: first.targetName,
    raText: formatRightAscension(position.raDeg),
    decText: formatDeclination(position.decDeg),
    positionAngleDeg: angleDeg,
  });
  const { recipes } = await observatory.read(answers.observatoryId);
  const panel = (await database.models.Panel.findOne({ where: { projectId: id } }))!;
  for (const [letter, wanted] of Object.entries(SECOND.wanted)) {
    const recipe = recipes.find((one) => one.rigId === rigId && one.name === `${letter} standard`)!;
    await projects.addGoal(answers, { panelId: panel.id, recipeId: recipe.id, wanted, allPanels: false });
  }
  await projects.edit(viewers.get('ilse')!, id, { version: 1, state: 'granted' });
  const own = (await database.models.Project.findOne({ where: { name: first.name } }))!;
  const offer = await joins.offer(offers, own.id, { otherProjectId: id, ownShare: OWN_SHARE });
  await joins.answer(answers, offer.id, { answer: 'accepted' });
}
