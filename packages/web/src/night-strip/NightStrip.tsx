import type { NightSky } from '@meridiem/contract';
import { DateTime } from 'luxon';
import type { ReactNode } from 'react';
import { useEffect, useId, useRef, useState } from 'react';
import { clock, degrees } from '../words/format.ts';
import {
  altitudePath,
  hourMarks,
  momentAt,
  moonRibbon,
  namePlaces,
  nightShare,
  sampleAt,
  stripScale,
  xOf,
} from './geometry.ts';
import type { StripScale } from './geometry.ts';

export interface StripCurve {
  readonly key: string;
  readonly altitudeDeg: readonly number[];
  /** The stretch in which it is exposed, drawn stronger. */
  readonly during: readonly { startUtcMs: number; endUtcMs: number }[];
  /** Written where it is exposed; left out where another curve of the same target carries it. */
  readonly name?: string;
  readonly isMarked?: boolean;
}

export interface NightStripProps {
  readonly sky: NightSky;
  readonly zone: string;
  readonly height: number;
  readonly nowUtcMs: number | null;
  readonly label: string;
  readonly curves?: readonly StripCurve[];
  readonly brackets?: readonly { name: string; windows: readonly { startUtcMs: number; endUtcMs: number }[] }[];
  readonly windows?: readonly { startUtcMs: number; endUtcMs: number }[];
  /** Drawn over the strip with its scale, for blocks and marks of the page. */
  readonly children?: (scale: StripScale) => ReactNode;
}

/** Narrower strips name only the curve that is pointed at. */
const NAMES_FROM_PX = 520;

/** Brass that is read on the night's ground. */
const MARKED = 'color-mix(in oklab, var(--brass) 45%, var(--sky-ink))';

/** One night as one drawing: ground shaded by the sun's depth, moon as a ribbon, curves over it, now as a plumb line. Less ink when small. */
export function NightStrip({
  sky,
  zone,
  height,
  nowUtcMs,
  label,
  curves = [],
  brackets = [],
  windows = [],
  children,
}: NightStripProps) {
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const [underX, setUnderX] = useState<number | null>(null);
  const gradient = useId();
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const scale = stripScale(sky, width);
  const roomy = height >= 60;
  const namedCurves = (all: readonly StripCurve[], widthPx: number) => {
    const shown = all.filter(({ name, isMarked }) => name && (widthPx >= NAMES_FROM_PX || isMarked));
    const wanted = shown.flatMap((curve) => {
      const [first] = curve.during;
      if (!first) return [];
      const middle = (first.startUtcMs + first.endUtcMs) / 2;
      const y = height * (1 - sampleAt(sky, curve.altitudeDeg, middle) / 90);
      return [{ curve, name: curve.name!, x: xOf(scale, middle), y: y - 6 }];
    });
    return namePlaces(wanted, scale.width, height);
  };
  const sunDepths = sky.sunAltitudeDeg.filter((_, i) => i % 4 === 0);
  const offsetMs = DateTime.fromMillis(sky.viewStartUtcMs, { zone }).offset * 60_000;
  const midnight =
    (sky.sunsetUtcMs !== null && sky.sunriseUtcMs !== null
      ? sky.sunsetUtcMs + sky.sunriseUtcMs
      : sky.viewStartUtcMs + sky.viewEndUtcMs) / 2;
  return (
    <div
      ref={frame}
      className="relative w-full"
      style={{ height, marginBottom: roomy ? 16 : 0 }}
      onMouseLeave={() => setUnderX(null)}
      onMouseMove={(event) => roomy && setUnderX(event.clientX - event.currentTarget.getBoundingClientRect().left)}
    >
      {width > 0 && (
        <svg
          width={width}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          preserveAspectRatio="none"
          role="img"
          aria-label={label}
          className="night-strip block overflow-visible"
        >
          <defs>
            <linearGradient id={gradient} x1="0" x2="1" y1="0" y2="0">
              {sunDepths.map((altitude, i) => (
                <stop
                  key={i}
                  offset={i / (sunDepths.length - 1)}
                  stopColor={`color-mix(in oklab, var(--sky-night) ${Math.round(100 * nightShare(altitude))}%, var(--sky-day))`}
                />
              ))}
            </linearGradient>
          </defs>
          <rect width={width} height={height} fill={`url(#${gradient})`} />
          <path d={moonRibbon(sky, scale, height, roomy ? 18 : 7)} fill="var(--moon)" opacity={0.55} />
          {windows.map((window) => (
            <rect
              key={window.startUtcMs}
              x={xOf(scale, window.startUtcMs)}
              y={height - 4}
              width={Math.max(1, xOf(scale, window.endUtcMs) - xOf(scale, window.startUtcMs))}
              height={4}
              fill="var(--moon)"
            />
          ))}
          {roomy && curves.length > 0 && <AltitudeScale width={width} height={height} x={xOf(scale, midnight) + 4} />}
          {roomy && <HourScale scale={scale} zone={zone} height={height} offsetMs={offsetMs} />}
          <line
            x1={xOf(scale, midnight)}
            x2={xOf(scale, midnight)}
            y1={0}
            y2={height}
            stroke="var(--sky-ink)"
            strokeWidth={0.5}
            opacity={0.6}
          />
          {curves.map((curve) => (
            <Curve
              key={curve.key}
              curve={curve}
              sky={sky}
              scale={scale}
              height={height}
              id={`${gradient}-${curve.key}`}
            />
          ))}
          {namedCurves(curves, width).map(({ curve, x, y }) => (
            <CurveName key={curve.key} curve={curve} x={x} y={y} />
          ))}
          {roomy &&
            brackets.map((bracket, row) =>
              bracket.windows.map((window) => (
                <Bracket
                  key={`${bracket.name}${window.startUtcMs}`}
                  name={bracket.name}
                  from={xOf(scale, window.startUtcMs)}
                  to={xOf(scale, window.endUtcMs)}
                  y={10 + row * 13}
                />
              )),
            )}
          {children?.(scale)}
          {nowUtcMs !== null && nowUtcMs >= sky.viewStartUtcMs && nowUtcMs <= sky.viewEndUtcMs && (
            <PlumbLine x={xOf(scale, nowUtcMs)} height={height} />
          )}
          {underX !== null && (
            <line
              x1={underX}
              x2={underX}
              y1={0}
              y2={height}
              stroke="var(--sky-ink)"
              strokeWidth={1}
              strokeDasharray="2 2"
            />
          )}
        </svg>
      )}
      {underX !== null && <Reading sky={sky} zone={zone} utcMs={momentAt(scale, underX)} x={underX} width={width} />}
    </div>
  );
}

const PlumbLine = ({ x, height }: { x: number; height: number }) => (
  <g aria-label="now">
    <line x1={x} x2={x} y1={0} y2={height - 3} stroke="var(--brass)" strokeWidth={2} />
    <path d={`M${x - 3} ${height - 6}L${x + 3} ${height - 6}L${x} ${height}Z`} fill="var(--brass)" />
  </g>
);

function HourScale({
  scale,
  zone,
  height,
  offsetMs,
}: {
  scale: StripScale;
  zone: string;
  height: number;
  offsetMs: number;
}) {
  return hourMarks(scale, offsetMs).map((utcMs) => {
    const x = xOf(scale, utcMs);
    return (
      <g key={utcMs}>
        <line x1={x} x2={x} y1={height} y2={height + 3} stroke="var(--ink-soft)" strokeWidth={0.75} />
        {x > 14 && x < scale.width - 14 && (
          <text x={x} y={height + 13} textAnchor="middle" fontSize={10} fill="var(--ink-soft)">
            {clock(utcMs, zone).slice(0, 2)}
          </text>
        )}
      </g>
    );
  });
}

const Bracket = ({ name, from, to, y }: { name: string; from: number; to: number; y: number }) => (
  <g>
    <path
      d={`M${from} ${y + 4}V${y}H${to}V${y + 4}`}
      fill="none"
      stroke="var(--sky-ink)"
      strokeWidth={0.75}
      opacity={0.8}
    />
    {/* A curve that passes behind the name doesn't strike it out. */}
    <text
      x={to - 5}
      y={y + 10}
      textAnchor="end"
      fontSize={9.5}
      fill="var(--sky-ink)"
      stroke="var(--sky-night)"
      strokeWidth={3}
      paintOrder="stroke"
    >
      {name}
    </text>
  </g>
);

interface CurveProps {
  readonly curve: StripCurve;
  readonly sky: NightSky;
  readonly scale: StripScale;
  readonly height: number;
  readonly id: string;
}

function Curve({ curve, sky, scale, height, id }: CurveProps) {
  const path = altitudePath(sky, curve.altitudeDeg, scale, height);
  return (
    <g fill="none" stroke={curve.isMarked ? MARKED : 'var(--sky-ink)'}>
      <path d={path} strokeWidth={0.75} opacity={0.45} />
      <clipPath id={id}>
        {curve.during.map((stretch) => (
          <rect
            key={stretch.startUtcMs}
            x={xOf(scale, stretch.startUtcMs)}
            y={0}
            width={Math.max(0, xOf(scale, stretch.endUtcMs) - xOf(scale, stretch.startUtcMs))}
            height={height}
          />
        ))}
      </clipPath>
      <path d={path} strokeWidth={curve.isMarked ? 3.5 : 2.25} clipPath={`url(#${id})`} />
    </g>
  );
}

/** 30° and 60°, with their figures where it is darkest. */
const AltitudeScale = ({ width, height, x }: { width: number; height: number; x: number }) =>
  [30, 60].map((altitudeDeg) => {
    const y = height * (1 - altitudeDeg / 90);
    return (
      <g key={altitudeDeg}>
        <line x1={0} x2={width} y1={y} y2={y} stroke="var(--sky-ink)" strokeWidth={0.5} opacity={0.35} />
        <text x={x} y={y - 2} fontSize={9.5} fill="var(--sky-ink)" opacity={0.8}>
          {altitudeDeg}°
        </text>
      </g>
    );
  });

function CurveName({ curve, x, y }: { curve: StripCurve; x: number; y: number }) {
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      fontSize={10.5}
      fill={curve.isMarked ? MARKED : 'var(--sky-ink)'}
      stroke="var(--sky-night)"
      strokeWidth={3}
      paintOrder="stroke"
    >
      {curve.name}
    </text>
  );
}

/** The values under the line. */
function Reading({
  sky,
  zone,
  utcMs,
  x,
  width,
}: {
  sky: NightSky;
  zone: string;
  utcMs: number;
  x: number;
  width: number;
}) {
  const sun = sampleAt(sky, sky.sunAltitudeDeg, utcMs);
  const moon = sampleAt(sky, sky.moonAltitudeDeg, utcMs);
  const brightening = sampleAt(sky, sky.moonBrighteningMag, utcMs);
  return (
    <div
      className="pointer-events-none absolute top-full z-10 mt-1 whitespace-nowrap border border-hairline bg-raised px-2 py-1 text-xs"
      style={x > width / 2 ? { right: width - x } : { left: x }}
    >
      {clock(utcMs, zone)} · sun {degrees(sun)} · moon{' '}
      {moon > -0.8 ? `${degrees(moon)}, zenith +${brightening.toFixed(1)} mag` : 'down'}
    </div>
  );
}
