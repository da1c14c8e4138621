import type { NightSky, RigPlan } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { Failure, Loading } from '../../../ui/states.tsx';
import { useNight } from '../queries.ts';
import { comparedRows, planNameWords } from '../view-model.ts';
import { BlockBars } from './BlockBars.tsx';

interface ComparePlansProps {
  readonly plan: RigPlan;
  readonly sky: NightSky;
  readonly zone: string;
  /** The other plan, as the address names it. */
  readonly against: string;
}

/** Another plan of the same night under this one, on the same axis, and what differs panel by panel. */
export function ComparePlans({ plan, sky, zone, against }: ComparePlansProps) {
  const { data, error, isPending, refetch } = useNight(sky.nightDate, against);
  if (isPending) return <Loading what="the other plan" rows={2} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  const other = data.rigs.find(({ rigId }) => rigId === plan.rigId);
  if (!other) return null;
  const rows = comparedRows(plan, other);
  return (
    <section aria-label={`Compared, ${plan.rigName}`} className="mt-2 border-l-2 border-hairline pl-3">
      <p className="text-soft">
        Beneath: {planNameWords(other)}, value {other.value.toFixed(2)}; above: {planNameWords(plan)}, value{' '}
        {plan.value.toFixed(2)}.
      </p>
      {/* On the axis of the strip above, not on the margin's. */}
      <div className="-ml-[14px]">
        <BlockBars plan={other} sky={sky} zone={zone} hand={null} />
      </div>
      {rows.length === 0 ? (
        <p className="mt-1">Both expose the same panels for the same time.</p>
      ) : (
        <table className="mt-1">
          <thead>
            <tr className="rule">
              <th scope="col">panel</th>
              <th scope="col" className="text-right">
                above
              </th>
              <th scope="col" className="text-right">
                beneath
              </th>
              <th scope="col" className="text-right">
                difference
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.panelId} className="rule">
                <td className="font-serif">{row.panelName}</td>
                <td className="text-right">{row.here}</td>
                <td className="text-right">{row.there}</td>
                <td className="text-right">{row.difference}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
