import type { Observatory } from '@meridiem/contract';
import { EditableText } from '../../../ui/EditableText.tsx';
import { percent } from '../../../words/format.ts';
import { typedNumber } from '../../../words/typed.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { Line } from './Sheet.tsx';

interface ClimateSheetProps {
  readonly observatory: Observatory;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** How often nights are clear, month by month: what a season reckons with. */
export function ClimateSheet({ observatory, mayEdit, changes }: ClimateSheetProps) {
  const { climate, weatherPersistence, climateSource, version } = observatory;
  return (
    <section aria-label="Climate">
      <h2 className="text-xl">Climate</h2>
      <p className="text-soft">Odds that a night is clear. The season’s plans and finishing dates follow from them.</p>
      <ul className="mt-2 grid grid-cols-4 gap-x-6 gap-y-1 sm:grid-cols-6">
        {climate.map((month) => (
          <li key={month.id} className="rule flex items-baseline justify-between py-1">
            <span className="text-soft">{MONTHS[month.month - 1]}</span>
            <EditableText
              label={`Clear nights in ${MONTHS[month.month - 1]}`}
              width={48}
              disabled={!mayEdit}
              shown={percent(month.clearOdds)}
              text={String(Math.round(month.clearOdds * 100))}
              onSave={(text) => changes.climateMonth(month, typedPercent(text))}
            />
          </li>
        ))}
      </ul>
      <dl className="mt-2">
        <Line name="Persistence" help="how much a night’s weather follows the night before: 0 % is not at all">
          <EditableText
            label="Persistence"
            disabled={!mayEdit}
            shown={percent(weatherPersistence)}
            text={String(Math.round(weatherPersistence * 100))}
            onSave={(text) => changes.site({ version, weatherPersistence: typedPercent(text) })}
          />
        </Line>
        <Line name="Where these come from">
          <EditableText
            label="Where these come from"
            width={320}
            disabled={!mayEdit}
            shown={climateSource || 'not stated; one half is a guess'}
            text={climateSource}
            onSave={(text) => changes.site({ version, climateSource: text.trim() })}
          />
        </Line>
      </dl>
    </section>
  );
}

/** "55" and "55 %" are read as 0.55. */
const typedPercent = (text: string): number => typedNumber(text.replace('%', ''), 'percentage') / 100;
