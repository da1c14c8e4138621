import type { Observatory } from '@meridiem/contract';
import type { ExposureAdvice } from '@meridiem/core';
import { exposureAdvice, skyOverDark } from '@meridiem/core';
import { useTonightSky } from '../queries.ts';
import { adviceWords, moonAdviceWords, tonightsMoonMag } from '../view-model.ts';

interface RecipeAdviceProps {
  readonly observatory: Observatory;
  readonly rigId: string;
  readonly filterId: string;
  readonly binning: number;
  readonly onTake: (fields: { exposure: string; cameraModeId: string; ditherEvery: number }) => void;
}

/** What length, mode and dither the sky and the camera's noise ask for: under a dark sky, and under tonight's Moon. */
export function RecipeAdvice({ observatory: { rigs, filters }, rigId, filterId, binning, onTake }: RecipeAdviceProps) {
  const { data: night } = useTonightSky();
  const rig = rigs.find(({ id }) => id === rigId);
  const filter = filters.find(({ id }) => id === filterId);
  if (!rig || !filter) return null;
  const moonMag = night ? tonightsMoonMag(night.sky) : 0;
  const adviceUnder = (ratio: number) =>
    exposureAdvice(filter, { ...rig, binning }, rig.cameraModes, { skyOverDark: ratio });
  const [dark, moonlit] = [adviceUnder(1), adviceUnder(skyOverDark(filter, moonMag))];
  if (!dark || !moonlit) return null;
  const use = ({ exposureSec, mode, ditherEvery }: ExposureAdvice) => (
    <button
      type="button"
      className="word-link cursor-pointer"
      onClick={() => onTake({ exposure: String(exposureSec), cameraModeId: mode.id, ditherEvery })}
    >
      Use this
    </button>
  );
  const settings = ({ exposureSec, mode, ditherEvery }: ExposureAdvice): string =>
    `${exposureSec} s, ${mode.name} (gain ${mode.gain}), dither every ${ditherEvery}`;
  return (
    <div className="basis-full text-soft">
      <p>
        Suggested: {settings(dark)}. {adviceWords(dark)} {use(dark)}
      </p>
      {moonlit.exposureSec !== dark.exposureSec && (
        <p>
          {moonAdviceWords(moonMag)}: {settings(moonlit)}. {use(moonlit)}
        </p>
      )}
    </div>
  );
}
