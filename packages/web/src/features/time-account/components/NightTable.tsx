import type { AccountedNight } from '@meridiem/contract';
import { dayOf, hours } from '../../../words/format.ts';
import { hoursByKind, KIND_CLASSES, KINDS, STATE_WORDS, summedHours } from '../view-model.ts';

interface NightTableProps {
  readonly nights: readonly AccountedNight[];
  readonly chosen: string | null;
  readonly onChoose: (nightDate: string | null) => void;
}

/** A line a night, newest first: its bar is as long as the sun was down. */
export function NightTable({ nights, chosen, onChoose }: NightTableProps) {
  const longest = Math.max(...nights.map((night) => Object.values(hoursByKind(night)).reduce((sum, h) => sum + h, 0)));
  const sums = summedHours(nights);
  return (
    <table className="mt-3 w-full">
      <thead>
        <tr className="rule">
          <th scope="col">night</th>
          <th scope="col" className="w-[34%]">
            sun down
          </th>
          {KINDS.map((kind) => (
            <th key={kind} scope="col" className="text-right">
              <span aria-hidden className={`mr-1 inline-block h-2 w-3 ${KIND_CLASSES[kind]}`} />
              {kind}
            </th>
          ))}
          <th scope="col"> </th>
        </tr>
      </thead>
      <tbody>
        {nights.toReversed().map((night) => {
          const byKind = hoursByKind(night);
          const isChosen = night.nightDate === chosen;
          return (
            <tr key={night.nightDate} className={`rule ${isChosen ? 'bg-wash' : ''}`}>
              <td className="whitespace-nowrap">
                <button
                  type="button"
                  className="word-link"
                  aria-expanded={isChosen}
                  onClick={() => onChoose(isChosen ? null : night.nightDate)}
                >
                  {dayOf(night.nightDate)}
                </button>
              </td>
              <td className="align-middle">
                <span className="flex h-3.5" aria-hidden>
                  {KINDS.filter((kind) => byKind[kind] > 0).map((kind) => (
                    <span
                      key={kind}
                      className={KIND_CLASSES[kind]}
                      style={{ width: `${(100 * byKind[kind]) / longest}%` }}
                    />
                  ))}
                </span>
              </td>
              {KINDS.map((kind) => (
                <td key={kind} className={`text-right ${byKind[kind] < 0.05 ? 'text-soft' : ''}`}>
                  {byKind[kind] < 0.005 ? '—' : hours(byKind[kind])}
                </td>
              ))}
              <td
                className={`whitespace-nowrap text-right text-sm ${night.state === 'changed' ? 'text-signal' : 'text-soft'}`}
              >
                {STATE_WORDS[night.state]}
              </td>
            </tr>
          );
        })}
      </tbody>
      <tfoot>
        <tr>
          <th scope="row" colSpan={2}>
            together, hours
          </th>
          {KINDS.map((kind) => (
            <td key={kind} className="text-right font-medium">
              {hours(sums[kind])}
            </td>
          ))}
          <td />
        </tr>
      </tfoot>
    </table>
  );
}
