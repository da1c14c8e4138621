import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { wordsOf } from '../../../app/api.ts';
import { Labelled } from '../../../ui/Labelled.tsx';
import type { ObservatoryChanges } from '../queries.ts';
import { RIG_TEXTS, rigFacts, rigFrom } from '../view-model.ts';

type Field = keyof typeof RIG_TEXTS;

const FIELDS: readonly { name: Field; label: string }[] = [
  { name: 'name', label: 'Name of the rig' },
  { name: 'focalLengthMm', label: 'Focal length with reducer, mm' },
  { name: 'apertureMm', label: 'Aperture, mm' },
  { name: 'obstructionShare', label: 'Obstruction, % of the diameter' },
  { name: 'cameraName', label: 'Camera, model' },
  { name: 'cameraSerial', label: 'Camera’s serial number' },
  { name: 'pixelUm', label: 'Pixel, µm' },
  { name: 'widthPx', label: 'Sensor width, px' },
  { name: 'heightPx', label: 'Sensor height, px' },
  { name: 'modeName', label: 'Camera mode, as the camera names it' },
  { name: 'gain', label: 'Gain in that mode' },
  { name: 'readNoiseE', label: 'Read noise in that mode, e⁻' },
  { name: 'fullWellE', label: 'Full well in that mode, e⁻' },
];

/** A new rig with the numbers that matter; the rest starts with usual values and is changed in its sheet. */
export function AddRig({ isFirst, changes }: { isFirst: boolean; changes: ObservatoryChanges }) {
  const [open, setOpen] = useState(isFirst);
  const { register, handleSubmit, setError, control, reset, formState } = useForm({ defaultValues: RIG_TEXTS });
  const { errors, isSubmitting } = formState;
  const typed = useWatch({ control }) as typeof RIG_TEXTS;
  if (!open)
    return (
      <button type="button" className="act mt-6" onClick={() => setOpen(true)}>
        Add a rig
      </button>
    );
  const facts = (() => {
    try {
      return rigFacts(rigFrom(typed));
    } catch {
      return null;
    }
  })();
  const add = async (wish: typeof RIG_TEXTS): Promise<void> => {
    try {
      await changes.addRig(rigFrom(wish));
      reset();
      setOpen(false);
    } catch (error) {
      const named = (error as { field?: string }).field;
      const field =
        [...FIELDS.map(({ name }) => name), 'filterPlaces' as const, 'skyAngleDeg' as const].find(
          (name) => name === named,
        ) ?? 'name';
      setError(field, { message: wordsOf(error) });
    }
  };
  return (
    <section aria-label="New rig" className="mt-8 max-w-3xl">
      <h2 className="rule pb-1 text-xl">{isFirst ? 'The first rig' : 'Another rig'}</h2>
      {isFirst && (
        <p className="mt-1 text-soft">
          Telescope, camera and mount with their real numbers: field, image scale and every plan follow from them.
        </p>
      )}
      <form className="mt-3 grid gap-3 sm:grid-cols-3" onSubmit={(event) => void handleSubmit(add)(event)} noValidate>
        {FIELDS.map(({ name, label }) => (
          <Labelled key={name} label={label} error={errors[name]?.message}>
            <input
              aria-invalid={!!errors[name]}
              {...register(name, { required: name === 'cameraName' ? false : 'Needed' })}
            />
          </Labelled>
        ))}
        <Labelled label="Mount" error={undefined}>
          <select {...register('mountKind')}>
            <option value="german_equatorial">German equatorial</option>
            <option value="fork_equatorial">fork equatorial</option>
            <option value="alt_azimuth">alt-azimuth</option>
          </select>
        </Labelled>
        <Labelled label="The camera is turned" error={undefined}>
          <select {...register('rotatorKind')}>
            <option value="hand">by hand</option>
            <option value="motor">by motor</option>
            <option value="none">not at all</option>
          </select>
        </Labelled>
        {typed.rotatorKind !== 'motor' && (
          <Labelled label="Camera angle on the sky now, °" error={errors.skyAngleDeg?.message}>
            <input
              placeholder="empty until a frame shows it"
              aria-invalid={!!errors.skyAngleDeg}
              {...register('skyAngleDeg')}
            />
          </Labelled>
        )}
        <Labelled label="Filters are" error={undefined}>
          <select {...register('filterHolder')}>
            <option value="wheel">in a wheel with a motor</option>
            <option value="drawer">in a drawer, changed on site</option>
          </select>
        </Labelled>
        {typed.filterHolder === 'wheel' && (
          <Labelled label="Places in the wheel" error={errors.filterPlaces?.message}>
            <input aria-invalid={!!errors.filterPlaces} {...register('filterPlaces', { required: 'Needed' })} />
          </Labelled>
        )}
        {facts && (
          <p role="status" className="self-end font-serif text-lg sm:col-span-3">
            {facts.field} at {facts.scale}
            <span className="unit">″/px</span>, {facts.focalRatio}
            {facts.doubts.map((doubt) => (
              <span key={doubt} className="block text-base text-signal">
                {doubt}
              </span>
            ))}
          </p>
        )}
        <p className="flex gap-3">
          <button type="submit" className="act act-strong" disabled={isSubmitting}>
            Add rig
          </button>
          {!isFirst && (
            <button type="button" className="act" onClick={() => setOpen(false)}>
              Cancel
            </button>
          )}
        </p>
      </form>
    </section>
  );
}
