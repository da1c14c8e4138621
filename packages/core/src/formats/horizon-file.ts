// Horizon files: a line a point, azimuth and altitude in degrees, in any order; "#" or ";" begin remarks.
import { CoreError } from '../errors.ts';
import type { HorizonPoint } from '../sky/horizon.ts';

const MAX_POINTS = 3600;

/** @throws HORIZON_UNREADABLE naming the line, or where there is no point at all */
export function parseHorizonFile(text: string): HorizonPoint[] {
  const points: HorizonPoint[] = [];
  text.split(/\r?\n/).forEach((line, i) => {
    const plain = line.replace(/[#;].*$/, '').trim();
    if (plain === '') return;
    const [azimuthDeg, altitudeDeg, ...rest] = plain.split(/[\s,]+/).map(Number);
    const sound = rest.length === 0 && azimuthDeg >= 0 && azimuthDeg <= 360 && altitudeDeg >= -90 && altitudeDeg <= 90;
    if (!sound) {
      throw new CoreError('HORIZON_UNREADABLE', `Line ${i + 1} ("${plain}") is no azimuth 0–360 and altitude −90–90`, {
        line: i + 1,
      });
    }
    points.push({ azimuthDeg, altitudeDeg });
  });
  if (points.length === 0)
    throw new CoreError('HORIZON_UNREADABLE', 'There is no point in it; the horizon stays as it was', {});
  if (points.length > MAX_POINTS)
    throw new CoreError('HORIZON_UNREADABLE', `${points.length} points; at most ${MAX_POINTS} are kept`, {});
  return points;
}

/** Points as a horizon file. */
export const formatHorizonFile = (points: readonly HorizonPoint[]): string =>
  points.map(({ azimuthDeg, altitudeDeg }) => `${azimuthDeg} ${altitudeDeg}`).join('\n');
