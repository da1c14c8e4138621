// Where on Earth one observes from.

/** A place on the WGS84 ellipsoid. Longitude is positive east. */
export interface Site {
  readonly latitudeDeg: number;
  readonly longitudeDeg: number;
  readonly elevationM: number;
}

/** A place on the celestial sphere at J2000.0 (ICRS). */
export interface SkyPosition {
  readonly raDeg: number;
  readonly decDeg: number;
}

/** A direction seen from a site: geometric altitude, azimuth from north through east in [0, 360). */
export interface HorizonDirection {
  readonly altitudeDeg: number;
  readonly azimuthDeg: number;
}
