import { framePicture } from '@meridiem/contract';
import { Link } from 'react-router';
import { clockSeconds } from '../../../words/format.ts';
import { useLatestExposure } from '../queries.ts';

const PICTURE_PX = 440;

interface LatestExposureProps {
  readonly nightDate: string;
  readonly rigName: string;
  readonly zone: string;
}

/** The newest exposure of the night that has a file, brightened for looking at. */
export function LatestExposure({ nightDate, rigName, zone }: LatestExposureProps) {
  const latest = useLatestExposure(nightDate, rigName);
  if (!latest) return null;
  const { id, panelName, filterLetter, startUtcMs, halfFluxRadiusPx, starCount } = latest;
  return (
    <figure className="shrink-0 lg:w-[340px]">
      <Link to={`/exposures/${id}`}>
        <img
          src={`/api${framePicture.path.replace(':id', id)}?px=${PICTURE_PX}`}
          alt={`Latest exposure: ${panelName ?? 'no project'}, ${filterLetter}`}
          className="w-full bg-black"
        />
      </Link>
      <figcaption className="text-sm text-soft">
        {clockSeconds(startUtcMs, zone)}, {filterLetter}
        {halfFluxRadiusPx !== null && `, half-flux radius ${halfFluxRadiusPx.toFixed(2)} px`}
        {starCount !== null && `, ${starCount} stars`}; brightened for looking at
      </figcaption>
    </figure>
  );
}
