import type { AddressChanges } from '../../../app/address.ts';
import type { PictureProgress } from '../../../sky-field/SurveyLayer.tsx';

interface SkyPicturesProps {
  readonly wish: SkyWish;
  readonly widthDeg: number;
  readonly progress: PictureProgress;
  /** Where the pictures come from; null: rendered here. */
  readonly source: string | null;
  readonly onChange: (changes: AddressChanges) => void;
  readonly onWidth: (widthDeg: number) => void;
}

/** What of the sky is shown besides the drawn stars. */
export interface SkyWish {
  readonly pictures: boolean;
  readonly names: boolean;
  readonly grid: boolean;
  readonly brightness: number;
  readonly contrast: number;
}

export const skyWishFrom = (search: URLSearchParams): SkyWish => ({
  pictures: search.get('pictures') !== '0',
  names: search.get('names') !== '0',
  grid: search.get('grid') === '1',
  brightness: Number(search.get('bright')) || 1,
  contrast: Number(search.get('contrast')) || 1,
});

const CLOSER = 0.8;

/** Whether pictures of the sky lie under the map, how bright, and how far they have come; names, grid, and how much sky. */
export function SkyPictures({ wish, widthDeg, progress, source, onChange, onWidth }: SkyPicturesProps) {
  const { pictures, names, grid, brightness, contrast } = wish;
  const choice = (words: string, key: string, isOn: boolean, usual: boolean) => (
    <label>
      <input
        type="checkbox"
        checked={isOn}
        onChange={({ target: { checked } }) => onChange({ [key]: checked === usual ? null : checked ? '1' : '0' })}
      />{' '}
      {words}
    </label>
  );
  const slider = (name: string, key: string, value: number) => (
    <label className="flex items-center gap-1.5">
      <span className="text-soft">{name}</span>
      <input
        type="range"
        className="w-24 accent-[var(--brass)]"
        min={0.4}
        max={2.5}
        step={0.1}
        value={value}
        onChange={(event) => onChange({ [key]: event.target.value === '1' ? null : event.target.value })}
      />
    </label>
  );
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-5">
      {choice('picture of the sky', 'pictures', pictures, true)}
      {choice('names', 'names', names, true)}
      {choice('grid', 'grid', grid, false)}
      <span className="whitespace-nowrap">
        <span className="text-soft">{widthDeg.toFixed(widthDeg < 10 ? 1 : 0)}° of sky</span>{' '}
        <button type="button" className="act" onClick={() => onWidth(widthDeg * CLOSER)}>
          closer
        </button>{' '}
        <button type="button" className="act" onClick={() => onWidth(widthDeg / CLOSER)}>
          wider
        </button>
      </span>
      {pictures && (
        <>
          {slider('brightness', 'bright', brightness)}
          {slider('contrast', 'contrast', contrast)}
          <span className="text-sm text-soft" role="status">
            {pictureWords(progress, source)}
          </span>
        </>
      )}
    </div>
  );
}

/** How far the pictures have come, then what they are. */
export function pictureWords({ wanted, there, failed }: PictureProgress, source: string | null): string {
  if (failed > 0) return `${failed} of ${wanted} pictures did not come; the drawn map stays there`;
  if (there < wanted || wanted === 0) return `${there} of ${wanted} pictures`;
  if (source === null) return 'rendered, not photographed: stars fainter than magnitude 9 are invented';
  return `pictures from ${new URL(source).host}`;
}
