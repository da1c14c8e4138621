// Who is behind and who is ahead: entitled against charged hours over the last open nights, and what an hour counts for it.
import type { Standing, StandingRow } from '@meridiem/contract';
import type { SeasonShares, SharedSky } from '@meridiem/core';
import {
  DAMPING_NIGHTS,
  DEFAULT_CARRY_OVER_NIGHTS,
  DEFAULT_FAIRNESS,
  hoursMultiplier,
  lapsedHours,
  nightDatePlus,
  SHARED_SKIES,
  STANDING_NIGHTS,
} from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { settingOf } from '../../database/settings-repository.ts';
import { thisMoment } from '../../database/validity.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { CountedRow, HoursRow } from './repository.ts';
import {
  chargedSums,
  countedNights,
  entitledSums,
  giftsOf,
  giftSums,
  membersAt,
  monthSums,
  nightsToClose,
  openSwapsOf,
  periodsOf,
} from './repository.ts';
import type { SharesParts } from './service.ts';
import { periodOn, sharesOn } from './shares-in-force.ts';

export interface TonightAt {
  readonly observatoryId: string;
  /** Tonight's date, whose shares hold. */
  readonly tonight: string;
}

export interface FairnessSetting {
  /** λ. */
  readonly fairness: number;
  readonly carryOverNights: number;
}

export const fairnessOf = async (queries: Queries, observatoryId: string): Promise<FairnessSetting> => ({
  fairness: DEFAULT_FAIRNESS,
  carryOverNights: DEFAULT_CARRY_OVER_NIGHTS,
  ...(await settingOf<Partial<FairnessSetting>>(queries, observatoryId, 'fairness')),
});

/** Every member's hours, rig by rig and sky by sky. */
export async function standingRows(
  queries: Queries,
  { observatoryId, tonight }: TonightAt,
): Promise<FairnessSetting & { rows: StandingRow[]; counted: CountedRow[] }> {
  const { fairness, carryOverNights } = await fairnessOf(queries, observatoryId);
  const periods = await periodsOf(queries, observatoryId);
  const members = await membersAt(queries, observatoryId, thisMoment());
  const counted = await countedNights(queries, observatoryId, STANDING_NIGHTS);
  const entitled = sumsBy(await entitledSums(queries, observatoryId, STANDING_NIGHTS));
  const charged = sumsBy(await chargedSums(queries, observatoryId, STANDING_NIGHTS));
  const given = sumsBy(await giftSums(queries, observatoryId, STANDING_NIGHTS));
  const shareOf = sharesOn(periods, members, tonight);
  const rows = counted.flatMap((rig) =>
    members.flatMap(({ memberId, name }) =>
      SHARED_SKIES.map((skyClass): StandingRow => {
        const key = keyOf({ memberId, rigId: rig.rigId, skyClass });
        const share = shareOf(memberId, rig.rigId, skyClass);
        const hours = { entitledHours: entitled.get(key) ?? 0, chargedHours: charged.get(key) ?? 0 };
        const givenHours = given.get(key) ?? 0;
        const nightHours = skyClass === 'dark' ? rig.darkHours : rig.brightHours;
        const { chargedHours } = hours;
        const entitledHours = hours.entitledHours + givenHours;
        const lapsed = lapsedHours({ entitledHours, chargedHours }, share * nightHours, carryOverNights);
        const multiplier = hoursMultiplier(
          { entitledHours: entitledHours - lapsed, chargedHours, dampingHours: share * DAMPING_NIGHTS * nightHours },
          fairness,
        );
        const of = { memberId, memberName: name, rigId: rig.rigId, skyClass, share };
        return { ...of, ...hours, givenHours, lapsedHours: lapsed, multiplier };
      }),
    ),
  );
  return { rows, fairness, carryOverNights, counted };
}

const keyOf = ({ memberId, rigId, skyClass }: Omit<HoursRow, 'hours'>): string => `${memberId} ${rigId} ${skyClass}`;
const sumsBy = (rows: readonly HoursRow[]): Map<string, number> => new Map(rows.map((row) => [keyOf(row), row.hours]));

/** Members' shares as a season takes them. */
export const seasonShares = (
  { rows, fairness }: { rows: readonly StandingRow[]; fairness: number },
  memberOf: SeasonShares['memberOf'],
  weights: Readonly<Record<SharedSky, number>>,
): SeasonShares => ({
  fairness,
  memberOf,
  weights: { dark: weights.dark, bright: weights.bright },
  standings: rows.map(
    ({ memberId, rigId, skyClass, share, entitledHours, givenHours, lapsedHours: lapsed, chargedHours }) => ({
      memberId,
      rigId,
      skyClass,
      share,
      entitledHours: entitledHours + givenHours - lapsed,
      chargedHours,
    }),
  ),
});

export const createStanding = ({ database, observatory: observatories }: SharesParts) => ({
  async read(viewer: Viewer): Promise<Standing> {
    const { observatoryId, personId } = viewer;
    const { tonight, rigs } = await observatories.read(observatoryId);
    const { rows, fairness, carryOverNights, counted } = await standingRows(database, { observatoryId, tonight });
    const waiting = new Map(
      (await nightsToClose(database, observatoryId, tonight)).map((row) => [row.rigId, row.nights]),
    );
    const periods = await periodsOf(database, observatoryId);
    return {
      rows,
      fairness,
      carryOverNights,
      counted: counted.map(({ rigId, openNights, firstNight, lastNight, lostHours }) => ({
        rigId,
        rigName: rigs.find(({ id }) => id === rigId)?.name ?? '',
        openNights,
        firstNight,
        lastNight,
        nightsToClose: waiting.get(rigId) ?? 0,
        lostHours,
      })),
      months: (await monthSums(database, observatoryId)).filter(({ month }) => month >= nightDatePlus(tonight, -370).slice(0, 7)), // prettier-ignore
      periodInForceId: periodOn(periods, tonight)?.id ?? null,
      periods,
      gifts: await giftsOf(database, observatoryId),
      swaps: await openSwapsOf(database, observatoryId, personId),
    };
  },
});
