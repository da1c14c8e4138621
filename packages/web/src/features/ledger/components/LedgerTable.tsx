import type { LedgerRow } from '@meridiem/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { Dispatch, SetStateAction } from 'react';
import { useEffect, useRef } from 'react';
import { Link, useNavigate } from 'react-router';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { WhyMark } from '../../../why/why-context.tsx';
import { clockSeconds, dayOf, percent } from '../../../words/format.ts';
import type { Selection } from '../view-model.ts';
import { standing, toggled } from '../view-model.ts';
import { MARKS, onLedgerKey } from './ledger-keys.ts';

export interface LedgerTableProps {
  readonly rows: readonly LedgerRow[];
  readonly zone: string;
  /** Rows of the choice before, shown until those of this one come: to be looked at only. */
  readonly isStale: boolean;
  readonly selection: Selection;
  readonly onSelection: Dispatch<SetStateAction<Selection>>;
  readonly onVerdict: (verdict: LedgerRow['verdict']) => void;
  readonly onEnd: () => void;
}

const ROW_PX = 30;
const COLUMNS =
  'grid grid-cols-[24px_128px_minmax(0,1fr)_64px_76px_72px_64px_76px_76px_64px_170px] items-center gap-x-3';
const MOVES: Readonly<Record<string, number>> = {
  ArrowDown: 1,
  ArrowUp: -1,
  PageDown: 15,
  PageUp: -15,
  Home: -1e9,
  End: 1e9,
};

/** Rows as a virtual grid: only what is seen is drawn; the keyboard does everything the mouse does. */
export function LedgerTable({ rows, zone, isStale, selection, onSelection, onVerdict, onEnd }: LedgerTableProps) {
  const frame = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const open = (id: string): void => void navigate(`/exposures/${id}`);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer's instance changes on purpose
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const lastSeen = items[items.length - 1]?.index ?? 0;
  useEffect(() => {
    if (lastSeen >= rows.length - 20) onEnd();
  });
  const ids = rows.map((row) => row.id);
  return (
    <div
      ref={frame}
      role="grid"
      inert={isStale}
      aria-busy={isStale}
      aria-label="Exposures"
      aria-rowcount={rows.length}
      aria-multiselectable
      tabIndex={0}
      aria-activedescendant={selection.cursor === null ? undefined : `exposure-${selection.cursor}`}
      className="mt-3 h-[calc(100vh-300px)] min-h-[320px] overflow-auto"
      onKeyDown={(event) =>
        onLedgerKey(event, {
          ...{ moves: MOVES, ids, selection, onSelection, onVerdict, onOpen: open },
          onMoved: (index) => virtual.scrollToIndex(index),
        })
      }
      onFocus={() => selection.cursor === null && ids[0] && onSelection(standing(selection, ids[0]))}
    >
      <div
        role="row"
        className={`rule sticky top-0 z-[5] bg-ground ${COLUMNS} h-[28px] text-soft [font-variant-caps:all-small-caps]`}
      >
        {['', 'night, time', 'project', 'filter', 'length', 'hfr', 'stars', 'guiding', 'sky', 'light', 'verdict'].map(
          (name) => (
            <span
              key={name}
              role="columnheader"
              className={['length', 'hfr', 'stars', 'guiding', 'sky', 'light'].includes(name) ? 'text-right' : ''}
            >
              {name || <span className="sr-only">selected</span>}
            </span>
          ),
        )}
      </div>
      <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
        {items.map(({ index, start }) => (
          <Row
            key={rows[index].id}
            row={rows[index]}
            index={index}
            top={start}
            zone={zone}
            selected={selection.ids.has(rows[index].id)}
            current={selection.cursor === rows[index].id}
            onToggle={() => onSelection(toggled(selection, rows[index].id))}
            onStand={() => onSelection(standing(selection, rows[index].id))}
          />
        ))}
      </div>
    </div>
  );
}

interface RowProps {
  readonly row: LedgerRow;
  readonly index: number;
  readonly top: number;
  readonly zone: string;
  readonly selected: boolean;
  readonly current: boolean;
  readonly onToggle: () => void;
  readonly onStand: () => void;
}

function Row({ row, index, top, zone, selected, current, onToggle, onStand }: RowProps) {
  const number = (value: number | null, decimals: number, unit: string) => (
    <span role="gridcell" className="text-right">
      {value === null ? '—' : value.toFixed(decimals)}
      {unit && <span className="unit">{unit}</span>}
    </span>
  );
  const looks = `${selected ? 'bg-wash' : ''} ${current ? 'outline outline-1 -outline-offset-1 outline-brass' : ''} ${row.verdict === 'rejected' ? 'text-soft' : ''}`;
  return (
    <div
      id={`exposure-${row.id}`}
      role="row"
      aria-rowindex={index + 1}
      aria-selected={selected}
      className={`rule absolute inset-x-0 ${COLUMNS} ${looks}`}
      style={{ top, height: ROW_PX }}
      onClick={onStand}
    >
      <span role="gridcell">
        <input
          type="checkbox"
          tabIndex={-1}
          aria-label={`Select the exposure of ${clockSeconds(row.startUtcMs, zone)}`}
          checked={selected}
          onChange={onToggle}
        />
      </span>
      <span role="gridcell" className="whitespace-nowrap">
        <Link className="word-link" tabIndex={-1} to={`/exposures/${row.id}`}>
          {dayOf(row.nightDate)} <span className="ml-1">{clockSeconds(row.startUtcMs, zone).slice(0, 5)}</span>
        </Link>
      </span>
      <span
        role="gridcell"
        className="truncate"
        title={`${row.panelName ?? 'no project'} · ${row.rigName}${row.isSimulated ? ' · simulated' : ''}`}
      >
        {row.isSimulated && <span className="text-sm text-brass">simulated </span>}
        {row.panelName ?? 'no project'}
        {row.sharedWithName && <span className="text-soft"> and {row.sharedWithName}</span>}
      </span>
      <span role="gridcell">
        <FilterTab letter={row.filterLetter} filterClass={row.filterClass} dim={row.verdict === 'rejected'} />
      </span>
      {number(row.exposureSec, 0, 's')}
      {number(row.halfFluxRadiusPx, 2, 'px')}
      {number(row.starCount, 0, '')}
      {number(row.guidingRmsArcsec, 2, '″')}
      {number(row.backgroundE, 0, 'e⁻')}
      <span role="gridcell" className="text-right">
        {row.ratePredicted === null ? '—' : percent(row.ratePredicted)}
      </span>
      <span role="gridcell" className={`truncate ${row.verdict === 'rejected' ? 'text-signal' : ''}`}>
        <span aria-hidden>{MARKS[row.verdict]}</span> {row.verdict}
        {row.verdict === 'rejected' && `: ${row.verdictReason}`}
        <WhyMark
          note={{ title: `${row.verdict}, ${clockSeconds(row.startUtcMs, zone)}`, paragraphs: [verdictWords(row)] }}
        />
      </span>
    </div>
  );
}

function verdictWords(row: LedgerRow): string {
  if (row.verdictOrigin === null)
    return 'Neither a person nor a rule has judged this exposure yet. Until then the project’s counting policy decides whether it counts.';
  const author = row.verdictOrigin === 'rule' ? 'a rule' : (row.verdictBy ?? 'a person');
  return `Judged ${row.verdict} by ${author}: ${row.verdictReason}. A person’s verdict overrides a rule’s, a coordinator’s a member’s. The exposure stays in the ledger either way.`;
}
