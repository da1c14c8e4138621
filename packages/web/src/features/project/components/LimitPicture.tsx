import type { LimitEffect } from '@meridiem/contract';
import type { FilterClass, LimitKey } from '@meridiem/core';
import { limitRow, limitText } from '@meridiem/core';
import { wordsOf } from '../../../app/api.ts';
import { dayOf, hours } from '../../../words/format.ts';
import { useLimitEffect } from '../queries.ts';
import { effectWords } from '../view-model.ts';

interface LimitPictureProps {
  readonly projectId: string;
  readonly filterClass: FilterClass;
  readonly limitKey: LimitKey;
  /** The value being typed; undefined where none is. */
  readonly proposed: number | null | undefined;
  readonly onClose: () => void;
}

const HEIGHT = 64;

/** What one limit does tonight and in the coming month: outline without it, solid with it, ticked where another value is typed. */
export function LimitPicture({ projectId, filterClass, limitKey, proposed, onClose }: LimitPictureProps) {
  const { data, error } = useLimitEffect(projectId, { class: filterClass, key: limitKey, proposed });
  return (
    <section
      aria-label={`What this limit costs: ${limitRow(limitKey).name}`}
      aria-live="polite"
      className="my-2 border-l-2 border-brass bg-raised px-3 py-2"
    >
      <div className="flex items-baseline gap-3">
        <h4 className="font-serif text-base">
          {limitRow(limitKey).name}
          {proposed !== undefined && `, tried at ${limitText(limitKey, proposed)}`}
        </h4>
        <button
          type="button"
          className="ml-auto text-soft hover:text-ink"
          aria-label="Close the picture"
          onClick={onClose}
        >
          ×
        </button>
      </div>
      {error && <p className="text-signal">{wordsOf(error)}</p>}
      {!data && !error && <p className="text-soft">Working it out</p>}
      {data && (
        <>
          <p>{effectWords(data, proposed !== undefined)}</p>
          <MonthBars effect={data} isProposed={proposed !== undefined} />
          <p className="text-xs text-soft">
            {data.goalWords}. A bar a night: outline without this limit, solid with it
            {proposed !== undefined && ', brass line as tried'}.
          </p>
        </>
      )}
    </section>
  );
}

function MonthBars({ effect, isProposed }: { effect: LimitEffect; isProposed: boolean }) {
  const most = Math.max(1, ...effect.nights.map((night) => Math.max(night.hoursWithout, night.hoursProposed)));
  return (
    <div className="mt-1 flex items-end gap-[2px]" style={{ height: HEIGHT }}>
      {effect.nights.map((night) => (
        <div
          key={night.nightDate}
          className="relative h-full grow"
          title={`${dayOf(night.nightDate)}: ${hours(night.hours)} h with it, ${hours(night.hoursWithout)} h without${isProposed ? `, ${hours(night.hoursProposed)} h as tried` : ''}`}
        >
          <span
            className="absolute bottom-0 left-0 right-0 border border-soft"
            style={{ height: (HEIGHT * night.hoursWithout) / most }}
          />
          <span className="absolute bottom-0 left-0 right-0 bg-ink" style={{ height: (HEIGHT * night.hours) / most }} />
          {isProposed && (
            <span
              className="absolute left-0 right-0 border-t-2 border-brass"
              style={{ bottom: (HEIGHT * night.hoursProposed) / most - 1 }}
            />
          )}
        </div>
      ))}
    </div>
  );
}
