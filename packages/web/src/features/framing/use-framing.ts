// The framing page's state: composition and view from the address, each with the hand's own steps ahead of it.
import type { Rig } from '@meridiem/contract';
import { catalogueAround } from '@meridiem/contract';
import type { SkyPosition } from '@meridiem/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { AddressChanges } from '../../app/address.ts';
import { useAddress } from '../../app/address.ts';
import { useAhead } from '../../app/ahead.ts';
import { call } from '../../app/api.ts';
import type { SkyView } from '../../sky-field/projection.ts';
import { reachOf } from '../../sky-field/projection.ts';
import type { SkyContent } from '../../sky-field/sky-map.ts';
import { contentOf, faintStarsFor } from '../../sky-field/sky-map.ts';
import type { Composition, Framed } from './view-model.ts';
import { presentAngleDeg } from '../../words/camera-angle.ts';
import { addressOf, compositionFrom, framed, subjectAddress } from './view-model.ts';

/** Sky around the composition, as a multiple of its reach. */
const MARGIN = 3.4;
const HEIGHT_SHARE = 0.7;
const [NARROWEST_DEG, WIDEST_DEG] = [0.15, 60];
/** Beyond the drawing's corners the map reaches by this much, so that pulling it shows sky at once. */
const SPARE = 1.4;
const MOST_AROUND_DEG = 60;

/** Where the sky is looked at; nothing where it follows the composition. */
interface Look {
  readonly look: SkyPosition | null;
  readonly wideDeg: number | null;
}
/** What is dragged, turned or nudged. */
type InHand = Look & Pick<Composition, 'centre' | 'positionAngleDeg'>;

export interface Framing {
  readonly search: URLSearchParams;
  readonly change: ReturnType<typeof useAddress>[1];
  /** As in the address; what takes time to work out follows it. */
  readonly settled: Composition;
  /** As under the hand. */
  readonly composition: Composition;
  readonly framed: Framed;
  /** Panels of the rig before. */
  readonly framedBefore: Framed | null;
  readonly view: SkyView;
  readonly around: ReturnType<typeof useAround>;
  readonly content: SkyContent;
  readonly hold: (changes: Partial<InHand>) => void;
}

/** @param before the rig it was framed with until now, while nobody has said what to keep: both are looked at */
export function useFraming(
  rig: Rig | undefined,
  before: Rig | undefined,
  widthPx: number,
): Omit<Framing, 'settled'> & { settled: Composition | null } {
  const [search, change] = useAddress({ replace: true });
  const restingAngleDeg = rig ? presentAngleDeg(rig) : 0;
  const settled = useMemo(() => compositionFrom(search, restingAngleDeg), [search, restingAngleDeg]);
  const inAddress = useMemo(() => ({ ...(settled ?? NOWHERE), ...lookFrom(search) }), [search, settled]);
  const [live, hold] = useAhead<Composition & Look>(inAddress, ({ look, wideDeg, ...moved }) =>
    change({ ...subjectStays(search, settled), ...addressOf(moved), ...lookAddress({ look, wideDeg }) }),
  );
  const frame = useMemo(() => (rig ? framed(live, rig) : NO_FRAME), [live, rig]);
  const framedBefore = useMemo(() => (before && settled ? framed(settled, before) : null), [settled, before]);
  const reachDeg = Math.max(frame.reachDeg, framedBefore?.reachDeg ?? 0);
  const view = useMemo(() => viewOf(live, reachDeg, widthPx), [live, reachDeg, widthPx]);
  const settledView = useMemo(() => viewOf(inAddress, reachDeg, widthPx), [inAddress, reachDeg, widthPx]);
  const around = useAround(settledView, settled !== null && rig !== undefined);
  const content = useMemo(() => {
    const spare = { ...settledView, widthPx: SPARE * settledView.widthPx, widthDeg: SPARE * settledView.widthDeg };
    return contentOf(around ?? { stars: [], objects: [] }, faintStarsFor(spare));
  }, [around, settledView]);
  return { search, change, settled, composition: live, framed: frame, framedBefore, view, around, content, hold };
}

/** A place that came without its subject: the subject stays there when the frame moves on. */
const subjectStays = (search: URLSearchParams, settled: Composition | null): AddressChanges =>
  search.has('sra') || !settled ? {} : subjectAddress(settled.subject);

const NOWHERE: Composition = {
  targetName: '',
  subject: { name: '', raDeg: 0, decDeg: 0, sizeArcmin: null, outline: null },
  others: [],
  centre: { raDeg: 0, decDeg: 0 },
  positionAngleDeg: 0,
  rows: 1,
  cols: 1,
  overlapPercent: 15,
  layout: 'one_angle',
};
const NO_FRAME: Framed = { panels: [], overlapPercent: 0, wholeDeg: { width: 1, height: 1 }, reachDeg: 0.7 };

function useAround(view: SkyView, isWanted: boolean) {
  const radiusDeg = Math.min(MOST_AROUND_DEG, SPARE * reachOf(view));
  const { data } = useQuery({
    queryKey: ['catalogue', 'around', view.centre, radiusDeg],
    queryFn: ({ signal }) => call(catalogueAround, { query: { ...view.centre, radiusDeg }, signal }),
    enabled: isWanted,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  return data;
}

function viewOf(
  { look, wideDeg, centre }: Look & { readonly centre: SkyPosition },
  reachDeg: number,
  widthPx: number,
): SkyView {
  const widthDeg = wideDeg ?? Math.min(WIDEST_DEG, Math.max(2 * NARROWEST_DEG, reachDeg * MARGIN));
  return { centre: look ?? centre, widthDeg, widthPx, heightPx: Math.round(HEIGHT_SHARE * widthPx) };
}

/** The width of sky within what can be drawn. */
export const clampedWidthDeg = (degrees: number): number => Math.min(WIDEST_DEG, Math.max(NARROWEST_DEG, degrees));

function lookFrom(search: URLSearchParams): Look {
  const [raDeg, decDeg] = (search.get('look') ?? '')
    .split(',')
    .map((part) => (part === '' ? Number.NaN : Number(part)));
  const wide = Number(search.get('wide'));
  return {
    look: raDeg >= 0 && raDeg < 360 && Math.abs(decDeg) <= 90 ? { raDeg, decDeg } : null,
    wideDeg: wide > 0 ? clampedWidthDeg(wide) : null,
  };
}

const lookAddress = ({ look, wideDeg }: Partial<Look>) => ({
  ...(look === undefined ? {} : { look: look && `${look.raDeg.toFixed(4)},${look.decDeg.toFixed(4)}` }),
  ...(wideDeg === undefined ? {} : { wide: wideDeg === null ? null : String(Number(wideDeg.toPrecision(4))) }),
});
