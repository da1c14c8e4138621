// Test shots of held nights as rows.
import type { BodyOf, orderTestShot, ShownTestShot, TestShot } from '@meridiem/contract';
import { literal, Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { TestShotRow } from '../../database/models/test-shot.ts';
import type { RunRow } from './repository.ts';

type Asked = BodyOf<typeof orderTestShot>;

export const storeTestShot = (
  { models }: Queries,
  { id: runId, observatoryId }: Pick<RunRow, 'id' | 'observatoryId'>,
  { at, exposureSec, filterLetter, binning }: Asked,
  orderedBy: string,
): Promise<unknown> =>
  models.TestShot.create({
    ...{ runId, observatoryId, orderedBy, exposureSec, filterLetter, binning },
    ...{ raDeg: at?.raDeg ?? null, decDeg: at?.decDeg ?? null },
  });

/** Asked for since a moment, and without an outcome. */
export async function openTestShot({ models }: Queries, runId: string, since: Date): Promise<TestShot | null> {
  const row = await models.TestShot.findOne({ where: { runId, outcome: null, ordered: { [Op.gte]: since } } });
  return row && { id: row.id, ...askedOf(row) };
}

/** What nobody has taken is given up: its hold was lifted, or its night ended. */
export const giveUpTestShots = ({ models }: Queries, runId: string): Promise<unknown> =>
  models.TestShot.update(
    { outcome: 'refused', words: 'not taken: the hold was lifted first' },
    { where: { runId, outcome: null } },
  );

export const endOfTestShot = (
  { models }: Queries,
  { runId, id }: { readonly runId: string; readonly id: string },
  end: Pick<TestShotRow, 'outcome' | 'words' | 'picture'>,
): Promise<unknown> => models.TestShot.update(end, { where: { id, runId, outcome: null } });

const MOST_SHOWN = 10;
const HAS_PICTURE = literal('picture IS NOT NULL');

/** The newest first. */
export async function testShotsOf({ models }: Queries, runId: string): Promise<ShownTestShot[]> {
  const rows = await models.TestShot.findAll({
    where: { runId },
    attributes: { exclude: ['picture'], include: [[HAS_PICTURE, 'hasPicture']] },
    order: [
      ['ordered', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: MOST_SHOWN,
    include: ['person'],
  });
  return rows.map((row) => ({
    ...{ id: row.id, ...askedOf(row), orderedUtcMs: row.ordered.getTime(), outcome: row.outcome, words: row.words },
    by: (row as typeof row & { person: { name: string } }).person.name,
    hasPicture: row.get('hasPicture') as boolean,
  }));
}

export async function pictureOfTestShot(
  { models }: Queries,
  where: { readonly observatoryId: string; readonly runId: string; readonly id: string },
): Promise<Buffer | null> {
  const row = await models.TestShot.findOne({ where, attributes: ['picture'] });
  return row?.picture ?? null;
}

const askedOf = ({ exposureSec, filterLetter, binning, raDeg, decDeg }: TestShotRow) => ({
  ...{ exposureSec, filterLetter, binning },
  at: raDeg === null || decDeg === null ? null : { raDeg, decDeg },
});
