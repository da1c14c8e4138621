import type { CalibrationNeed, CalibrationRules, GuideDarks } from '@meridiem/contract';
import { nightDateAt } from '@meridiem/core';
import { dayOf } from '../../../words/format.ts';
import { guideDarkWords, inOrder, kindWords, likeWords, owedWords, rulesWords, stateWords } from '../view-model.ts';

interface NeedTableProps {
  readonly rigName: string;
  readonly rules: CalibrationRules;
  readonly guideDarks: GuideDarks | null;
  readonly needs: readonly CalibrationNeed[];
  readonly zone: string;
}

/** What one rig's lights need, what is owed first. */
export function NeedTable({ rigName, rules, guideDarks, needs, zone }: NeedTableProps) {
  return (
    <section aria-label={rigName} className="mt-8 max-w-5xl">
      <h2 className="rule pb-1 text-lg">
        {rigName} <span className="text-sm text-soft">{owedWords(needs)}</span>
      </h2>
      {needs.length > 0 && <p className="mt-1 text-sm text-soft">{rulesWords(rules)}</p>}
      {guideDarks && (
        <p className={guideDarks.isDue ? 'mt-1 text-brass' : 'mt-1 text-soft'}>{guideDarkWords(guideDarks, zone)}</p>
      )}
      {needs.length > 0 && (
        <div className="overflow-x-auto">
          <table className="w-full">
            <thead>
              <tr className="rule">
                <th scope="col">frames</th>
                <th scope="col">like</th>
                <th scope="col" className="text-right">
                  lights
                </th>
                <th scope="col">nearest</th>
                <th scope="col">state</th>
              </tr>
            </thead>
            <tbody>
              {inOrder(needs).map((need) => (
                <tr key={`${need.kind} ${likeWords(need)} ${need.newestUtcMs}`} className="rule">
                  <td className="font-serif text-base">{kindWords(need)}</td>
                  <td>{likeWords(need)}</td>
                  <td className="text-right">{need.kind === 'flat-dark' ? '' : need.lights}</td>
                  <td className="whitespace-nowrap text-soft">
                    {need.set && `${need.set.count} of ${dayOf(nightDateAt(need.set.utcMs, zone))}`}
                  </td>
                  <td className={need.state === 'matched' ? 'text-soft' : 'text-brass'}>{stateWords(need)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
