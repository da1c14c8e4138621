import type { HandOrder, NightRun, ShownOrder } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useOrders } from '../queries.ts';
import { heldWords, isHeld, lastOrderWords } from '../view-model.ts';

interface ByHandProps {
  readonly run: NightRun;
  /** The newest first. */
  readonly orders: readonly ShownOrder[];
  readonly mayOrder: boolean;
}

/** What helpers and coordinators can say to a night under way, and what was said. */
export function ByHand({ run, orders, mayOrder }: ByHandProps) {
  const { order, stop } = useOrders(run.id);
  const notice = useNotice();
  const onError = (error: unknown): void => notice(wordsOf(error), true);
  const say = (kind: HandOrder): void => order.mutate(kind, { onError });
  const held = isHeld(orders);
  const isBusy = order.isPending || run.state !== 'running';
  return (
    <section aria-label="By hand" className="mt-4">
      {mayOrder && (
        <div className="flex flex-wrap gap-2">
          {held ? (
            <Say words="Go on" strong isBusy={isBusy} onSay={() => say('resume')} />
          ) : (
            <Say words="Hold after this exposure" isBusy={isBusy} onSay={() => say('hold')} />
          )}
          <Say words="Leave this target for tonight" isBusy={isBusy} onSay={() => say('leave')} />
          <Say words="Close after this exposure" isBusy={isBusy} onSay={() => say('last')} />
          <Say
            words={run.state === 'stopping' ? 'Closing' : 'Stop and close now'}
            isBusy={stop.isPending || run.state === 'stopping'}
            onSay={() => stop.mutate(undefined, { onError })}
          />
        </div>
      )}
      {held && <p className="mt-2 text-brass">{heldWords(orders)}</p>}
      {!held && orders.length > 0 && <p className="mt-2 text-soft">{lastOrderWords(orders)}</p>}
    </section>
  );
}

interface SayProps {
  readonly words: string;
  readonly isBusy: boolean;
  readonly onSay: () => void;
  readonly strong?: boolean;
}

const Say = ({ words, isBusy, onSay, strong = false }: SayProps) => (
  <button type="button" className={strong ? 'act act-strong' : 'act'} disabled={isBusy} onClick={onSay}>
    {words}
  </button>
);
