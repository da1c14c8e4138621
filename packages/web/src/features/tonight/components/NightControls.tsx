import type { RigPlan } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useAccount } from '../../../app/session.ts';
import { useNightActions } from '../queries.ts';

const SPEEDS = [1, 60, 600, 3000] as const;

/** Publish, play and stop, for those who may. */
export function NightControls({ plan, nightDate }: { plan: RigPlan; nightDate: string }) {
  const { role } = useAccount();
  const notice = useNotice();
  const { publish, play, stop } = useNightActions(nightDate);
  const [speed, setSpeed] = useState<number>(600);
  const refuse = (error: unknown): void => notice(wordsOf(error), true);
  const playing = plan.run && ['requested', 'running', 'stopping'].includes(plan.run.state);
  const hands = role === 'coordinator' || role === 'helper';
  return (
    <div className="no-print ml-auto flex items-center gap-2">
      {role === 'coordinator' && !playing && (
        <button
          type="button"
          className={plan.state === 'working' ? 'act act-strong' : 'act'}
          disabled={publish.isPending || (plan.state === 'working' && plan.blocks.length === 0)}
          onClick={() =>
            publish.mutate(plan.rigId, {
              onError: refuse,
              onSuccess: ({ seq }) => notice(`Published as version ${seq}`),
            })
          }
        >
          {plan.state === 'published' ? 'Publish anew' : 'Publish'}
        </button>
      )}
      {hands && plan.state === 'published' && !playing && (
        <>
          <label className="text-soft">
            at{' '}
            <select
              aria-label={`Speed of ${plan.rigName}`}
              value={speed}
              onChange={(event) => setSpeed(Number(event.target.value))}
            >
              {SPEEDS.map((value) => (
                <option key={value} value={value}>
                  {value}×
                </option>
              ))}
            </select>
          </label>
          <button
            type="button"
            className="act"
            disabled={play.isPending}
            onClick={() => play.mutate({ rigId: plan.rigId, speed }, { onError: refuse })}
          >
            Play on the simulated observatory
          </button>
        </>
      )}
      {hands && playing && (
        <button
          type="button"
          className="act"
          disabled={stop.isPending || plan.run!.state === 'stopping'}
          onClick={() => stop.mutate(plan.run!.id, { onError: refuse })}
        >
          {plan.run!.state === 'stopping' ? 'Stopping after this exposure' : 'Stop'}
        </button>
      )}
    </div>
  );
}
