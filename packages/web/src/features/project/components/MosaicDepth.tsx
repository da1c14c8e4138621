import type { Project, Rig } from '@meridiem/contract';
import { percent } from '../../../words/format.ts';
import { mosaicPicture } from '../mosaic-picture.ts';

const [WIDEST_PX, TALLEST_PX] = [260, 150];
/** A panel without anything is seen all the same. */
const FAINTEST = 0.06;

/** The mosaic as it lies on the sky, each panel tinted by how much of its hours it has. */
export function MosaicDepth({ project, rig }: { readonly project: Project; readonly rig: Rig }) {
  const picture = mosaicPicture(project.name, project.panels, rig, WIDEST_PX, TALLEST_PX);
  if (!picture) return null;
  const { widthPx, heightPx, shapes } = picture;
  return (
    <figure aria-label="Depth by panel" className="sm:float-right sm:ml-6">
      <svg width={widthPx} height={heightPx} role="img" aria-label={shapes.map(({ words }) => words).join(', ')}>
        {shapes.map(({ id, corners, depth, number, words }) => {
          const x = corners.reduce((sum, corner) => sum + corner.x, 0) / corners.length;
          const y = corners.reduce((sum, corner) => sum + corner.y, 0) / corners.length;
          return (
            <g key={id}>
              <title>{words}</title>
              <polygon
                points={corners.map((corner) => `${corner.x.toFixed(1)},${corner.y.toFixed(1)}`).join(' ')}
                fill="var(--brass)"
                fillOpacity={depth === null ? FAINTEST : FAINTEST + depth * (0.6 - FAINTEST)}
                stroke="var(--ink-soft)"
              />
              <text x={x} y={y} fontSize={12} fill="var(--ink)" textAnchor="middle">
                <tspan fontWeight={600}>{number}</tspan>
                {depth !== null && (
                  <tspan x={x} dy={13}>
                    {percent(depth)}
                  </tspan>
                )}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="text-xs text-soft">Accepted of wanted hours, north up</figcaption>
    </figure>
  );
}
