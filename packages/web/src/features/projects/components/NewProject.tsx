import type { ShelvedTarget } from '@meridiem/contract';
import { formatDeclination, formatRightAscension, parsePosition } from '@meridiem/core';
import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { Labelled } from '../../../ui/Labelled.tsx';
import { FoundTargets } from '../../../targets/FoundTargets.tsx';
import { presentAngleDeg } from '../../../words/camera-angle.ts';
import { useAddProject, useRigs } from '../queries.ts';

interface NewProjectFields {
  readonly name: string;
  readonly rigId: string;
  readonly targetName: string;
  readonly raText: string;
  readonly decText: string;
  readonly angleText: string;
}

/** What the form begins with: nothing, or a kept target. */
const beginning = (kept: ShelvedTarget | null): Omit<NewProjectFields, 'rigId'> => ({
  name: kept?.name ?? '',
  targetName: kept?.name ?? '',
  raText: kept?.raDeg == null ? '' : formatRightAscension(kept.raDeg),
  decText: kept?.decDeg == null ? '' : formatDeclination(kept.decDeg),
  angleText: '0',
});

/** A project from a name found in the catalogue, from typed coordinates, from the shelf, or with its place still open. */
export function NewProject({ kept }: { kept: ShelvedTarget | null }) {
  const moves = kept?.orbit != null;
  const navigate = useNavigate();
  const { data: observatory } = useRigs();
  const add = useAddProject();
  const [sought, setSought] = useState('');
  const { register, handleSubmit, setValue, setError, getValues, control, formState } = useForm<NewProjectFields>({
    defaultValues: beginning(kept),
  });
  const { errors } = formState;
  const send = async (fields: NewProjectFields): Promise<void> => {
    try {
      const { id } = await add.mutateAsync({
        ...fields,
        targetName: fields.targetName || fields.name,
        ...(kept ? { targetId: kept.id } : {}),
        positionAngleDeg: Number(fields.angleText) % 360,
      });
      void navigate(`/projects/${id}`);
    } catch (error) {
      const field =
        error instanceof ApiError && error.field && error.field in fields
          ? (error.field as keyof NewProjectFields)
          : 'name';
      setError(field, { message: wordsOf(error) });
    }
  };
  /** Unless another angle has been typed, the camera's own. */
  const beginAtAngleOf = (rigId: string): void => {
    const rig = observatory?.rigs.find(({ id }) => id === rigId);
    if (rig && !formState.dirtyFields.angleText) setValue('angleText', String(presentAngleDeg(rig)));
  };
  const [raText, decText] = useWatch({ control, name: ['raText', 'decText'] });
  return (
    <form
      aria-label="New project"
      className="mt-4 grid max-w-[860px] gap-x-8 gap-y-3 border-l-2 border-brass bg-raised p-4 md:grid-cols-2"
      onSubmit={(event) => void handleSubmit(send)(event)}
      noValidate
    >
      <div className="grid content-start gap-2">
        {kept ? (
          <p>
            <span className="font-serif text-lg">{kept.name}</span>, from the shelf
            {moves && '. It moves: plans point at where it is that night, from its newest orbit'}.
          </p>
        ) : (
          <>
            <label className="grid gap-1">
              Find a target
              <input
                value={sought}
                onChange={(event) => setSought(event.target.value)}
                placeholder="NGC 104, Tarantula, 05 38 42 −69 06 03"
              />
            </label>
            <FoundTargets
              sought={sought}
              className="max-h-52 overflow-auto"
              onChoose={(object) => {
                setValue('targetName', object.name ? `${object.designation}, ${object.name}` : object.designation, {
                  shouldValidate: true,
                });
                setValue('raText', formatRightAscension(object.raDeg));
                setValue('decText', formatDeclination(object.decDeg));
                if (!getValues('name')) setValue('name', object.designation);
              }}
            />
          </>
        )}
      </div>
      <div className="grid content-start gap-2">
        <Labelled label="Name of the project" error={errors.name?.message}>
          <input {...register('name', { required: 'A project needs a name' })} aria-invalid={!!errors.name} />
        </Labelled>
        <Labelled label="Rig" error={errors.rigId?.message}>
          <select
            {...register('rigId', {
              required: 'Choose the rig first: field and angle follow from it',
              onChange: (event: { target: { value: string } }) => beginAtAngleOf(event.target.value),
            })}
            aria-invalid={!!errors.rigId}
          >
            <option value="">choose…</option>
            {observatory?.rigs.map((rig) => (
              <option key={rig.id} value={rig.id}>
                {rig.name}
              </option>
            ))}
          </select>
        </Labelled>
        {!moves && (
          <>
            <Labelled label="Target" error={errors.targetName?.message}>
              <input {...register('targetName')} />
            </Labelled>
            <div className="grid grid-cols-2 gap-3">
              <Labelled label="Right ascension (h m s)" error={errors.raText?.message}>
                <input {...register('raText')} aria-invalid={!!errors.raText} />
              </Labelled>
              <Labelled label="Declination (° ′ ″)" error={errors.decText?.message}>
                <input {...register('decText')} aria-invalid={!!errors.decText} />
              </Labelled>
            </div>
            <p className="text-xs text-soft">{readingOf(raText, decText)}</p>
          </>
        )}
        <Labelled label="Position angle of the camera (°)" error={errors.angleText?.message}>
          <input
            inputMode="decimal"
            {...register('angleText', {
              validate: (text) => (Number(text) >= 0 && Number(text) < 360 ? true : 'An angle from 0 to 359.9'),
            })}
            aria-invalid={!!errors.angleText}
          />
        </Labelled>
        <button type="submit" className="act act-strong justify-self-start" disabled={add.isPending}>
          Create draft
        </button>
      </div>
    </form>
  );
}

/** How the typed coordinates are read. */
function readingOf(raText: string, decText: string): string {
  try {
    const position = parsePosition(raText ?? '', decText ?? '');
    return position
      ? `Read as ${formatRightAscension(position.raDeg)}, ${formatDeclination(position.decDeg)} (J2000)`
      : 'No position yet: the project can’t be granted until it has one.';
  } catch (error) {
    return error instanceof Error ? error.message : '';
  }
}
