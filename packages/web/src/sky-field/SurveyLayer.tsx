import { SURVEY_TILE_PX } from '@meridiem/contract';
import { memo, useEffect, useMemo, useState } from 'react';
import type { SkyView } from './projection.ts';
import { laidTiles } from './survey-tiles.ts';

interface SurveyLayerProps {
  readonly view: SkyView;
  readonly brightness: number;
  readonly contrast: number;
  /** Key of the source. */
  readonly source: string;
  /** Told how many pictures are there, still coming, and failed. */
  readonly onProgress: (progress: PictureProgress) => void;
}
export interface PictureProgress {
  readonly wanted: number;
  readonly there: number;
  readonly failed: number;
}

/** Pictures of the sky under the map; where one does not come the drawn map stays. */
export const SurveyLayer = memo(function SurveyLayer({
  view,
  brightness,
  contrast,
  source,
  onProgress,
}: SurveyLayerProps) {
  const tiles = useMemo(() => laidTiles(view, SURVEY_TILE_PX, source), [view, source]);
  const [outcome, setOutcome] = useState<Readonly<Record<string, 'there' | 'failed'>>>({});
  const settle = (key: string, how: 'there' | 'failed') => (): void =>
    setOutcome((known) => ({ ...known, [key]: how }));
  const count = (how: string): number => tiles.filter(({ key }) => outcome[key] === how).length;
  const [wanted, there, failed] = [tiles.length, count('there'), count('failed')];
  useEffect(() => onProgress({ wanted, there, failed }), [onProgress, wanted, there, failed]);
  const isPlain = brightness === 1 && contrast === 1;
  return (
    <div
      className="pointer-events-none absolute inset-0 overflow-hidden"
      style={isPlain ? undefined : { filter: `brightness(${brightness}) contrast(${contrast})` }}
    >
      {tiles.map(({ key, address, transform }) => (
        <img
          key={key}
          src={address}
          alt=""
          width={SURVEY_TILE_PX}
          height={SURVEY_TILE_PX}
          className="absolute left-0 top-0 max-w-none"
          style={{ transform, transformOrigin: '0 0', visibility: outcome[key] === 'failed' ? 'hidden' : 'visible' }}
          onLoad={settle(key, 'there')}
          onError={settle(key, 'failed')}
        />
      ))}
    </div>
  );
});
