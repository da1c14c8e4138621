import type { NightSky } from '@meridiem/contract';
import type { ObservingNight, SkyPosition, WorthSetting } from '@meridiem/core';
import {
  directionOf,
  formatDeclination,
  formatRightAscension,
  horizonAltitudeDeg,
  nightSky,
  usableStretches,
  yearOfHours,
} from '@meridiem/core';
import { useMemo } from 'react';
import { xOf } from '../../../night-strip/geometry.ts';
import { NightStrip } from '../../../night-strip/NightStrip.tsx';
import { hours, percent } from '../../../words/format.ts';
import { haloStars, haloWords, moonWords, seasonWords, tonightWords } from '../target-words.ts';
import { useAround } from '../queries.ts';
import { TargetPicture } from './TargetPicture.tsx';
import { YearChart } from './YearChart.tsx';

export interface FinderTarget extends SkyPosition {
  readonly designation: string;
  readonly name: string | null;
  readonly kind: string;
  readonly mag: number | null;
  readonly sizeArcmin: number | null;
  /** By its three letters. */
  readonly constellation: string | null;
}

interface ChosenTargetProps {
  readonly target: FinderTarget;
  readonly setting: WorthSetting;
  readonly classNames: readonly string[];
  readonly byClass: number;
  readonly sky: NightSky;
  readonly nowUtcMs: number;
  readonly zone: string;
  /** A year of them, from tonight. */
  readonly nights: readonly ObservingNight[];
  readonly fieldDeg: number;
  readonly children?: React.ReactNode;
}

const STRIP_HEIGHT = 130;

/** One target tonight and through the year, in words and as drawings. */
export function ChosenTarget(props: ChosenTargetProps) {
  const { target, setting, classNames, byClass, sky, nowUtcMs, zone, nights, fieldDeg, children } = props;
  const usable = useMemo(() => usableStretches(nightSky(setting, nights[0]), target), [setting, nights, target]);
  const year = useMemo(() => yearOfHours(setting, target, nights), [setting, target, nights]);
  const path = useMemo(
    () => sky.sunAltitudeDeg.map((_, i) => directionOf(setting.site, target, sky.viewStartUtcMs + i * sky.stepMs)),
    [setting, target, sky],
  );
  const night = { startUtcMs: sky.viewStartUtcMs, endUtcMs: sky.viewEndUtcMs };
  const { data: around } = useAround(target, fieldDeg);
  const halos = around ? haloWords(haloStars(target, around, fieldDeg)) : null;
  return (
    <section aria-label="The chosen target">
      <TargetPicture target={target} />
      <h2 className="font-serif text-xl">
        {target.designation} <span className="text-soft">{target.name}</span>
      </h2>
      <p className="text-soft">
        {target.kind}
        {target.mag === null ? '' : `, magnitude ${target.mag.toFixed(1)}`}
        {target.sizeArcmin
          ? `, ${target.sizeArcmin}′: ${percent(target.sizeArcmin / 60 / fieldDeg)} of the field’s shorter side`
          : ', size not known'}
        <br />
        {formatRightAscension(target.raDeg)}, {formatDeclination(target.decDeg)} (J2000)
      </p>
      <p className="mt-2">
        {tonightWords({ setting, position: target, night, usable: usable[byClass] ?? [], zone })}{' '}
        {seasonWords(year, byClass, nights[0].nightDate)}
      </p>
      <p className="text-soft">
        {moonWords(setting.site, target, sky, zone)} Tonight{' '}
        {classNames
          .map(
            (name, c) =>
              `${name} ${hours(usable[c].reduce((sum, { startUtcMs, endUtcMs }) => sum + (endUtcMs - startUtcMs) / 3.6e6, 0))} h`,
          )
          .join(', ')}
        {'.'}
      </p>
      {halos && <p className="text-signal">{halos}</p>}
      <div className="mt-3">
        <NightStrip
          sky={sky}
          zone={zone}
          height={STRIP_HEIGHT}
          nowUtcMs={nowUtcMs}
          label={`Altitude of ${target.designation} tonight over the horizon below it`}
          curves={[
            { key: 'target', altitudeDeg: path.map(({ altitudeDeg }) => altitudeDeg), during: usable[byClass] ?? [] },
          ]}
          windows={usable[byClass] ?? []}
        >
          {(scale) => (
            // The horizon as the target meets it: its height in the direction where the target stands at each moment.
            <path
              d={`M0 ${STRIP_HEIGHT}${path
                .map(({ azimuthDeg }, i) => {
                  const altitude = Math.max(0, horizonAltitudeDeg(setting.horizon, azimuthDeg));
                  return `L${xOf(scale, sky.viewStartUtcMs + i * sky.stepMs).toFixed(1)} ${(STRIP_HEIGHT * (1 - altitude / 90)).toFixed(1)}`;
                })
                .join('')}L${scale.width} ${STRIP_HEIGHT}Z`}
              fill="var(--ink)"
              opacity={0.35}
            />
          )}
        </NightStrip>
      </div>
      <div className="mt-3">
        <YearChart year={year} firstNight={nights[0].nightDate} byClass={byClass} classNames={classNames} />
      </div>
      {children}
    </section>
  );
}
