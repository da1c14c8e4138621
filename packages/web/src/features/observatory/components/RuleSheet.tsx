import type { Rig, Rules } from '@meridiem/contract';
import { previewRules, readRules, setRules } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { dateOf } from '../../../words/format.ts';
import { previewWords, RULE_WORDS, RULES, sigmasOf } from '../view-model.ts';

/** What rejects an exposure of this rig by itself; what other numbers would drop is said before they are set. */
export function RuleSheet({ rig, zone, mayEdit }: { rig: Rig; zone: string; mayEdit: boolean }) {
  const queryClient = useQueryClient();
  const notice = useNotice();
  const [typed, setTyped] = useState<Partial<Record<keyof Rules, string>>>({});
  const { data } = useQuery({
    queryKey: ['observatory', 'rules', rig.id],
    queryFn: ({ signal }) => call(readRules, { params: { id: rig.id }, signal }),
  });
  const wished = data ? wishedRules(data.rules, typed) : null;
  const isChanged = Object.keys(typed).length > 0;
  const preview = useQuery({
    queryKey: ['ledger', 'rules-preview', rig.id, wished],
    queryFn: ({ signal }) => call(previewRules, { params: { id: rig.id }, body: wished!, signal }),
    enabled: mayEdit && isChanged && wished !== null,
    placeholderData: (previous) => previous,
  });
  if (!data) return null;
  const save = async (): Promise<void> => {
    try {
      await call(setRules, { params: { id: rig.id }, body: wished! });
      await queryClient.invalidateQueries({ queryKey: ['observatory', 'rules', rig.id] });
      setTyped({});
      notice('Rules saved; the newest exposures have been judged by them');
    } catch (error) {
      notice(wordsOf(error), true);
    }
  };
  return (
    <section aria-label={`Judging rules, ${rig.name}`} className="mt-6">
      <h3 className="rule pb-1 text-base">
        Judging rules{' '}
        <span className="text-sm text-soft">
          {data.setBy ? `set by ${data.setBy} on ${dateOf(data.setUtcMs!, zone)}` : 'as delivered'}; against the goal’s
          last 30, verdicts by hand stay
        </span>
      </h3>
      <dl>
        {RULES.map((key) => (
          <div key={key} className="rule flex items-baseline gap-2 py-1">
            <dt className="text-soft">{RULE_WORDS[key]}</dt>
            <dd className="ml-auto">
              {mayEdit ? (
                <input
                  aria-label={`${RULE_WORDS[key]}, ${rig.name}`}
                  aria-invalid={sigmasOf(typed[key] ?? '') === undefined && typed[key] !== undefined}
                  className="w-16 text-right"
                  value={typed[key] ?? data.rules[key] ?? 'off'}
                  onChange={(event) => setTyped({ ...typed, [key]: event.target.value })}
                />
              ) : (
                (data.rules[key] ?? 'off')
              )}
              <span className="unit">σ</span>
            </dd>
          </div>
        ))}
      </dl>
      {isChanged && (
        <div className="mt-2" role="status">
          {wished === null ? (
            <p className="text-signal">Write a number of sigmas from 1 to 20, or “off”.</p>
          ) : (
            <p>{preview.data ? previewWords(preview.data) : 'Working out what that would drop…'}</p>
          )}
          <p className="mt-1 flex gap-3">
            <button type="button" className="act" disabled={wished === null} onClick={() => void save()}>
              Save rules
            </button>
            <button type="button" className="act" onClick={() => setTyped({})}>
              Cancel
            </button>
          </p>
        </div>
      )}
    </section>
  );
}

/** Null while something typed can't be read. */
function wishedRules(rules: Rules, typed: Partial<Record<keyof Rules, string>>): Rules | null {
  const wished = { ...rules };
  for (const key of RULES) {
    const text = typed[key];
    if (text === undefined) continue;
    const sigmas = sigmasOf(text);
    if (sigmas === undefined) return null;
    wished[key] = sigmas;
  }
  return wished;
}
