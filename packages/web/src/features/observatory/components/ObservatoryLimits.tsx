import type { Observatory } from '@meridiem/contract';
import type { FilterClass } from '@meridiem/core';
import { LIMIT_KEYS, limitRow, limitsInForce, limitText, typedLimit } from '@meridiem/core';
import { EditableText } from '../../../ui/EditableText.tsx';
import { settingOf } from '../../../words/limit-setting.ts';
import type { ObservatoryChanges } from '../queries.ts';

interface ObservatoryLimitsProps {
  readonly observatory: Observatory;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** Default limits by class of filter; what nobody set is the built-in default, in italics. */
export function ObservatoryLimits({ observatory, mayEdit, changes }: ObservatoryLimitsProps) {
  const classes = [...new Set(observatory.filters.map((filter) => filter.class))] as FilterClass[];
  const stored = observatory.limits.map((limit) => ({ ...limit, scope: 'observatory' as const }));
  const set = (ofClass: FilterClass, key: (typeof LIMIT_KEYS)[number]) => (text: string) => {
    const setting = text.trim().toLowerCase() === 'default' ? { inherit: true as const } : settingOf(key, text);
    return changes.limit({ scope: 'observatory', scopeId: null, class: ofClass, key, setting });
  };
  return (
    <section aria-label="Limits" className="mt-10">
      <h2 className="text-xl">Limits</h2>
      <p className="text-soft">
        What applies where a project says nothing else. A number, a time like 22:00 or a date like 3 Dec sets it, “off”
        switches it off, “default” resets it to the built-in value.
      </p>
      <table className="mt-1 w-full max-w-[860px]">
        <thead>
          <tr className="rule">
            <th scope="col">limit</th>
            {classes.map((ofClass) => (
              <th key={ofClass} scope="col" className="text-right">
                {ofClass}
              </th>
            ))}
            <th scope="col">meaning</th>
          </tr>
        </thead>
        <tbody>
          {LIMIT_KEYS.map((key) => (
            <tr key={key} className="rule">
              <td>{limitRow(key).name}</td>
              {classes.map((ofClass) => {
                const { value, origin } = limitsInForce(stored, ofClass)[key];
                return (
                  <td
                    key={ofClass}
                    className={`text-right ${origin === 'default' ? 'italic text-soft' : ''}`}
                    title={origin}
                  >
                    <EditableText
                      label={`${limitRow(key).name}, ${ofClass}`}
                      disabled={!mayEdit}
                      shown={limitText(key, value)}
                      text={typedLimit(key, value)}
                      onSave={set(ofClass, key)}
                    />
                  </td>
                );
              })}
              <td className="text-sm text-soft">{limitRow(key).help}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
