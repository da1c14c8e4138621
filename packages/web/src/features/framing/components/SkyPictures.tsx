import type { AddressChanges } from '../../../app/address.ts';

interface SkyPicturesProps {
  readonly shown: boolean;
  readonly brightness: number;
  readonly contrast: number;
  readonly progress: { readonly wanted: number; readonly there: number; readonly failed: number };
  readonly onChange: (changes: AddressChanges) => void;
}

/** Whether pictures of the sky lie under the map, how bright, and how far they have come. */
export function SkyPictures({ shown, brightness, contrast, progress, onChange }: SkyPicturesProps) {
  const { wanted, there, failed } = progress;
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
      <label>
        <input
          type="checkbox"
          checked={shown}
          onChange={(event) => onChange({ pictures: event.target.checked ? null : '0' })}
        />{' '}
        picture of the sky
      </label>
      {shown && (
        <>
          {slider('brightness', 'bright', brightness)}
          {slider('contrast', 'contrast', contrast)}
          <span className="text-sm text-soft" role="status">
            {failed > 0
              ? `${failed} of ${wanted} pictures did not come; the drawn map stays there`
              : wanted === 0 || there < wanted
                ? `pictures on their way, ${there} there`
                : 'rendered, not photographed: stars fainter than magnitude 9 are invented'}
          </span>
        </>
      )}
    </div>
  );
}
