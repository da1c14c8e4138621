import type { Filter, Rig, RigWish } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Choice } from '../../../ui/Choice.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import { typedNumber } from '../../../words/typed.ts';
import { USUAL_PLACES } from '../view-model.ts';
import { FilterWheel } from './FilterWheel.tsx';
import { Line } from './Sheet.tsx';

const HOLDERS = [
  { value: 'wheel', words: 'in a wheel with a motor' },
  { value: 'drawer', words: 'in a drawer, changed on site' },
] as const;

interface FilterHolderProps {
  readonly rig: Rig;
  readonly filters: readonly Filter[];
  readonly mayEdit: boolean;
  readonly change: (wish: RigWish) => Promise<void>;
}

/** What holds the filters, how many, and which are in it. */
export function FilterHolder({ rig, filters, mayEdit, change }: FilterHolderProps) {
  const notice = useNotice();
  const hold = (value: string): Promise<void> =>
    change(
      value === 'drawer'
        ? {
            filterHolder: 'drawer',
            filterPlaces: 1,
            slots: rig.slots.slice(0, 1).map((slot) => ({ ...slot, slot: 1 })),
          }
        : { filterHolder: 'wheel', filterPlaces: USUAL_PLACES },
    );
  return (
    <dl>
      <Line name="Filters are">
        <Choice
          label={`Filters are held, ${rig.name}`}
          value={rig.filterHolder}
          options={HOLDERS}
          disabled={!mayEdit}
          onChoose={(value) => void hold(value).catch((error) => notice(wordsOf(error), true))}
        />
      </Line>
      {rig.filterHolder === 'wheel' && (
        <Line name="Places in the wheel">
          <EditableText
            label={`Places in the wheel, ${rig.name}`}
            disabled={!mayEdit}
            shown={String(rig.filterPlaces)}
            text={String(rig.filterPlaces)}
            onSave={async (text) => change({ filterPlaces: typedNumber(text, 'number of places') })}
          />
        </Line>
      )}
      <Line name={rig.filterHolder === 'wheel' ? 'In the wheel now' : 'In the drawer now'}>
        <FilterWheel rig={rig} filters={filters} mayEdit={mayEdit} onFit={change} />
      </Line>
    </dl>
  );
}
