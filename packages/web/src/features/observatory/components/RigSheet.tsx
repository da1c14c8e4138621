import type { Filter, Rig } from '@meridiem/contract';
import { EditableText } from '../../../ui/EditableText.tsx';
import { dateOf, degrees } from '../../../words/format.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { MOUNT_WORDS, rigFacts, ROTATOR_WORDS } from '../view-model.ts';
import { typedNumber } from '../../../words/typed.ts';
import { FilterWheel } from './FilterWheel.tsx';
import { useRigChange } from './RigChange.tsx';
import { RigSteps } from './RigSteps.tsx';
import { RuleSheet } from './RuleSheet.tsx';
import { Line } from './Sheet.tsx';

interface RigSheetProps {
  readonly rig: Rig;
  readonly filters: readonly Filter[];
  readonly zone: string;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

type NumberKey =
  'apertureMm' | 'focalLengthMm' | 'pixelUm' | 'widthPx' | 'heightPx' | 'throughput' | 'angleToleranceDeg';
const NUMBERS: readonly { key: NumberKey; name: string; unit: string; help?: string }[] = [
  { key: 'focalLengthMm', name: 'Focal length', unit: 'mm', help: 'with reducer' },
  { key: 'apertureMm', name: 'Aperture', unit: 'mm' },
  { key: 'pixelUm', name: 'Pixel', unit: 'µm' },
  { key: 'widthPx', name: 'Sensor width', unit: 'px' },
  { key: 'heightPx', name: 'Sensor height', unit: 'px' },
  { key: 'throughput', name: 'Light that becomes electrons', unit: 'share' },
];

/** A rig's numbers with what follows from them; every change is a dated revision. */
export function RigSheet({ rig, filters, zone, mayEdit, changes }: RigSheetProps) {
  const facts = rigFacts(rig);
  const { change, question } = useRigChange(rig, changes);
  const minutes = (sec: number): string => String(Math.round(sec / 6) / 10);
  return (
    <section aria-label={rig.name}>
      <h2 className="text-xl">{rig.name}</h2>
      <p className="text-soft">
        revision {rig.revisionSeq}, in force since {dateOf(rig.since, zone)}
      </p>
      <p className="mt-1 font-serif text-lg">
        {facts.field} at {facts.scale}
        <span className="unit">″/px</span>, {facts.focalRatio}
      </p>
      {facts.doubts.map((doubt) => (
        <p key={doubt} role="alert" className="text-signal">
          {doubt}
        </p>
      ))}
      <dl className="mt-1">
        {NUMBERS.map(({ key, name, unit, help }) => (
          <Line key={key} name={name} unit={unit} help={help}>
            <EditableText
              label={`${name}, ${rig.name}`}
              disabled={!mayEdit}
              shown={String(rig[key])}
              text={String(rig[key])}
              onSave={(text) => change({ [key]: typedNumber(text, name.toLowerCase()) })}
            />
          </Line>
        ))}
        <Line name="Mount">{MOUNT_WORDS[rig.mountKind]}</Line>
        {rig.mountKind === 'german_equatorial' && (
          <Line
            name="Flip past the meridian"
            unit="min"
            help={`the mount's own limit is ${minutes(rig.mountLimitAfterSec)} min`}
          >
            <EditableText
              label={`Flip past the meridian, ${rig.name}`}
              disabled={!mayEdit}
              shown={minutes(rig.flipAfterSec)}
              text={minutes(rig.flipAfterSec)}
              onSave={(text) => change({ flipAfterSec: typedNumber(text, 'time') * 60 })}
            />
          </Line>
        )}
        <Line
          name="Camera is turned"
          help={
            rig.rotatorKind === 'hand'
              ? `panels within ${degrees(rig.angleToleranceDeg, 0)} of its angle are planned`
              : undefined
          }
        >
          {ROTATOR_WORDS[rig.rotatorKind]}
        </Line>
        {rig.rotatorKind !== 'motor' && (
          <Line name="Camera angle on the sky now" unit="°">
            <EditableText
              label={`Camera angle, ${rig.name}`}
              disabled={!mayEdit}
              shown={rig.skyAngleDeg === null ? 'not measured' : String(rig.skyAngleDeg)}
              text={rig.skyAngleDeg === null ? '' : String(rig.skyAngleDeg)}
              onSave={(text) => change({ skyAngleDeg: text.trim() === '' ? null : typedNumber(text, 'angle') })}
            />
          </Line>
        )}
        {rig.rotatorKind !== 'none' && (
          <>
            <Line name="Tube that turns with the camera" unit="mm" help="outer diameter, for turning by a ruler">
              <EditableText
                label={`Tube that turns with the camera, ${rig.name}`}
                disabled={!mayEdit}
                shown={rig.drawtubeMm === null ? 'not measured' : String(rig.drawtubeMm)}
                text={String(rig.drawtubeMm ?? '')}
                onSave={(text) => change({ drawtubeMm: text.trim() === '' ? null : typedNumber(text, 'diameter') })}
              />
            </Line>
            <Line name="Mirrors before the sensor" help="an odd number turns the sky the other way round">
              <select
                aria-label={`Mirrors before the sensor, ${rig.name}`}
                disabled={!mayEdit}
                value={rig.mirrors}
                onChange={(event) => void change({ mirrors: event.target.value as Rig['mirrors'] })}
              >
                <option value="even">none or an even number</option>
                <option value="odd">an odd number</option>
              </select>
            </Line>
          </>
        )}
        <Line name="Circle of sharp stars" unit="mm" help="diameter on the sensor">
          <EditableText
            label={`Circle of sharp stars, ${rig.name}`}
            disabled={!mayEdit}
            shown={rig.correctedCircleMm === null ? 'not known' : String(rig.correctedCircleMm)}
            text={String(rig.correctedCircleMm ?? '')}
            onSave={(text) => change({ correctedCircleMm: text.trim() === '' ? null : typedNumber(text, 'diameter') })}
          />
        </Line>
        <Line name="Filters in the wheel">
          <FilterWheel rig={rig} filters={filters} mayEdit={mayEdit} onFit={change} />
        </Line>
        <Line name="Times" help="slew, settle, centre, guide; download; dither; autofocus">
          {rig.costs.slewDegPerSec}°/s, {rig.costs.slewSettleSec} + {rig.costs.centreSec} + {rig.costs.guidingStartSec}{' '}
          s; {rig.costs.downloadSec} s; {rig.costs.ditherSec} s; {rig.costs.autofocusSec} s each{' '}
          {rig.costs.autofocusEveryMin} min
        </Line>
      </dl>
      {question}
      <RigSteps rig={rig} mayEdit={mayEdit} changes={changes} />
      <RuleSheet rig={rig} zone={zone} mayEdit={mayEdit} />
    </section>
  );
}
