import type { ProjectRow, TriedLimit } from '@meridiem/contract';
import type { FilterClass, LimitKey } from '@meridiem/core';
import { LIMIT_KEYS, limitRow, limitText } from '@meridiem/core';
import { useState } from 'react';
import { Labelled } from '../../../ui/Labelled.tsx';
import { settingOf } from '../../../words/limit-setting.ts';
import { wordsOf } from '../../../app/api.ts';
import { isSameLimit } from '../what-if.ts';

const CLASSES: readonly FilterClass[] = ['broadband', 'narrowband', 'colour'];

interface TriedLimitsProps {
  readonly tried: readonly TriedLimit[];
  readonly projects: readonly ProjectRow[];
  readonly onChange: (tried: readonly TriedLimit[]) => void;
}

/** Limits as they might be: of the observatory or of one project, for one filter class or all. */
export function TriedLimits({ tried, projects, onChange }: TriedLimitsProps) {
  const [place, setPlace] = useState<Omit<TriedLimit, 'value'>>({
    projectId: null,
    class: null,
    key: 'minAltitudeDeg',
  });
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string>();
  const { unit, help } = limitRow(place.key);
  const add = (): void => {
    try {
      const setting = settingOf(place.key, text);
      const limit = { ...place, value: 'value' in setting ? setting.value : null };
      onChange([...tried.filter((one) => !isSameLimit(one, limit)), limit]);
      setText('');
      setProblem(undefined);
    } catch (error) {
      setProblem(wordsOf(error));
    }
  };
  return (
    <section aria-label="Limits tried" className="mt-4">
      <h2 className="text-lg">Limits</h2>
      <form
        className="mt-1 flex flex-wrap items-start gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <Labelled label="Limit of" error={undefined}>
          <select
            value={place.projectId ?? ''}
            onChange={({ target }) => setPlace({ ...place, projectId: target.value || null })}
          >
            <option value="">the observatory</option>
            {projects.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label="For" error={undefined}>
          <select
            value={place.class ?? ''}
            onChange={({ target }) => setPlace({ ...place, class: (target.value || null) as FilterClass | null })}
          >
            <option value="">all filters</option>
            {CLASSES.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </Labelled>
        <Labelled label="Limit" error={undefined}>
          <select
            value={place.key}
            title={help}
            onChange={({ target }) => setPlace({ ...place, key: target.value as LimitKey })}
          >
            {LIMIT_KEYS.map((key) => (
              <option key={key} value={key}>
                {limitRow(key).name}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label={unit ? `Value, ${unit}` : 'Value'} error={problem}>
          <input className="w-28" value={text} placeholder="off" onChange={({ target }) => setText(target.value)} />
        </Labelled>
        <button type="submit" className="act mt-6">
          Try limit
        </button>
      </form>
      <ul className="mt-1">
        {tried.map((limit) => (
          <li key={`${limit.projectId} ${limit.class} ${limit.key}`}>
            {limitRow(limit.key).name} {limitText(limit.key, limit.value)}
            <span className="text-soft">
              , {projects.find(({ id }) => id === limit.projectId)?.name ?? 'the observatory'}
              {limit.class ? `, ${limit.class}` : ''}
            </span>{' '}
            <button
              type="button"
              className="word-link"
              onClick={() => onChange(tried.filter((one) => !isSameLimit(one, limit)))}
            >
              leave as it is
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
