import type { Recipe, Rig } from '@meridiem/contract';
import type { AddressChanges } from '../../../app/address.ts';
import { Choice } from '../../../ui/Choice.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { FramedOptics } from '../optics.ts';
import { focalAddress, partText, partsRead } from '../optics.ts';

interface OpticsChoiceProps {
  /** As it is on the Observatory page. */
  readonly rig: Rig;
  readonly optics: FramedOptics;
  readonly recipes: readonly Recipe[];
  readonly onChange: (changes: AddressChanges) => void;
}

/** Which part of the sensor is framed with, and at what focal length: the rig's own, or another to see what it shows. */
export function OpticsChoice({ rig, optics: { part, triedFocalMm }, recipes, onChange }: OpticsChoiceProps) {
  const parts = partsRead(rig, recipes);
  return (
    <>
      <span>
        <span className="text-soft">focal length</span>{' '}
        <EditableText
          label="Focal length to frame with"
          shown={`${triedFocalMm ?? rig.focalLengthMm} mm`}
          text={String(triedFocalMm ?? rig.focalLengthMm)}
          onSave={async (text) => onChange(focalAddress(text, rig))}
        />
      </span>
      {(parts.length > 0 || part) && (
        <span>
          <span className="text-soft">sensor</span>{' '}
          <Choice
            label="Part of the sensor"
            value={part ? partText(part) : ''}
            options={[
              { value: '', words: 'all of it' },
              ...parts.map((one) => ({ value: partText(one), words: `middle ${one.widthPx} × ${one.heightPx} px` })),
            ]}
            onChoose={(value) => onChange({ part: value || null })}
          />
        </span>
      )}
      {triedFocalMm && (
        <span className="text-signal">
          A trial: {rig.name} has {rig.focalLengthMm} mm.{' '}
          <button type="button" className="act" onClick={() => onChange({ focal: null })}>
            Use its own
          </button>
        </span>
      )}
    </>
  );
}
