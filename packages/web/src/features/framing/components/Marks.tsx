import type { Rig } from '@meridiem/contract';
import type { SkyPosition } from '@meridiem/core';
import { toDeg } from '@meridiem/core';
import { pathOf } from '../../../sky-field/paths.ts';
import type { SkyView } from '../../../sky-field/projection.ts';
import { pixelsOf, toScreen } from '../../../sky-field/projection.ts';
import type { Composition, Framed } from '../view-model.ts';

interface MarksProps {
  readonly view: SkyView;
  readonly composition: Composition;
  readonly framed: Framed;
  readonly rig: Rig;
  /** Panels of the rig framed with before, while nobody has said what to keep. */
  readonly before: Framed | null;
  readonly drawn: readonly SkyPosition[] | null;
  /** Corners of a test shot. */
  readonly shot: readonly SkyPosition[] | null;
}

/** What is marked on the sky besides the panels: subjects, the circle of sharp stars, an earlier rig's panels, a test shot. */
export function Marks({ view, composition, framed, rig, before, drawn, shot }: MarksProps) {
  const radiusDeg = rig.correctedCircleMm === null ? null : toDeg(rig.correctedCircleMm / 2 / rig.focalLengthMm);
  return (
    <g className="pointer-events-none" fill="none">
      {[composition.subject, ...composition.others].map((subject, i) =>
        subject.outline ? (
          <path key={i} d={pathOf(view, subject.outline)} stroke="var(--brass)" strokeWidth={1.4} />
        ) : (
          <SubjectMark key={i} view={view} subject={subject} />
        ),
      )}
      {radiusDeg !== null &&
        framed.panels.length === 1 &&
        framed.panels.map(({ row, col, centre }) => {
          const at = toScreen(view, centre);
          return (
            at && (
              <circle
                key={`${row} ${col}`}
                cx={at.x}
                cy={at.y}
                r={pixelsOf(view, radiusDeg)}
                stroke="var(--sky-ink)"
                strokeWidth={0.7}
                strokeDasharray="1 3"
              >
                <title>Within this circle stars are sharp</title>
              </circle>
            )
          );
        })}
      {before?.panels.map(({ row, col, corners }) => (
        <path
          key={`${row} ${col}`}
          d={pathOf(view, corners)}
          stroke="var(--sky-ink)"
          strokeWidth={0.9}
          strokeDasharray="7 4"
        />
      ))}
      {shot && <path d={pathOf(view, shot)} stroke="var(--signal)" strokeWidth={1.4} strokeDasharray="10 3 2 3" />}
      {drawn?.map((corner, i) => {
        const at = toScreen(view, corner);
        return at && <circle key={i} cx={at.x} cy={at.y} r={3} fill="var(--brass)" />;
      })}
      {drawn && drawn.length > 1 && (
        <path d={pathOf(view, drawn)} stroke="var(--brass)" strokeWidth={1} strokeDasharray="4 3" />
      )}
    </g>
  );
}

/** A small cross where a subject without an outline stands. */
function SubjectMark({ view, subject }: { view: SkyView; subject: SkyPosition }) {
  const at = toScreen(view, subject);
  if (!at) return null;
  return <path d={`M${at.x - 6},${at.y}h12M${at.x},${at.y - 6}v12`} stroke="var(--brass)" strokeWidth={1} />;
}
