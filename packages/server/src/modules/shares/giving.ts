// Hours given and swapped: always dated, always one's own.
import type { BodyOf, answerSwap, giveHours, proposeSwap } from '@meridiem/contract';
import type { SharedSky } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { ShareSwap } from '../../database/models/share-swap.ts';
import { NOW } from '../../database/now.ts';
import { thisMoment } from '../../database/validity.ts';
import { notAllowed, notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';
import { membersAt, withdrawGiftsOf } from './repository.ts';
import type { SharesParts } from './service.ts';

const SKY_WORDS: Readonly<Record<SharedSky, string>> = { dark: 'moonless', bright: 'moonlit' };

export function createGiving({ database, changes, observatory: observatories }: SharesParts) {
  changes.register('share_gifts', { by: 'author', takeBack: (queries, _viewer, change) => takeBackGift(queries, change) }); // prettier-ignore
  changes.register('share_swaps', { by: 'author', takeBack: (queries, _viewer, change) => takeBackSwap(queries, change) }); // prettier-ignore

  const told = async (queries: Queries, { observatoryId }: Viewer): Promise<void> => {
    for (const topic of ['ledger', 'plan'] as const) await announce(queries, observatoryId, topic);
  };

  /** @throws REFUSED for oneself, a guest or a stranger */
  async function otherMember(queries: Queries, viewer: Viewer, toId: string): Promise<string> {
    if (toId === viewer.personId) throw refused('toId', 'These are your own hours already');
    const members = await membersAt(queries, viewer.observatoryId, thisMoment());
    const other = members.find(({ memberId }) => memberId === toId);
    if (!other) throw refused('toId', 'Choose a member who can own projects');
    return other.name;
  }

  async function rigHere(queries: Queries, { observatoryId }: Viewer, rigId: string): Promise<void> {
    if (!(await queries.models.Rig.findOne({ where: { id: rigId, observatoryId } }))) throw notFound('rig');
  }

  return {
    async give(viewer: Viewer, body: BodyOf<typeof giveHours>): Promise<{ ok: true }> {
      const { observatoryId, personId } = viewer;
      const { tonight } = await observatories.read(observatoryId);
      return database.transaction(async (queries) => {
        const name = await otherMember(queries, viewer, body.toId);
        await rigHere(queries, viewer, body.rigId);
        const gift = await queries.models.ShareGift.create({ observatoryId, ...body, fromId: personId, nightDate: tonight }); // prettier-ignore
        await changes.record(queries, viewer, {
          entity: 'share_gifts',
          entityId: gift.id,
          projectId: null,
          words: `gave ${name} ${body.hours} h ${SKY_WORDS[body.skyClass]}`,
          before: { withdrawn: true },
          after: { withdrawn: false },
        });
        await told(queries, viewer);
        return { ok: true };
      });
    },

    propose: (viewer: Viewer, { givesSky, ...body }: BodyOf<typeof proposeSwap>): Promise<{ id: string }> =>
      database.transaction(async (queries) => {
        const { observatoryId, personId } = viewer;
        const name = await otherMember(queries, viewer, body.toId);
        await rigHere(queries, viewer, body.rigId);
        const getsSky = givesSky === 'dark' ? 'bright' : 'dark';
        const swap = await queries.models.ShareSwap.create({ observatoryId, ...body, fromId: personId, givesSky, getsSky }); // prettier-ignore
        await changes.record(queries, viewer, {
          entity: 'share_swaps',
          entityId: swap.id,
          projectId: null,
          words: `offered ${name} ${body.givesHours} h ${SKY_WORDS[givesSky]} for ${body.getsHours} h ${SKY_WORDS[getsSky]}`,
          before: { state: 'withdrawn' },
          after: { state: 'open' },
        });
        await told(queries, viewer);
        return { id: swap.id };
      }),

    async answer(viewer: Viewer, id: string, { answer }: BodyOf<typeof answerSwap>): Promise<{ ok: true }> {
      const { tonight } = await observatories.read(viewer.observatoryId);
      return database.transaction(async (queries) => {
        const swap = await swapFor(queries, viewer, id);
        if (swap.state !== 'open') throw new ServiceError('CONFLICT', `This swap has been ${swap.state} already`);
        if (answer === 'withdrawn' ? swap.fromId !== viewer.personId : swap.toId !== viewer.personId)
          throw notAllowed(answer === 'withdrawn' ? 'Only the one who offered it may withdraw it' : 'Only whom it was offered to may answer it'); // prettier-ignore
        await swap.update({ state: answer, decided: NOW });
        if (answer === 'accepted') await giveBoth(queries, swap, tonight);
        await changes.record(queries, viewer, {
          entity: 'share_swaps',
          entityId: id,
          projectId: null,
          words: `${answer} a swap of hours`,
          before: { state: 'open' },
          after: { state: answer },
        });
        await told(queries, viewer);
        return { ok: true };
      });
    },
  };
}

/** A swap is seen by its two members only, and held while it is answered. */
async function swapFor(queries: Queries, { observatoryId, personId }: Viewer, id: string): Promise<ShareSwap> {
  const swap = await queries.models.ShareSwap.findOne({ where: { id, observatoryId }, lock: true });
  if (!swap || ![swap.fromId, swap.toId].includes(personId)) throw notFound('swap');
  return swap;
}

async function giveBoth({ models }: Queries, swap: ShareSwap, nightDate: string): Promise<void> {
  const { id: swapId, observatoryId, rigId, fromId, toId, givesSky, givesHours, getsSky, getsHours, words } = swap;
  const both = { observatoryId, rigId, nightDate, words, swapId };
  await models.ShareGift.bulkCreate([
    { ...both, fromId, toId, skyClass: givesSky, hours: givesHours },
    { ...both, fromId: toId, toId: fromId, skyClass: getsSky, hours: getsHours },
  ]);
}

async function takeBackGift({ models }: Queries, { entityId, before }: StoredChange): Promise<void> {
  await models.ShareGift.update({ withdrawn: before.withdrawn ? NOW : null }, { where: { id: entityId } });
}

/** An offer is taken back until it is answered; an answer leaves the swap open again, and its hours where they were. */
async function takeBackSwap(queries: Queries, { entityId, before, after }: StoredChange): Promise<void> {
  const swap = (await queries.models.ShareSwap.findByPk(entityId, { lock: true }))!;
  if (swap.state !== after.state) throw new ServiceError('CONFLICT', `This swap has been ${swap.state} since`);
  await withdrawGiftsOf(queries, entityId);
  const state = before.state as ShareSwap['state'];
  await swap.update({ state, decided: state === 'open' ? null : NOW });
}
