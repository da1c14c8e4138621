import { SURVEY_TILE_PX } from '@meridiem/contract';
import { memo, useMemo, useState } from 'react';
import type { SkyView } from './projection.ts';
import { laidTiles } from './survey-tiles.ts';

interface SurveyLayerProps {
  readonly view: SkyView;
  readonly brightness: number;
  readonly contrast: number;
  /** Told how many pictures are there, still coming, and failed. */
  readonly onProgress: (progress: { readonly wanted: number; readonly there: number; readonly failed: number }) => void;
}

/** Pictures of the sky under the drawing; where one does not come the drawn map stays. */
export const SurveyLayer = memo(function SurveyLayer({ view, brightness, contrast, onProgress }: SurveyLayerProps) {
  const tiles = useMemo(() => laidTiles(view, SURVEY_TILE_PX), [view]);
  const [outcome, setOutcome] = useState<Readonly<Record<string, 'there' | 'failed'>>>({});
  const settle = (key: string, how: 'there' | 'failed') => (): void => {
    const next = { ...outcome, [key]: how };
    setOutcome((known) => ({ ...known, [key]: how }));
    const count = (what: string): number => tiles.filter((tile) => next[tile.key] === what).length;
    onProgress({ wanted: tiles.length, there: count('there'), failed: count('failed') });
  };
  return (
    <foreignObject width={view.widthPx} height={view.heightPx} className="pointer-events-none">
      <div
        className="relative size-full overflow-hidden"
        style={{ filter: `brightness(${brightness}) contrast(${contrast})` }}
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
    </foreignObject>
  );
});
