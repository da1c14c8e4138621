// What is worth a rig's time in the coming nights: usable hours of every object by filter class, its best night, its size against the field.
import type { FilterClass, FilterSky, SkyLight } from '../exposure/filter-sky.ts';
import { moonBrighteningMag, moonlightRatio } from '../exposure/filter-sky.ts';
import type { Detector, RateModel } from '../exposure/signal-rate.ts';
import { bestRate, rateModel, signalRate, tabulatedRate } from '../exposure/signal-rate.ts';
import type { Bounds, LimitsInForce } from '../limits/limit-values.ts';
import type { Rule } from '../limits/obstacles.ts';
import { rulesFor } from '../limits/obstacles.ts';
import { sampledCircumstances } from '../limits/sampled-circumstances.ts';
import { passingStretches } from '../limits/windows.ts';
import { darkIntervals, hoursOf, sunPassage } from '../sky/events.ts';
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import type { HorizonProfile } from '../sky/horizon.ts';
import type { NightArcs } from '../sky/night-arcs.ts';
import { darkHoursAbove, halfArcDeg, nightArcs } from '../sky/night-arcs.ts';
import type { NightTable } from '../sky/night-table.ts';
import { nightTable, targetSamples } from '../sky/night-table.ts';
import type { Site, SkyPosition } from '../sky/site.ts';
import type { Interval, ObservingNight } from '../time/nights.ts';
import { clockTimeInNight } from '../time/nights.ts';
import { DAY_MS, MINUTE_MS } from '../units.ts';

/** A filter that stands for its class, with the limits in force for that class. */
export interface WorthClass {
  readonly class: FilterClass;
  readonly filter: FilterSky;
  readonly exposureSec: number;
  readonly limits: LimitsInForce;
}

export interface WorthSetting {
  readonly site: Site;
  readonly timeZone: string;
  readonly horizon: HorizonProfile;
  readonly bounds: Bounds;
  /** Dark zenith in V, magnitudes per square arcsecond. */
  readonly zenithMagV: number;
  readonly detector: Detector;
  readonly classes: readonly WorthClass[];
}

export interface WorthObject extends SkyPosition {
  readonly sizeArcmin: number | null;
}

export interface Worth {
  /** Index into the objects given. */
  readonly index: number;
  /** Usable hours in all nights together, by the setting's classes. */
  readonly hours: readonly number[];
  /** Hours of the class it is ranked by in its best night, and that night's index; null where there is none. */
  readonly best: { readonly night: number; readonly hours: number } | null;
  /** Hours of that class night by night, where they were sampled. */
  readonly nightly: readonly number[] | null;
  /** Longer side over the field's shorter side; null where the size isn't known. */
  readonly fieldShare: number | null;
  /** Hours weighed by how well its size fills the field: what it is ranked by. */
  readonly worth: number;
}

export interface WorthWish {
  readonly objects: readonly WorthObject[];
  readonly nights: readonly ObservingNight[];
  /** Index of the class that ranks. */
  readonly by: number;
  /** The rig's shorter side. */
  readonly fieldDeg: number;
  /** So many of the best are sampled through every night; the rest stay estimates. */
  readonly sampled: number;
}

/** Between samples edges are found by halving; shorter windows than this are not told, and no use. */
const STEP_SEC = 20 * 60;

/** Ranks objects, the best first: closed-form arcs for all, sampled nights under all limits for the best.
 * @param onProgress is told the share done, [0, 1], and may end the work by returning false
 * @returns null where it was ended */
export function rankByWorth(
  setting: WorthSetting,
  wish: WorthWish,
  onProgress: (share: number) => boolean = () => true,
): Worth[] | null {
  const estimated = estimatedWorths(setting, wish).sort(byWorth);
  const best = estimated.slice(0, wish.sampled);
  const rates = classRates(setting);
  const skies = wish.nights.map((night) => nightSky(setting, night, rates));
  const sampled: Worth[] = [];
  for (const [i, { index, fieldShare }] of best.entries()) {
    if (i % 20 === 0 && !onProgress(i / best.length)) return null;
    const nightly = skies.map((sky) => usableStretches(sky, wish.objects[index]).map(hoursOf));
    sampled.push(worthOf({ index, fieldShare, wish, nightly }));
  }
  return [...sampled.sort(byWorth), ...estimated.slice(wish.sampled)];
}

const byWorth = (a: Worth, b: Worth): number => b.worth - a.worth || a.index - b.index;

/** How well a size uses a field: whole between a tenth and nine tenths of its shorter side, less for dots and for what needs a mosaic.
 * A choice, so that tiny and huge objects don't crowd the first page. */
export function sizeFit(fieldShare: number | null): number {
  if (fieldShare === null) return 0.3;
  if (fieldShare < 0.1) return Math.max(0.15, fieldShare / 0.1);
  return fieldShare <= 0.9 ? 1 : Math.max(0.4, 0.9 / fieldShare);
}

function estimatedWorths(setting: WorthSetting, wish: WorthWish): Worth[] {
  const hoursOfNight = arcHours(setting, arcNights(setting, wish.nights));
  return wish.objects.map((object, index) => {
    const fieldShare = object.sizeArcmin === null ? null : object.sizeArcmin / 60 / wish.fieldDeg;
    return { ...worthOf({ index, fieldShare, wish, nightly: hoursOfNight(object) }), nightly: null };
  });
}

function worthOf(of: {
  index: number;
  fieldShare: number | null;
  wish: WorthWish;
  /** Hours by night, then by class. */
  nightly: readonly (readonly number[])[];
}): Worth {
  const { index, fieldShare, wish, nightly } = of;
  const ranking = nightly.map((hours) => hours[wish.by]);
  const night = ranking.reduce((top, hours, n) => (hours > ranking[top] + 1e-9 ? n : top), 0);
  const hours = (nightly[0] ?? []).map((_, c) => nightly.reduce((sum, night) => sum + night[c], 0));
  return {
    index,
    hours,
    best: ranking[night] > 0 ? { night, hours: ranking[night] } : null,
    nightly: ranking,
    fieldShare,
    worth: (hours[wish.by] ?? 0) * sizeFit(fieldShare),
  };
}

const sunLimitOf = ({ bounds }: WorthSetting, { sunAltitudeMaxDeg }: LimitsInForce): number =>
  sunAltitudeMaxDeg.value ?? bounds.sunAltitudeMaxDeg;

/** A night's arcs for each class: classes with one sun limit share them. */
type ArcNight = readonly NightArcs[];

function arcNights(setting: WorthSetting, nights: readonly Interval[]): ArcNight[] {
  return nights.map((night) => {
    const byDepth = new Map<number, NightArcs>();
    return setting.classes.map(({ limits }) => {
      const depth = sunLimitOf(setting, limits);
      const arcs = byDepth.get(depth) ?? nightArcs(setting.site, night, depth);
      byDepth.set(depth, arcs);
      return arcs;
    });
  });
}

/** Usable hours of a place in closed form. Whether the moon shuts a class out while it is up is asked once a night, for a usual
 * pair of altitudes and to the nearest few degrees; the horizon's profile is left out.
 * @returns what tells a place's hours, by night, then by class */
function arcHours(setting: WorthSetting, nights: readonly ArcNight[]): (position: SkyPosition) => number[][] {
  const { latitudeDeg } = setting.site;
  const classes = setting.classes.map((one) => ({
    ...one,
    model: rateModel(one.filter, setting.detector, one.exposureSec),
    floorDeg: Math.max(one.limits.minAltitudeDeg.value ?? -90, setting.bounds.mountAltitudeMinDeg),
  }));
  const moons = nights.map(([{ moon }]) => unitVector(moon));
  const gates = nights.map((night) => classes.map((one, c) => moonGate(setting, one, night[c])));
  const none = nights.map(() => classes.map(() => 0));
  return (position) => {
    const halves = classes.map(({ floorDeg }) => halfArcDeg(latitudeDeg, position.decDeg, floorDeg));
    if (halves.every((half) => half === 0)) return none;
    const vector = unitVector(position);
    return nights.map((night, n) =>
      night.map((arcs, c) => {
        const all = darkHoursAbove(arcs, position.raDeg, halves[c], false);
        if (all === 0 || arcs.moonUp.length === 0) return all;
        const moonless = darkHoursAbove(arcs, position.raDeg, halves[c], true);
        if (moonless === all) return all;
        return gates[n][c](position.decDeg, angleBetweenDeg(moons[n], vector)) ? moonless : all;
      }),
    );
  };
}

/** To this many degrees of declination and separation it is asked whether the moon shuts a class out. */
const GATE_DEG = 2;

/** Whether a night's moon shuts a class out, by declination and separation; what was asked once is known. */
function moonGate(
  setting: WorthSetting,
  one: WorthClass & { readonly model: RateModel },
  arcs: NightArcs,
): (decDeg: number, separationDeg: number) => boolean {
  const known = new Map<number, boolean>();
  return (decDeg, separationDeg) => {
    const [dec, separation] = [Math.round(decDeg / GATE_DEG), Math.round(separationDeg / GATE_DEG)];
    const key = dec * 1000 + separation;
    const before = known.get(key);
    if (before !== undefined) return before;
    const isShut = moonShutsOut(setting, one, arcs, dec * GATE_DEG, separation * GATE_DEG);
    known.set(key, isShut);
    return isShut;
  };
}

/** A moon that is up stands about here. */
const USUAL_MOON_ALTITUDE_DEG = 40;

function moonShutsOut(
  { zenithMagV, site }: WorthSetting,
  { filter, limits, model }: WorthClass & { readonly model: RateModel },
  arcs: NightArcs,
  decDeg: number,
  separationDeg: number,
): boolean {
  const isBright = arcs.moonLitShare >= (limits.moonLitShareMin.value ?? 0);
  if (isBright && separationDeg < (limits.moonSeparationMinDeg.value ?? 0)) return true;
  if (limits.moonAltitudeMaxDeg.value !== null && limits.moonAltitudeMaxDeg.value < USUAL_MOON_ALTITUDE_DEG)
    return true;
  const altitudeDeg = Math.max(20, 90 - Math.abs(site.latitudeDeg - decDeg) - 15);
  const moonRatioV = moonlightRatio({
    phaseAngleDeg: arcs.moonPhaseAngleDeg,
    moonAltitudeDeg: USUAL_MOON_ALTITUDE_DEG,
    altitudeDeg,
    separationDeg,
    zenithMagV,
  });
  const tolerance = limits.moonlightToleranceMag.value;
  if (tolerance !== null && moonBrighteningMag(filter, altitudeDeg, moonRatioV) > tolerance) return true;
  const best = bestRate(model, site.latitudeDeg, decDeg);
  return signalRate(model, altitudeDeg, { moonRatioV, twilightRatioV: 0 }) < (limits.minRateShare.value ?? 0) * best;
}

/** One night sampled and its rules made once, for every place that is looked at. */
export interface NightSky {
  readonly setting: WorthSetting;
  readonly table: NightTable | null;
  readonly classes: readonly {
    readonly model: RateModel;
    readonly rateAt: (altitudeDeg: number, light: SkyLight) => number;
    readonly rules: readonly Rule[];
    readonly shortestMs: number;
  }[];
}

/** @param rates made once for many nights: see `classRates` */
export function nightSky(setting: WorthSetting, night: ObservingNight, rates = classRates(setting)): NightSky {
  const { site, bounds } = setting;
  const reach = setting.classes.map(({ limits }) =>
    // Minutes after dusk may widen the night past its sun limit: then it reaches as far as the bound.
    (limits.afterDuskMin.value ?? limits.beforeDawnMin.value) === null
      ? sunLimitOf(setting, limits)
      : bounds.sunAltitudeMaxDeg,
  );
  const dark = darkIntervals(
    site,
    night,
    reach.reduce((a, b) => Math.max(a, b)),
  );
  const interval = dark.length > 0 ? { startUtcMs: dark[0].startUtcMs, endUtcMs: dark.at(-1)!.endUtcMs } : null;
  const isLong = interval !== null && interval.endUtcMs - interval.startUtcMs > STEP_SEC * 1000;
  const table = isLong ? nightTable(site, padded(interval), STEP_SEC) : null;
  const clock = (minutes: number | null): number | null =>
    minutes === null ? null : clockTimeInNight(night, minutes, setting.timeZone);
  const classes = setting.classes.map(({ limits }, c) => ({
    ...rates[c],
    shortestMs: (limits.minStretchMin.value ?? 0) * MINUTE_MS,
    rules: rulesFor({
      night,
      nightDay: Math.round(Date.parse(night.nightDate) / DAY_MS),
      limits,
      bounds,
      horizon: setting.horizon,
      moonIlluminatedShare: table?.moonIlluminatedShare ?? 0,
      sunPassage: sunPassage(site, night, sunLimitOf(setting, limits)),
      notBeforeUtcMs: clock(limits.notBeforeClockMin.value),
      notAfterUtcMs: clock(limits.notAfterClockMin.value),
      flipBlackouts: [],
    }),
  }));
  return { setting, table, classes };
}

/** Each class's rate, tabulated. */
export const classRates = (setting: WorthSetting) =>
  setting.classes.map(({ filter, exposureSec }) => {
    const model = rateModel(filter, setting.detector, exposureSec);
    return { model, rateAt: tabulatedRate(model) };
  });

/** The table's last sample must not fall short of the interval's end. */
const padded = ({ startUtcMs, endUtcMs }: Interval): Interval => ({
  startUtcMs,
  endUtcMs: startUtcMs + Math.ceil((endUtcMs - startUtcMs) / (STEP_SEC * 1000)) * STEP_SEC * 1000,
});

/** Stretches of a night in which a place is usable, by the setting's classes: every limit held, none shorter than the smallest useful one. */
export function usableStretches({ setting, table, classes }: NightSky, position: SkyPosition): Interval[][] {
  if (!table) return classes.map(() => []);
  const target = targetSamples(table, position);
  const moonRatioV = new Float64Array(table.length).fill(NaN);
  return classes.map(({ model, rateAt, rules, shortestMs }) => {
    const best = bestRate(model, setting.site.latitudeDeg, position.decDeg);
    if (best <= 0) return [];
    const samples = sampledCircumstances({
      table,
      target,
      filter: model.filter,
      zenithMagV: setting.zenithMagV,
      rateShareAt: (altitudeDeg, light) => rateAt(altitudeDeg, light) / best,
      moonRatioV,
    });
    return passingStretches(samples, rules).filter(({ startUtcMs, endUtcMs }) => endUtcMs - startUtcMs >= shortestMs);
  });
}

/** One object through many nights, in closed form: the year at a glance.
 * @returns hours by class for each night, with the night's moon and darkness */
export function yearOfHours(
  setting: WorthSetting,
  position: SkyPosition,
  nights: readonly Interval[],
): { readonly hours: readonly number[]; readonly moonLitShare: number; readonly darkHours: number }[] {
  const arcs = arcNights(setting, nights);
  const hours = arcHours(setting, arcs)(position);
  return arcs.map(([first], n) => ({
    hours: hours[n],
    moonLitShare: first.moonLitShare,
    darkHours: first.dark ? hoursOf([first.dark]) : 0,
  }));
}
