import { useMemo } from 'react';
import type { Band, Cells, Grid } from '../view-model.ts';
import { runsOf, scaleBar } from '../view-model.ts';

const CELL_PX = 10;
const MARGIN_PX = 26;
/** The shallowest band is seen all the same. */
const FAINTEST = 0.15;

export const inkOf = (band: number, count: number): number =>
  count < 2 ? 1 : FAINTEST + ((1 - FAINTEST) * band) / (count - 1);

/** The field as it lies on the sky, north up and east to the left: the more ink, the deeper. */
export function DepthPicture({
  grid,
  cells,
  bands,
  words,
}: {
  readonly grid: Grid;
  readonly cells: Cells;
  readonly bands: readonly Band[];
  readonly words: string;
}) {
  const { across, down } = grid;
  const runs = useMemo(() => runsOf(cells, across, bands), [cells, across, bands]);
  const [widthPx, heightPx] = [across * CELL_PX, down * CELL_PX];
  const bar = scaleBar(grid);
  return (
    <svg
      role="img"
      aria-label={words}
      className="h-auto max-h-[60vh] w-full max-w-[620px] shrink"
      viewBox={`${-MARGIN_PX} ${-MARGIN_PX} ${widthPx + 2 * MARGIN_PX} ${heightPx + 2 * MARGIN_PX}`}
    >
      {runs.map(({ column, row, length, band }) => (
        <rect
          key={`${column} ${row}`}
          x={column * CELL_PX}
          y={row * CELL_PX}
          width={length * CELL_PX}
          height={CELL_PX}
          shapeRendering="crispEdges"
          fill="var(--brass)"
          fillOpacity={inkOf(band, bands.length)}
        />
      ))}
      <text x={widthPx / 2} y={-5} fontSize={20} fill="var(--ink-soft)" textAnchor="middle">
        N
      </text>
      <text x={-6} y={heightPx / 2 + 4} fontSize={20} fill="var(--ink-soft)" textAnchor="end">
        E
      </text>
      <line
        x1={0}
        x2={bar.cells * CELL_PX}
        y1={heightPx + 12}
        y2={heightPx + 12}
        stroke="var(--ink-soft)"
        strokeWidth={2}
      />
      <text x={bar.cells * CELL_PX + 7} y={heightPx + 19} fontSize={20} fill="var(--ink-soft)">
        {bar.words}
      </text>
    </svg>
  );
}
