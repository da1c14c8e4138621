// The simulated mount: it moves at its own rate, believes its own coordinates, and really points a little elsewhere.
import type { HorizonDirection, SkyPosition } from '@meridiem/core';
import {
  angleBetweenDeg,
  apparentSiderealDeg,
  apparentVector,
  directionOf,
  frameOfDate,
  hourAngleDegOf,
  luminaryDirection,
  normalFrom,
  positionAt,
  seededRandom,
  toDate,
  toJ2000,
  unitVector,
  wrap180,
  wrap360,
} from '@meridiem/core';
import type { RigFacts } from './rig-facts.ts';

/** The mount refuses: a parked mount does not slew. */
export class MountRefusal extends Error {}

const LOST = 'the mount does not know where it points; it must find home first';

interface Move {
  readonly from: SkyPosition;
  readonly to: SkyPosition;
  readonly startUtcMs: number;
  readonly endUtcMs: number;
  readonly isParking?: boolean;
  readonly staysStill?: boolean;
  readonly isHoming?: boolean;
}

const SETTLE_MS = 2000;
const HOMING_MS = 60_000;
const SUN_HOLDS_MS = 10_000;
const LARGEST_ERROR_DEG = 0.35;
/** What changes from place to place and no sync cures. */
const LOCAL_ERROR_DEG = 0.01;
const DRIFT_ARCSEC_PER_MIN = 0.6;
const SIDEREAL_DEG_PER_MS = 360 / 86_164_091;

/** A mount as it stands, without what it was moving to. */
export interface MountState {
  readonly isParked: boolean;
  /** It has lost its power since it last knew where it points. */
  readonly isLost?: boolean;
  readonly reported: SkyPosition;
  readonly error: { readonly ra: number; readonly dec: number };
  readonly pierSide: 'east' | 'west';
}

/** Coordinates inside are J2000; the protocol side speaks those of date. */
export class SimulatedMount {
  readonly #facts: RigFacts;
  #reported: SkyPosition;
  #error: { ra: number; dec: number };
  #isTracking = false;
  #isParked = true;
  #move: Move | null = null;
  /** Since when it tracks, or since when it stands. */
  #sinceUtcMs: number;
  #pierSide: 'east' | 'west' = 'east';
  #isStuck = false;
  #sun: { readonly utcMs: number; readonly direction: HorizonDirection } | null = null;
  #isLost = false;
  #isHome = false;

  constructor(facts: RigFacts, seed: number, utcMs: number) {
    this.#facts = facts;
    const random = seededRandom(seed);
    this.#error = { ra: LARGEST_ERROR_DEG * (2 * random() - 1), dec: LARGEST_ERROR_DEG * (2 * random() - 1) };
    this.#sinceUtcMs = utcMs;
    this.#reported = this.#parkPlace(utcMs);
  }

  state(utcMs: number): MountState {
    const reported = this.reported(utcMs);
    return { isParked: this.#isParked, isLost: this.#isLost, reported, error: this.#error, pierSide: this.#pierSide };
  }
  /** Stands where it stood: it tracks nothing and moves nowhere until it is told. */
  restore({ isParked, isLost = false, reported, error, pierSide }: MountState, utcMs: number): void {
    this.#isLost = isLost;
    this.#isParked = isParked;
    this.#reported = reported;
    this.#error = { ...error };
    this.#pierSide = pierSide;
    this.#isTracking = false;
    this.#move = null;
    this.#sinceUtcMs = utcMs;
  }

  get isParked(): boolean {
    return this.#isParked;
  }
  get pierSide(): 'east' | 'west' {
    return this.#pierSide;
  }
  isTracking(utcMs: number): boolean {
    this.#settle(utcMs);
    return this.#isTracking;
  }
  isSlewing(utcMs: number): boolean {
    this.#settle(utcMs);
    return this.#move !== null;
  }
  get isLost(): boolean {
    return this.#isLost;
  }
  /** Without power it stops where it is, and no longer knows where that is. */
  lose(utcMs: number): void {
    this.abort(utcMs);
    this.#isTracking = false;
    this.#isParked = false;
    this.#isLost = true;
  }
  /** Moves to its home, by switches of its own: there it knows where it is. */
  findHome(utcMs: number): void {
    if (this.#isStuck) return;
    const from = this.reported(utcMs);
    const to = this.#parkPlace(utcMs);
    this.#move = { from, to, startUtcMs: utcMs, endUtcMs: utcMs + HOMING_MS, isHoming: true };
  }
  isAtHome(utcMs: number): boolean {
    return !this.isSlewing(utcMs) && !this.#isLost && this.#isHome;
  }
  stick(isStuck: boolean, utcMs: number): void {
    if (isStuck && !this.#isStuck) {
      this.#settle(utcMs);
      this.#reported = this.#reportedAt(utcMs);
      this.#move = null;
      this.#isTracking = false;
      this.#sinceUtcMs = utcMs;
    }
    this.#isStuck = isStuck;
  }

  /** What the mount believes, J2000. */
  reported(utcMs: number): SkyPosition {
    this.#settle(utcMs);
    return this.#reportedAt(utcMs);
  }

  /** Where it really points, J2000. */
  pointing(utcMs: number): SkyPosition {
    this.#settle(utcMs);
    return this.#pointingAt(utcMs);
  }

  direction(utcMs: number): HorizonDirection {
    return this.#isParked ? this.#facts.park : directionOf(this.#facts.site, this.pointing(utcMs), utcMs);
  }

  /** Angle from the sun, and how high the sun is. */
  sun(utcMs: number): { readonly distanceDeg: number; readonly altitudeDeg: number } {
    const sun = this.#sunAt(utcMs);
    return { distanceDeg: this.angleFromDeg(sun, utcMs), altitudeDeg: sun.altitudeDeg };
  }

  /** How far from a direction it really points. */
  angleFromDeg(direction: HorizonDirection, utcMs: number): number {
    const vector = ({ altitudeDeg, azimuthDeg }: HorizonDirection) =>
      unitVector({ raDeg: azimuthDeg, decDeg: altitudeDeg });
    return angleBetweenDeg(vector(direction), vector(this.direction(utcMs)));
  }

  /** Asked with every call: in a few seconds it moves by less than anybody minds. */
  #sunAt(utcMs: number): HorizonDirection {
    if (!this.#sun || Math.abs(utcMs - this.#sun.utcMs) > SUN_HOLDS_MS)
      this.#sun = { utcMs, direction: luminaryDirection(this.#facts.site, 'sun', utcMs) };
    return this.#sun.direction;
  }

  slew(toOfDate: SkyPosition, utcMs: number): void {
    if (this.#isLost) throw new MountRefusal(LOST);
    if (this.#isParked) throw new MountRefusal('the mount is parked');
    if (this.#isStuck) return;
    this.#begin(toJ2000(toOfDate, utcMs), utcMs);
  }

  /** Stands still where it has come to. */
  slewToDirection(direction: HorizonDirection, utcMs: number): void {
    if (this.#isLost) throw new MountRefusal(LOST);
    if (this.#isParked) throw new MountRefusal('the mount is parked');
    if (this.#isTracking) throw new MountRefusal('the mount is tracking');
    if (this.#isStuck) return;
    this.#begin(positionAt(this.#facts.site, direction, utcMs), utcMs, { staysStill: true });
  }

  sync(toOfDate: SkyPosition, utcMs: number): void {
    if (this.#isParked) throw new MountRefusal('the mount is parked');
    const told = toJ2000(toOfDate, utcMs);
    const truly = this.pointing(utcMs);
    this.#reported = told;
    this.#sinceUtcMs = utcMs;
    const local = this.pointing(utcMs);
    this.#error = {
      ra: this.#error.ra + wrap180(truly.raDeg - local.raDeg),
      dec: this.#error.dec + truly.decDeg - local.decDeg,
    };
  }

  park(utcMs: number): void {
    if (this.#isLost) throw new MountRefusal(LOST);
    if (this.#isParked || this.#isStuck) return;
    this.#begin(this.#parkPlace(utcMs), utcMs, { isParking: true });
  }
  unpark(utcMs: number): void {
    if (this.#isLost) throw new MountRefusal(LOST);
    if (!this.#isParked) return;
    this.#isParked = false;
    this.#reported = this.#parkPlace(utcMs);
    this.#sinceUtcMs = utcMs;
    this.#isTracking = false;
  }
  abort(utcMs: number): void {
    this.#reported = this.reported(utcMs);
    this.#move = null;
    this.#sinceUtcMs = utcMs;
  }
  setTracking(isOn: boolean, utcMs: number): void {
    if (isOn && this.#isParked) throw new MountRefusal('the mount is parked');
    this.#reported = this.reported(utcMs);
    this.#sinceUtcMs = utcMs;
    this.#isTracking = isOn && !this.#isStuck;
  }
  /** A guider holds what it sees: drift stops here. */
  holdStill(utcMs: number): void {
    this.#sinceUtcMs = utcMs;
  }

  reportedOfDate(utcMs: number): SkyPosition {
    return toDate(this.reported(utcMs), utcMs);
  }

  #begin(to: SkyPosition, utcMs: number, how: Pick<Move, 'isParking' | 'staysStill'> = {}): void {
    const from = this.reported(utcMs);
    const distanceDeg = angleBetweenDeg(unitVector(from), unitVector(to));
    const endUtcMs = utcMs + (distanceDeg / this.#facts.slewDegPerSec) * 1000 + SETTLE_MS;
    this.#isHome = false;
    this.#move = { from, to, startUtcMs: utcMs, endUtcMs, ...how };
  }

  #settle(utcMs: number): void {
    const move = this.#move;
    if (move && utcMs >= move.endUtcMs) {
      this.#move = null;
      this.#reported = move.to;
      this.#sinceUtcMs = move.endUtcMs;
      if (move.isHoming) {
        this.#isLost = false;
        this.#isHome = true;
        this.#isTracking = false;
      } else if (move.isParking) {
        this.#isParked = true;
        this.#isTracking = false;
      } else {
        this.#isTracking = !move.staysStill;
        this.#pierSide = this.#hourAngleDeg(move.endUtcMs) >= 0 ? 'east' : 'west';
      }
    }
    // Past its limit the mount stops by itself.
    if (this.#isTracking && !this.#move && this.#pierSide === 'west') {
      const pastMs = (this.#hourAngleDeg(utcMs) / 360) * 86_164_091;
      if (pastMs > this.#facts.mountLimitAfterSec * 1000) {
        this.#reported = this.#reportedAt(utcMs);
        this.#isTracking = false;
        this.#sinceUtcMs = utcMs;
      }
    }
  }

  #pointingAt(utcMs: number): SkyPosition {
    const { raDeg, decDeg } = this.#reportedAt(utcMs);
    const minutes = this.#isTracking && !this.#move ? (utcMs - this.#sinceUtcMs) / 60_000 : 0;
    const local = seededRandom(Math.round(raDeg / 5) * 73 + Math.round(decDeg / 5));
    return {
      raDeg: wrap360(
        raDeg + this.#error.ra + LOCAL_ERROR_DEG * (local() - 0.5) + (minutes * DRIFT_ARCSEC_PER_MIN) / 3600,
      ),
      decDeg: Math.max(-90, Math.min(90, decDeg + this.#error.dec + LOCAL_ERROR_DEG * (local() - 0.5))),
    };
  }

  #hourAngleDeg(utcMs: number): number {
    const frame = frameOfDate(utcMs);
    return hourAngleDegOf(
      this.#facts.site,
      apparentVector(frame, this.#pointingAt(utcMs)),
      apparentSiderealDeg(frame, utcMs),
    );
  }

  #reportedAt(utcMs: number): SkyPosition {
    if (this.#move) {
      const { from, to, startUtcMs, endUtcMs } = this.#move;
      const share = Math.min(1, (utcMs - startUtcMs) / Math.max(1, endUtcMs - startUtcMs));
      return {
        raDeg: wrap360(from.raDeg + share * wrap180(to.raDeg - from.raDeg)),
        decDeg: from.decDeg + share * (to.decDeg - from.decDeg),
      };
    }
    if (this.#isTracking) return this.#reported;
    // Standing still, the sky turns past.
    return {
      ...this.#reported,
      raDeg: wrap360(this.#reported.raDeg + (utcMs - this.#sinceUtcMs) * SIDEREAL_DEG_PER_MS),
    };
  }

  /** The park position as a place on the sky at a moment. */
  #parkPlace(utcMs: number): SkyPosition {
    return positionAt(this.#facts.site, this.#facts.park, utcMs);
  }
}

/** Guiding error of a moment, arcseconds. */
export const guidingRmsArcsec = (seed: number, minute: number): number =>
  Math.max(0.35, 0.62 + 0.06 * normalFrom(seededRandom(seed ^ (minute * 2654435761))));
