import type { ChargeRow, ChargingRule, Role } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { hours } from '../../../words/format.ts';
import type { AccountActs, Period } from '../queries.ts';
import { duesOf, ruleFrom } from '../view-model.ts';

interface ChargedTableProps {
  readonly rows: readonly ChargeRow[];
  readonly rule: ChargingRule;
  readonly period: Period;
  readonly role: Role;
  readonly acts: AccountActs;
}

/** Charged hours by member, rig and sky. */
export function ChargedTable({ rows, rule, period, role, acts }: ChargedTableProps) {
  const isCoordinator = role === 'coordinator';
  return (
    <section aria-label="Charged hours" className="mt-10">
      <h2 className="rule pb-1 text-lg">
        Charged{' '}
        <span className="text-sm text-soft">
          slew to last download, dark hours × {rule.dark}, moonlit × {rule.bright}; never weather, faults, calibration,
          or what the site spoiled
        </span>
      </h2>
      {rows.length === 0 ? (
        <p className="mt-2 text-soft">
          Nothing is charged yet: none of these nights is closed with exposures of a project.
        </p>
      ) : (
        <table className="w-full max-w-3xl">
          <thead>
            <tr className="rule">
              <th scope="col">member</th>
              <th scope="col">rig</th>
              <th scope="col">sky</th>
              <th scope="col" className="text-right">
                on the clock
              </th>
              <th scope="col" className="text-right">
                charged
              </th>
              {rule.duesPerHour !== null && (
                <th scope="col" className="text-right">
                  dues
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={`${row.memberId} ${row.rigId} ${row.skyClass}`} className="rule">
                <td className="font-serif text-base">{row.memberName}</td>
                <td className="text-soft">{row.rigName}</td>
                <td>{row.skyClass}</td>
                <td className="text-right">
                  {hours(row.clockHours)}
                  <span className="unit">h</span>
                </td>
                <td className="text-right">
                  {hours(row.chargedHours)}
                  <span className="unit">h</span>
                </td>
                {rule.duesPerHour !== null && <td className="text-right">{duesOf(row, rule)}</td>}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {isCoordinator && (
        <div className="mt-3 flex flex-wrap items-baseline gap-x-6 gap-y-2">
          <a className="word-link" href={`/api/exports/dues?from=${period.from}&to=${period.to}`} download>
            dues as CSV
          </a>
          <RuleForm key={JSON.stringify(rule)} rule={rule} acts={acts} />
        </div>
      )}
    </section>
  );
}

function RuleForm({ rule, acts }: { rule: ChargingRule; acts: AccountActs }) {
  const notice = useNotice();
  const stored = {
    dark: String(rule.dark),
    bright: String(rule.bright),
    duesPerHour: rule.duesPerHour === null ? '' : String(rule.duesPerHour),
    currency: rule.currency,
  };
  const [typed, setTyped] = useState(stored);
  const [problem, setProblem] = useState<string | null>(null);
  const wished = ruleFrom(typed);
  const isChanged = JSON.stringify(typed) !== JSON.stringify(stored);
  const save = (): void => {
    if (!wished) return setProblem('Write plain numbers like 0.5; no dues at all is an empty field.');
    void acts.charge(wished).then(
      () => notice('Rates saved; closed nights keep theirs'),
      (error: unknown) => setProblem(wordsOf(error)),
    );
  };
  const field = (key: keyof typeof stored, label: string) => (
    <label>
      <span className="text-soft">{label}</span>{' '}
      <input
        className="w-16 text-right"
        value={typed[key]}
        onChange={(event) => {
          setTyped({ ...typed, [key]: event.target.value });
          setProblem(null);
        }}
      />
    </label>
  );
  return (
    <form
      aria-label="How hours are charged"
      className="flex flex-wrap items-baseline gap-x-4 gap-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      {field('dark', 'dark hours ×')}
      {field('bright', 'moonlit hours ×')}
      {field('duesPerHour', 'dues an hour')}
      {field('currency', 'in')}
      {isChanged && (
        <button type="submit" className="act">
          Save rates
        </button>
      )}
      {problem && (
        <span role="alert" className="text-signal">
          {problem}
        </span>
      )}
    </form>
  );
}
