// One rig of the simulated observatory: its devices under one roof, over one sky, by one clock.
import type { SkyPosition, SkyStar } from '@meridiem/core';
import { luminaryDirection, seedFrom } from '@meridiem/core';
import { CameraRefusal, SimulatedCamera } from './camera.ts';
import type { ObservatoryClock } from './clock.ts';
import type { Fault } from './faults.ts';
import { Faults } from './faults.ts';
import { SimulatedGuider } from './guider.ts';
import { SimulatedMount } from './mount.ts';
import { passingDuring } from './passing.ts';
import type { CameraFrame, LightFalling } from './render.ts';
import type { RigFacts } from './rig-facts.ts';
import type { RigState } from './rig-memory.ts';
import { SimulatedRoof } from './roof.ts';
import { sensorMap } from './sensor.ts';
import { SlowAxis } from './slow-axis.ts';
import { SteppedTime } from './stepped-time.ts';
import { Truth } from './truth.ts';
import type { Weather } from './weather.ts';
import { skyMagV } from './twilight.ts';
import { calmed, MOST_CLOUD, MOST_WIND_M_PER_SEC, weatherAt } from './weather.ts';

const FOCUSER_STEPS_PER_SEC = 400;
const ROTATOR_DEG_PER_SEC = 6;
const WHEEL_PLACES_PER_SEC = 0.7;
export const MOST_FOCUS_STEPS = 60_000;
export const MOST_FLAT_BRIGHTNESS = 255;
const BEST_FOCUS_STEPS = 30_000;
const FOCUS_STEPS_PER_C = 40;
/** A star's disc grows by so many pixels a step out of focus. */
const DEFOCUS_PX_PER_STEP = 0.008;
const FLAT_PANEL_DEG = 5;
/** What faults of the sky are like. */
const CLOUD = 0.8;
const STRONG_WIND_M_PER_SEC = 13;
/** Through cloud the guide star is gone sooner than the light. */
const GUIDE_CLOUD = 0.7;
const SUN_KEEP_OUT_DEG = 30;
const SUN_HARMLESS_DEG = -6;
/** What a roof moves between two looks at it before its interlock stops it. */
const UNNOTICED_SHARE = 0.02;
/** How often a minder has to read safety. */
const UNNOTICED_MS = 5000;
/** Parking and closing take no longer. */
const CLOSING_MS = 240_000;
/** Nobody has asked for anything for so long: the watchdog at the roof closes. */
const WATCHDOG_MS = 300_000;

const POWERED = ['telescope', 'camera', 'filterwheel', 'focuser', 'rotator', 'dome'];

export class SimulatedRig {
  readonly facts: RigFacts;
  readonly clock: ObservatoryClock;
  readonly time: SteppedTime;
  readonly faults = new Faults();
  readonly truth: Truth;
  readonly mount: SimulatedMount;
  readonly roof: SimulatedRoof;
  readonly camera: SimulatedCamera;
  readonly guider = new SimulatedGuider();
  readonly wheel: SlowAxis;
  readonly focuser: SlowAxis;
  readonly rotator: SlowAxis;
  /** Of the light for flats, from 0. */
  flatBrightness = 0;
  readonly #stars: readonly SkyStar[];
  readonly #seed: number;
  readonly #isCalm: boolean;
  readonly #withoutPower = new Set<string>();
  readonly #former = new Set<string>();
  #minder: string | null = null;
  #askedUtcMs: number;
  #wasParked = true;
  /** How far the roof was open when the telescope came into its way. */
  #blockedShare: number | null = null;
  #safeUtcMs = Number.NEGATIVE_INFINITY;

  constructor(
    name: string,
    facts: RigFacts,
    parts: {
      readonly clock: ObservatoryClock;
      readonly stars: readonly SkyStar[];
      readonly state?: RigState;
      readonly isCalm?: boolean;
    },
  ) {
    this.facts = facts;
    this.clock = parts.clock;
    this.time = new SteppedTime(parts.clock);
    this.#stars = parts.stars;
    this.#seed = seedFrom(name);
    this.#isCalm = parts.isCalm ?? false;
    const now = this.clock.nowUtcMs();
    const { state } = parts;
    this.truth = new Truth(state?.truth);
    this.mount = new SimulatedMount(facts, this.#seed, now);
    if (state) this.mount.restore(state.mount, now);
    this.roof = new SimulatedRoof(now, state?.roofOpenShare);
    this.camera = new SimulatedCamera(facts, this.weather(now).temperatureC, now);
    this.wheel = new SlowAxis(state?.wheelPlace ?? 0, now, WHEEL_PLACES_PER_SEC);
    this.focuser = new SlowAxis(state?.focuserSteps ?? BEST_FOCUS_STEPS + 350, now, FOCUSER_STEPS_PER_SEC);
    this.rotator = new SlowAxis(state?.rotatorDeg ?? 0, now, ROTATOR_DEG_PER_SEC);
    this.#askedUtcMs = now;
    this.#wasParked = this.mount.isParked;
  }

  /** As it stands, for a process after this one. */
  state(name: string): RigState {
    const now = this.now;
    return {
      name,
      facts: this.facts,
      utcMs: now,
      speed: this.clock.speed,
      roofOpenShare: this.roof.openShare(now),
      mount: this.mount.state(now),
      focuserSteps: this.focuser.at(now),
      rotatorDeg: this.rotator.at(now),
      wheelPlace: Math.round(this.wheel.at(now)),
      truth: this.truth.all(),
    };
  }
  get now(): number {
    return this.clock.nowUtcMs();
  }
  weather(utcMs = this.now): Weather {
    const drawn = weatherAt(this.#seed, utcMs);
    const weather = this.#isCalm ? calmed(drawn) : drawn;
    const least = this.faults.has('cloud', utcMs) ? CLOUD : 0;
    const windMPerSec = this.faults.has('wind', utcMs) ? STRONG_WIND_M_PER_SEC : weather.windMPerSec;
    return { ...weather, windMPerSec, cloudShare: Math.max(weather.cloudShare, least) };
  }
  get isSafe(): boolean {
    const { cloudShare, windMPerSec } = this.weather();
    return !this.faults.has('unsafe', this.now) && cloudShare < MOST_CLOUD && windMPerSec < MOST_WIND_M_PER_SEC;
  }
  /** Whether the roof may move: the telescope is at its park position, or is never in the way. */
  get isRoofClear(): boolean {
    return this.facts.roofClears || (this.mount.isParked && !this.mount.isSlewing(this.now));
  }
  get seesSky(): boolean {
    return this.roof.openShare(this.now) > 0.95;
  }
  /** A light that covers the telescope is always seen, one that hangs somewhere only from there. */
  get #seesFlatLight(): boolean {
    const { flatPanel } = this.facts;
    return !flatPanel || this.mount.angleFromDeg(flatPanel, this.now) < FLAT_PANEL_DEG;
  }
  get seesGuideStar(): boolean {
    const now = this.now;
    const { cloudShare } = this.weather();
    return (
      this.seesSky && cloudShare < GUIDE_CLOUD && this.mount.isTracking(now) && !this.faults.has('guide star lost', now)
    );
  }
  guiding(): { state: ReturnType<SimulatedGuider['state']>; rmsArcsec: number | null } {
    const now = this.now;
    const state = this.guider.state(now, this.seesGuideStar);
    if (state === 'guiding') this.mount.holdStill(now);
    return { state, rmsArcsec: state === 'guiding' ? this.guider.rmsArcsec(this.#seed, now) : null };
  }
  get positionAngleDeg(): number {
    return (this.facts.skyAngleDeg + (this.facts.hasRotator ? this.rotator.at(this.now) : 0)) % 360;
  }
  get bestFocusSteps(): number {
    const filter = this.facts.filters[Math.round(this.wheel.at(this.now))];
    return BEST_FOCUS_STEPS - FOCUS_STEPS_PER_C * (this.weather().temperatureC - 10) + (filter?.focusOffsetSteps ?? 0);
  }

  /** Whether calls to its devices are answered. */
  get answers(): boolean {
    return !this.faults.has('network cut', this.now) && !this.faults.has('power cut', this.now);
  }
  /** Breaks something. */
  breakDown(fault: Fault, forSec: number): void {
    const now = this.now;
    this.truth.note(now, `fault: ${fault}`);
    this.faults.set(fault, now + 1000 * forSec);
    if (fault !== 'power cut') return;
    this.mount.lose(now);
    this.roof.halt(now);
    this.camera.abort();
    this.camera.cool({ isOn: false }, now, this.weather().temperatureC);
    this.guider.stop();
    this.#withoutPower.clear();
    for (const kind of POWERED) this.#withoutPower.add(kind);
  }
  /** Whether a device has lost its power since it was last connected. */
  isDisconnected(kind: string): boolean {
    return this.#withoutPower.has(kind);
  }
  connect(kind: string): void {
    this.#withoutPower.delete(kind);
  }
  /** Who gives commands; one who comes back after another has taken over is a second minder. */
  commandedBy(minder: string): void {
    if (minder === this.#minder) return;
    if (this.#minder !== null) this.#former.add(this.#minder);
    if (this.#former.has(minder)) {
      this.truth.violation(this.now, 'two minders gave commands', true);
      this.truth.violation(this.now, 'two minders gave commands', false);
    }
    this.#minder = minder;
  }

  /** Everything that moves on by itself, and what must never happen. Asked before every answer and once a second. */
  watch(): void {
    const now = this.now;
    this.mount.stick(this.faults.has('mount stuck', now), now);
    if (this.mount.isParked !== this.#wasParked) {
      this.#wasParked = this.mount.isParked;
      this.truth.note(now, this.#wasParked ? 'the mount is parked' : 'the mount is unparked');
    }
    const openShare = this.roof.openShare(now);
    // The roof's own interlock: it stops where the telescope comes into its way.
    const isMoving = ['opening', 'closing'].includes(this.roof.state(now));
    if (isMoving && !this.isRoofClear) {
      this.roof.halt(now);
      this.truth.note(now, 'the interlock stops the roof');
    }
    this.#blockedShare = this.isRoofClear ? null : (this.#blockedShare ?? openShare);
    this.truth.violation(
      now,
      'the roof moved over a telescope in its way',
      this.#blockedShare !== null && Math.abs(openShare - this.#blockedShare) > UNNOTICED_SHARE,
    );
    if (this.isSafe) this.#safeUtcMs = now;
    const sun = this.mount.sun(now);
    this.truth.violation(
      now,
      'the open tube pointed near the Sun',
      openShare > 0 && !this.mount.isParked && sun.altitudeDeg > SUN_HARMLESS_DEG && sun.distanceDeg < SUN_KEEP_OUT_DEG,
    );
    const unmindedMs = now - this.#askedUtcMs;
    if (openShare > 0 && unmindedMs > WATCHDOG_MS) this.#closeByWatchdog(now);
    this.truth.violation(
      now,
      'the roof stood open without a minder',
      openShare > 0 &&
        unmindedMs > WATCHDOG_MS + CLOSING_MS &&
        !this.faults.has('roof stuck', now) &&
        !this.mount.isLost &&
        !this.faults.has('mount stuck', now),
    );
  }
  /** Somebody minds the rig. */
  asked(): void {
    this.#askedUtcMs = this.now;
  }
  beginExposure(exposureSec: number, isLight: boolean): void {
    const now = this.now;
    if (this.faults.has('camera lost', now)) throw new CameraRefusal('the camera does not answer its driver');
    this.camera.begin(exposureSec, isLight, now);
    if (isLight && this.seesSky && this.flatBrightness > 0) {
      this.truth.violation(now, 'light was begun with the flat light on', true);
      this.truth.violation(now, 'light was begun with the flat light on', false);
    }
    if (isLight && this.seesSky)
      this.truth.note(
        now,
        this.isSafe ? `light begun, ${exposureSec} s` : `light begun while unsafe, ${exposureSec} s`,
      );
    // Safety is read every few seconds: what has just turned can't be known yet.
    if (isLight && this.seesSky && now - this.#safeUtcMs > UNNOTICED_MS) {
      this.truth.violation(now, 'light was begun in danger', true);
      this.truth.violation(now, 'light was begun in danger', false);
    }
  }
  /** The last picture, with the clock standing still while it is worked out. */
  picture(): CameraFrame {
    const release = this.clock.hold();
    try {
      const { now } = this;
      const map = sensorMap(this.#seed, this.facts.widthPx, this.facts.heightPx);
      const sensorC = this.camera.temperatureC(now, this.weather(now).temperatureC);
      return this.camera.picture(this.#light(), now, { map, sensorC });
    } finally {
      release();
    }
  }
  /** Where the last picture really points; null where it shows no stars. */
  solved(): (SkyPosition & { positionAngleDeg: number }) | null {
    const now = this.now;
    if (!this.seesSky || this.weather().cloudShare > MOST_CLOUD || this.faults.has('solve fails', now)) return null;
    return { ...this.mount.pointing(now), positionAngleDeg: this.positionAngleDeg };
  }

  #light(): LightFalling {
    const now = this.now;
    const { cloudShare, seeingArcsec } = this.weather();
    const { altitudeDeg } = this.mount.direction(now);
    const airmass = 1 / Math.max(0.1, Math.sin((Math.max(5, altitudeDeg) * Math.PI) / 180));
    const sunDeg = luminaryDirection(this.facts.site, 'sun', now).altitudeDeg;
    const isGuiding = this.guider.state(now, this.seesGuideStar) === 'guiding';
    const last = this.camera.last();
    const trailPx = this.mount.isTracking(now) ? (isGuiding ? 0 : 0.6) : 12;
    return {
      isOpen: this.seesSky,
      flatLightShare: this.#seesFlatLight ? this.flatBrightness / MOST_FLAT_BRIGHTNESS : 0,
      pointing: this.mount.pointing(now),
      positionAngleDeg: this.positionAngleDeg,
      widthNm: this.facts.filters[Math.round(this.wheel.at(now))]?.widthNm ?? 100,
      seeingArcsec: seeingArcsec * airmass ** 0.6,
      defocusPx: DEFOCUS_PX_PER_STEP * Math.abs(this.focuser.at(now) - this.bestFocusSteps),
      trailPx,
      transparency: (1 - cloudShare) * 10 ** (-0.4 * 0.17 * (airmass - 1)),
      skyMagV: skyMagV(sunDeg),
      stars: this.#stars,
      passing: last ? passingDuring(this.#seed, last.startUtcMs, last.exposureSec) : [],
    };
  }

  #closeByWatchdog(now: number): void {
    // Nothing moves over a mount that does not know where it points, or without power.
    if (this.mount.isLost || this.faults.has('power cut', now)) return;
    if (!this.mount.isParked) {
      if (!this.mount.isSlewing(now)) {
        this.truth.note(now, 'the watchdog parks the mount');
        this.mount.park(now);
      }
      if (!this.facts.roofClears) return;
    }
    if (!['closing', 'closed'].includes(this.roof.state(now))) {
      this.truth.note(now, 'the watchdog closes the roof');
      this.roof.move(-1, now, { isClear: true, isStuck: this.faults.has('roof stuck', now) });
    }
  }
}
