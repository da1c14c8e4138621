import type { ResponseOf, Rig, catalogueAround } from '@meridiem/contract';
import type { EdgeStar, SkyStar } from '@meridiem/core';
import { edgeStars, faintStarsAround, fromTangentPlane, planeSides, sharedStars, toRad } from '@meridiem/core';
import { memo, useMemo } from 'react';
import type { Composition, Framed } from '../view-model.ts';

interface FieldStarsProps {
  readonly composition: Composition;
  readonly framed: Framed;
  readonly rig: Rig;
  readonly stars: ResponseOf<typeof catalogueAround>['stars'];
  readonly troubles: readonly EdgeStar[];
  readonly onMove: (centre: { raDeg: number; decDeg: number }) => void;
}

const MOST_TROUBLES = 4;
/** Brighter stars saturate, fainter ones drown: what panels are joined by lies between. */
const JOINING_MAG = { from: 7, to: 13 };
/** Fewer than this many in a band make joining a gamble. */
const FEW_STARS = 15;

type Stars = FieldStarsProps['stars'];
const starsOf = (stars: Stars): SkyStar[] => stars.map(([raDeg, decDeg, mag]) => ({ raDeg, decDeg, mag }));

/** The stars that trouble an edge or throw a halo, the worst first. */
export const troublesIn = ({ panels }: Framed, rig: Rig, stars: Stars): EdgeStar[] =>
  edgeStars(panels, starsOf(stars), planeSides(rig)).slice(0, MOST_TROUBLES);

/** Bright stars that will show at an edge, each with the shift that cures it, and how many stars neighbours share. */
export const FieldStars = memo(function FieldStars({
  composition,
  framed,
  rig,
  stars,
  troubles,
  onMove,
}: FieldStarsProps) {
  const sides = useMemo(() => planeSides(rig), [rig]);
  const known = useMemo(() => starsOf(stars), [stars]);
  const least = useMemo(() => {
    if (framed.panels.length < 2) return null;
    const joining = [...known, ...faintStarsAround(composition.centre, framed.reachDeg * 1.05, JOINING_MAG.to)].filter(
      ({ mag }) => mag >= JOINING_MAG.from && mag <= JOINING_MAG.to,
    );
    const bands = sharedStars(framed.panels, joining, sides);
    return bands.length > 0 ? bands.reduce((a, b) => (b.stars < a.stars ? b : a)) : null;
  }, [framed, known, composition.centre, sides]);
  const cure =
    ({ nudge }: EdgeStar) =>
    (): void => {
      const turn = toRad(composition.positionAngleDeg);
      const { rightDeg, upDeg } = nudge!;
      onMove(
        fromTangentPlane(composition.centre, {
          xDeg: -Math.cos(turn) * rightDeg + Math.sin(turn) * upDeg,
          yDeg: Math.sin(turn) * rightDeg + Math.cos(turn) * upDeg,
        }),
      );
    };
  return (
    <ul aria-label="Stars in the field">
      {troubles.map((trouble) => (
        <li
          key={`${trouble.star.raDeg} ${trouble.star.decDeg} ${trouble.panel}`}
          className="rule flex items-baseline justify-between gap-2 py-1"
        >
          <span>
            A star of magnitude {trouble.star.mag.toFixed(1)} {trouble.place}
            {framed.panels.length > 1 ? ` of panel ${trouble.panel + 1}` : ''}
            {trouble.place === 'inside'
              ? ': its halo will show'
              : `, ${Math.abs(60 * trouble.fromEdgeDeg).toFixed(1)}′ ${trouble.fromEdgeDeg < 0 ? 'beyond it' : 'within it'}`}
          </span>
          {trouble.nudge && (
            <button type="button" className="act whitespace-nowrap" onClick={cure(trouble)}>
              Move clear
            </button>
          )}
        </li>
      ))}
      {troubles.length === 0 && (
        <li className="rule py-1">No star bright enough to trouble an edge or throw a halo.</li>
      )}
      {least && (
        <li className={`rule py-1 ${least.stars < FEW_STARS ? 'text-signal' : ''}`}>
          About {least.stars} stars to join panels {least.panels[0] + 1} and {least.panels[1] + 1} by, the fewest of any
          two neighbours
          {least.stars < FEW_STARS ? ': a gamble; overlap more' : ''}{' '}
          <span className="text-soft">(partly rendered)</span>
        </li>
      )}
    </ul>
  );
});
