// Dark current of a cooled sensor: it doubles with each so many degrees.

/** What a camera's dark current was measured at. */
export interface DarkCurrent {
  readonly darkCurrentEPerSec: number;
  /** Sensor temperature of that measurement. */
  readonly darkAtC: number;
  /** Degrees that double it; 5 to 7 for the sensors of this work. Source: Widenhorn et al. 2002, Proc. SPIE 4669, 193. */
  readonly darkDoublingC: number;
}

/** @returns electrons per second and pixel at a sensor temperature */
export const darkCurrentAt = ({ darkCurrentEPerSec, darkAtC, darkDoublingC }: DarkCurrent, sensorC: number): number =>
  darkCurrentEPerSec * 2 ** ((sensorC - darkAtC) / darkDoublingC);
