import type { NightSky, ResponseOf, catalogueAround } from '@meridiem/contract';
import type { WorthSetting } from '@meridiem/core';
import { directionOf, horizonAltitudeDeg, luminaryDirection } from '@meridiem/core';
import { useMemo, useState } from 'react';
import { clock, degrees } from '../../../words/format.ts';
import { sideOf } from '../target-words.ts';
import type { FinderTarget } from './ChosenTarget.tsx';

interface WholeSkyProps {
  readonly setting: WorthSetting;
  readonly sky: NightSky;
  readonly nowUtcMs: number;
  readonly zone: string;
  readonly stars: ResponseOf<typeof catalogueAround>['stars'];
  readonly targets: readonly FinderTarget[];
  readonly chosen: FinderTarget | null;
  readonly onChoose: (target: FinderTarget) => void;
}

const [SIZE, RADIUS] = [560, 250];
const STEP_MS = 5 * 60_000;

/** Zenith in the middle, north up, east left, as one lies on one's back; equal steps of altitude are equal steps of the page. */
const place = ({ altitudeDeg, azimuthDeg }: { altitudeDeg: number; azimuthDeg: number }): { x: number; y: number } => {
  const reach = ((90 - altitudeDeg) / 90) * RADIUS;
  const turn = (azimuthDeg * Math.PI) / 180;
  return { x: SIZE / 2 - reach * Math.sin(turn), y: SIZE / 2 - reach * Math.cos(turn) };
};

/** Tonight's whole sky at a moment of one's choice, with what is worth the rig's time; a click chooses and adds nothing. */
export function WholeSky({ setting, sky, nowUtcMs, zone, stars, targets, chosen, onChoose }: WholeSkyProps) {
  const middle = (sky.viewStartUtcMs + sky.viewEndUtcMs) / 2;
  const isNight = nowUtcMs > sky.viewStartUtcMs && nowUtcMs < sky.viewEndUtcMs;
  const [utcMs, setUtcMs] = useState(isNight ? nowUtcMs : middle);
  const starPlaces = useMemo(
    () =>
      stars.flatMap(([raDeg, decDeg, mag]) => {
        const at = directionOf(setting.site, { raDeg, decDeg }, utcMs);
        return at.altitudeDeg > 0 ? [{ ...place(at), mag }] : [];
      }),
    [setting, stars, utcMs],
  );
  const targetPlaces = targets.flatMap((target) => {
    const at = directionOf(setting.site, target, utcMs);
    return at.altitudeDeg > 0 ? [{ target, at, ...place(at) }] : [];
  });
  const horizon = Array.from({ length: 121 }, (_, i) => {
    const azimuthDeg = i * 3;
    const { x, y } = place({ azimuthDeg, altitudeDeg: Math.max(0, horizonAltitudeDeg(setting.horizon, azimuthDeg)) });
    return `${x.toFixed(1)} ${y.toFixed(1)}`;
  });
  const rim = Array.from({ length: 121 }, (_, i) => {
    const { x, y } = place({ azimuthDeg: 360 - i * 3, altitudeDeg: 0 });
    return `${x.toFixed(1)} ${y.toFixed(1)}`;
  });
  const moon = luminaryDirection(setting.site, 'moon', utcMs);
  return (
    <section aria-label="Tonight’s whole sky">
      <label className="flex items-center gap-3">
        <span className="text-soft">at</span>
        <input
          type="range"
          className="grow accent-[var(--brass)]"
          min={sky.viewStartUtcMs}
          max={sky.viewEndUtcMs}
          step={STEP_MS}
          value={utcMs}
          aria-valuetext={clock(utcMs, zone)}
          onChange={(event) => setUtcMs(event.target.valueAsNumber)}
        />
        <strong>{clock(utcMs, zone)}</strong>
        <button type="button" className="act" onClick={() => setUtcMs(nowUtcMs)} disabled={!isNight}>
          Now
        </button>
      </label>
      <svg
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        className="mx-auto block w-full max-w-[520px]"
        role="group"
        aria-label={`The sky at ${clock(utcMs, zone)}`}
      >
        <circle cx={SIZE / 2} cy={SIZE / 2} r={RADIUS} fill="var(--sky-night)" />
        {[30, 60].map((altitude) => (
          <circle
            key={altitude}
            cx={SIZE / 2}
            cy={SIZE / 2}
            r={((90 - altitude) / 90) * RADIUS}
            fill="none"
            stroke="var(--moon)"
            strokeWidth={0.4}
            strokeDasharray="1 4"
          />
        ))}
        {starPlaces.map(({ x, y, mag }) => (
          <circle
            key={`${x} ${y}`}
            cx={x}
            cy={y}
            r={Math.max(0.4, 2.6 - 0.5 * mag)}
            fill="var(--sky-ink)"
            opacity={0.8}
          />
        ))}
        <path d={`M${horizon.join('L')}ZM${rim.join('L')}Z`} fill="var(--ground)" opacity={0.72} fillRule="evenodd" />
        {moon.altitudeDeg > 0 && (
          <g>
            <circle cx={place(moon).x} cy={place(moon).y} r={9} fill="var(--moon)" />
            <text x={place(moon).x + 12} y={place(moon).y + 4} fontSize={11} fill="var(--moon)">
              moon
            </text>
          </g>
        )}
        {targetPlaces.map(({ target, at, x, y }) => {
          const isChosen = chosen?.designation === target.designation;
          return (
            <g
              key={target.designation}
              role="button"
              tabIndex={0}
              className="cursor-pointer"
              aria-label={`${target.designation}, ${degrees(at.altitudeDeg, 0)} high in the ${sideOf(at.azimuthDeg)}`}
              aria-pressed={isChosen}
              onClick={() => onChoose(target)}
              onKeyDown={(event) => (event.key === 'Enter' || event.key === ' ') && onChoose(target)}
            >
              <circle cx={x} cy={y} r={9} fill="transparent" />
              <rect
                x={x - 3}
                y={y - 3}
                width={6}
                height={6}
                transform={`rotate(45 ${x} ${y})`}
                fill={isChosen ? 'var(--brass-wash)' : 'none'}
                stroke={isChosen ? 'var(--brass)' : 'var(--moon)'}
                strokeWidth={isChosen ? 2 : 1}
              />
              {isChosen && (
                <text x={x + 8} y={y - 6} fontSize={12} fill="var(--sky-ink)">
                  {target.designation}
                </text>
              )}
            </g>
          );
        })}
        {(['north', 'east', 'south', 'west'] as const).map((side, i) => {
          const at = place({ azimuthDeg: 90 * i, altitudeDeg: -8 });
          return (
            <text
              key={side}
              x={at.x}
              y={at.y}
              fontSize={12}
              fill="var(--ink-soft)"
              textAnchor="middle"
              dominantBaseline="central"
            >
              {side[0].toUpperCase()}
            </text>
          );
        })}
      </svg>
      <p className="text-sm text-soft">
        Zenith in the middle, east on the left, rings at 30° and 60°; what the horizon hides is veiled. Squares are the
        objects of the list.
      </p>
    </section>
  );
}
