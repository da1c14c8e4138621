import type { Rig } from '@meridiem/contract';
import { framedAngles } from '@meridiem/contract';
import { angleApartDeg, cameraTurn } from '@meridiem/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { call } from '../../../app/api.ts';
import { turnByWords } from '../../../words/camera-turn.ts';
import { degrees } from '../../../words/format.ts';

interface CameraAngleProps {
  readonly rig: Rig;
  readonly positionAngleDeg: number;
  readonly onTake: (positionAngleDeg: number) => void;
}

/** How the camera gets to the angle, and which granted projects stand at it or near it. */
export function CameraAngle({ rig, positionAngleDeg, onTake }: CameraAngleProps) {
  const { data } = useQuery({
    queryKey: ['projects', 'angles', rig.id],
    queryFn: ({ signal }) => call(framedAngles, { params: { id: rig.id }, signal }),
  });
  const near = (data?.angles ?? [])
    .map((other) => ({ ...other, apartDeg: angleApartDeg(other.positionAngleDeg, positionAngleDeg) }))
    .sort((a, b) => a.apartDeg - b.apartDeg);
  const sharing = near.filter(({ apartDeg }) => apartDeg <= rig.angleToleranceDeg);
  const next = near.find(({ apartDeg }) => apartDeg > rig.angleToleranceDeg);
  return (
    <section aria-label="Camera angle">
      <p>{turnWords(rig, positionAngleDeg)}</p>
      {sharing.length > 0 && (
        <>
          <p className="mt-1">Granted projects at this angle, within {degrees(rig.angleToleranceDeg, 0)}:</p>
          <ul>
            {sharing.map(({ projectId, projectName, panels, apartDeg }, i) => (
              <li key={i} className="rule flex justify-between gap-2 py-1">
                {projectId ? (
                  <Link className="word-link" to={`/projects/${projectId}`}>
                    {projectName}
                  </Link>
                ) : (
                  projectName
                )}
                <span className="text-soft">
                  {panels === 1 ? '1 panel' : `${panels} panels`}, {degrees(apartDeg)} away
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {data && sharing.length === 0 && <p className="mt-1">No granted project uses this angle.</p>}
      {next && rig.rotatorKind !== 'motor' && (
        <p className="mt-1">
          The nearest other is {next.projectName} at {degrees(next.positionAngleDeg)}.{' '}
          <button type="button" className="act" onClick={() => onTake(next.positionAngleDeg)}>
            Share its angle
          </button>
        </p>
      )}
    </section>
  );
}

/** "Turn the camera by 12.0° clockwise, seen from behind it: 9.6 mm along its tube." */
export function turnWords(rig: Rig, positionAngleDeg: number): string {
  if (rig.rotatorKind === 'motor') return 'A motor turns this camera; upside down, it frames the same sky.';
  if (rig.skyAngleDeg === null) return 'The angle of this camera has not been measured.';
  const turn = cameraTurn(rig.skyAngleDeg, positionAngleDeg, rig);
  if (!turn || turn.turnDeg < 0.05) return `The camera is at this angle now, ${degrees(rig.skyAngleDeg)}.`;
  if (rig.rotatorKind === 'none') return `This camera is fixed, ${degrees(turn.turnDeg)} away from this angle.`;
  return `${turn.turnDeg <= rig.angleToleranceDeg ? 'Within its tolerance; to be exact, turn' : 'Turn'} the camera from ${degrees(rig.skyAngleDeg)} by ${turnByWords(turn)}.`;
}
