import type { RigPlan } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useAccount } from '../../../app/session.ts';
import { useNightActions } from '../queries.ts';

const SPEEDS = [1, 60, 600, 3000] as const;
/** What each kind of devices can be hastened to, and what starting a night is called. */
const STARTS = {
  none: { fastest: 3000, words: 'Play on the simulated observatory' },
  simulated: { fastest: 600, words: 'Start the night on simulated devices' },
  address: { fastest: 1, words: 'Start the night' },
} as const;

interface NightControlsProps {
  readonly plan: RigPlan;
  readonly nightDate: string;
  readonly nowUtcMs: number;
  /** Whether the sun is up: a rehearsal is for the day. */
  readonly isDay: boolean;
}

/** Publish, play and stop, for those who may. */
export function NightControls({ plan, nightDate, nowUtcMs, isDay }: NightControlsProps) {
  const { role } = useAccount();
  const notice = useNotice();
  const { publish, play, rehearse, stop } = useNightActions(nightDate);
  const [speed, setSpeed] = useState<number>(600);
  const [reason, setReason] = useState<string | null>(null);
  const needsReason = plan.versions.length > 0 && nowUtcMs >= plan.cutOffUtcMs;
  const publishIt = (why?: string): void =>
    publish.mutate(
      { rigId: plan.rigId, ...(why ? { reason: why } : {}) },
      {
        onError: refuse,
        onSuccess: ({ seq }) => {
          setReason(null);
          notice(`Published as version ${seq}`);
        },
      },
    );
  const refuse = (error: unknown): void => notice(wordsOf(error), true);
  const start = STARTS[plan.devices];
  const chosenSpeed = Math.min(speed, start.fastest);
  const playing = plan.run && ['requested', 'running', 'stopping'].includes(plan.run.state);
  const hands = role === 'coordinator' || role === 'helper';
  return (
    <div className="no-print ml-auto flex items-center gap-2">
      {role === 'coordinator' && !playing && (
        <button
          type="button"
          className={plan.state === 'working' ? 'act act-strong' : 'act'}
          disabled={publish.isPending || (plan.state === 'working' && plan.blocks.length === 0)}
          onClick={() => (needsReason && reason === null ? setReason('') : publishIt())}
        >
          {plan.versions.length > 0 ? 'Publish new version' : 'Publish'}
        </button>
      )}
      {reason !== null && (
        <form
          aria-label="Why the published plan changes"
          className="flex items-baseline gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            publishIt(reason);
          }}
        >
          <input
            autoFocus
            aria-label="Reason"
            placeholder="past the cut-off: say why"
            className="w-[210px]"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <button type="submit" className="act" disabled={reason.trim() === '' || publish.isPending}>
            Publish with this reason
          </button>
          <button type="button" className="word-link cursor-pointer" onClick={() => setReason(null)}>
            Cancel
          </button>
        </form>
      )}
      {hands && plan.state === 'published' && !playing && (
        <>
          <label className="text-soft" hidden={start.fastest === 1}>
            at{' '}
            <select
              aria-label={`Speed of ${plan.rigName}`}
              value={chosenSpeed}
              onChange={(event) => setSpeed(Number(event.target.value))}
            >
              {SPEEDS.filter((value) => value <= start.fastest).map((value) => (
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
            onClick={() => play.mutate({ rigId: plan.rigId, speed: chosenSpeed }, { onError: refuse })}
          >
            {start.words}
          </button>
          {isDay && plan.devices !== 'address' && (
            <button
              type="button"
              className="act"
              title="Limits are lifted, exposures are short and count for nothing; it ends by itself at sunset"
              disabled={rehearse.isPending}
              onClick={() => rehearse.mutate({ rigId: plan.rigId, speed }, { onError: refuse })}
            >
              Rehearse by day
            </button>
          )}
        </>
      )}
      {hands && playing && (
        <button
          type="button"
          className="act"
          disabled={stop.isPending || plan.run!.state === 'stopping'}
          onClick={() => stop.mutate(plan.run!.id, { onError: refuse })}
        >
          {plan.run!.state !== 'stopping'
            ? 'Stop'
            : plan.devices === 'none'
              ? 'Stopping after this exposure'
              : 'Closing'}
        </button>
      )}
    </div>
  );
}
