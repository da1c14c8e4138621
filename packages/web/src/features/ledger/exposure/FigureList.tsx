import type { ExposurePage } from '@meridiem/contract';
import { pointingFacts, shownDeviation, trailWords } from './view-model.ts';

type FigureListProps = Pick<ExposurePage, 'row' | 'figures' | 'deviations' | 'offIntended'>;

/** What was measured, and how far it is from what is usual for this goal. */
export function FigureList({ row, figures, deviations, offIntended }: FigureListProps) {
  const facts: readonly (readonly [string, string])[] = [
    ['half-flux radius', wordsOf(row.halfFluxRadiusPx, 2, 'px')],
    ['stars', wordsOf(row.starCount, 0, '')],
    ['guiding', wordsOf(row.guidingRmsArcsec, 2, '″')],
    ['sky', wordsOf(row.backgroundE, 0, 'e⁻')],
    ...(figures?.elongation ? [['elongation', figures.elongation.toFixed(2)] as const] : []),
    ...(row.sensorC === null ? [] : [['sensor', `${row.sensorC.toFixed(1).replace('-', '−')} °C`] as const]),
    ...pointingFacts({ figures, offIntended }),
  ];
  return (
    <>
      <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-4">
        {facts.map(([name, words]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      {row.afterMove && <p className="mt-1 text-brass">The first after a slew, a flip or a dither.</p>}
      {figures && figures.trails.length > 0 && <p className="mt-1 text-brass">{trailWords(figures.trails)}</p>}
      {row.isTruncated && <p className="mt-1 text-signal">The file is cut off.</p>}
      <h2 className="mt-4 text-lg">Against what is usual</h2>
      {deviations.length === 0 ? (
        <p className="text-soft">Fewer than eight others of its kind, or nothing measured to compare.</p>
      ) : (
        <table className="w-full">
          <tbody>
            {deviations.map(shownDeviation).map(({ figure, share, sigmas, isFar }) => (
              <tr key={figure} className={`rule ${isFar ? 'text-signal' : ''}`}>
                <th scope="row" className="text-left font-normal">
                  {figure}
                </th>
                <td className="text-right">{share}</td>
                <td className="text-right">{sigmas}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-1 text-sm text-soft">Corrected for airmass, transparency and sky, against its nearest thirty.</p>
    </>
  );
}

const wordsOf = (value: number | null, decimals: number, unit: string): string =>
  value === null ? 'not measured' : `${value.toFixed(decimals)}${unit === '″' || unit === '' ? unit : ` ${unit}`}`;
