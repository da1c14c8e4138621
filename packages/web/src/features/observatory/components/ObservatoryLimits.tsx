import type { Observatory } from '@meridiem/contract';
import type { FilterClass } from '@meridiem/core';
import { LIMIT_KEYS, limitsInForce } from '@meridiem/core';
import { EditableText } from '../../../ui/EditableText.tsx';
import { LIMIT_WORDS, limitText } from '../../../words/limits.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { typedNumber } from '../../../words/typed.ts';

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
    const plain = text.trim().toLowerCase();
    const setting =
      plain === 'default'
        ? { inherit: true as const }
        : plain === '' || plain === 'off'
          ? { off: true as const }
          : { value: typedNumber(text, LIMIT_WORDS[key].name.toLowerCase()) };
    return changes.limit({ scope: 'observatory', scopeId: null, class: ofClass, key, setting });
  };
  return (
    <section aria-label="Limits" className="mt-10">
      <h2 className="text-xl">Limits</h2>
      <p className="text-soft">
        What applies where a project says nothing else. A number sets it, “off” switches it off, “default” gives it
        back.
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
              <td>{LIMIT_WORDS[key].name}</td>
              {classes.map((ofClass) => {
                const { value, origin } = limitsInForce(stored, ofClass)[key];
                return (
                  <td
                    key={ofClass}
                    className={`text-right ${origin === 'default' ? 'italic text-soft' : ''}`}
                    title={origin}
                  >
                    <EditableText
                      label={`${LIMIT_WORDS[key].name}, ${ofClass}`}
                      disabled={!mayEdit}
                      shown={limitText(key, value)}
                      text={value === null ? 'off' : String(value)}
                      onSave={set(ofClass, key)}
                    />
                  </td>
                );
              })}
              <td className="text-sm text-soft">{LIMIT_WORDS[key].help}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
