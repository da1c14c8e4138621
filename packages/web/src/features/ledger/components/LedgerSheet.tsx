import type { LedgerRow } from '@meridiem/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { pictureAddress } from '../exposure/address.ts';
import { useFlicking } from '../../../ui/use-flicking.ts';
import { useWidth } from '../../../ui/use-width.ts';
import { clockSeconds, dayOf } from '../../../words/format.ts';
import { pictureMarks, standing, toggled } from '../view-model.ts';
import type { LedgerTableProps } from './LedgerTable.tsx';
import { MARKS, onLedgerKey } from './ledger-keys.ts';

const CELL_PX = 228;
const ROW_PX = 228;
const PICTURE_PX = 220;
const FAR = 1e9;

/** Exposures side by side as pictures; what a table's keys do, they do here. */
export function LedgerSheet({ rows, zone, isStale, selection, onSelection, onVerdict, onEnd }: LedgerTableProps) {
  const frame = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const [measure, widthPx] = useWidth(1200);
  const [isFlicking, onScrolled] = useFlicking();
  const across = Math.max(1, Math.floor(widthPx / CELL_PX));
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer's instance changes on purpose
  const virtual = useVirtualizer({
    count: Math.ceil(rows.length / across),
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PX,
    overscan: 2,
    onChange: onScrolled,
  });
  const lines = virtual.getVirtualItems();
  const lastSeen = ((lines.at(-1)?.index ?? 0) + 1) * across;
  useEffect(() => {
    if (lastSeen >= rows.length - 2 * across) onEnd();
  });
  const ids = useMemo(() => rows.map((row) => row.id), [rows]);
  const moves = {
    ArrowRight: 1,
    ArrowLeft: -1,
    ArrowDown: across,
    ArrowUp: -across,
    PageDown: 3 * across,
    PageUp: -3 * across,
    Home: -FAR,
    End: FAR,
  };
  const open = useCallback((id: string): void => void navigate(`/exposures/${id}`), [navigate]);
  const stand = useCallback(
    (id: string, isToggling: boolean) => onSelection((now) => (isToggling ? toggled : standing)(now, id)),
    [onSelection],
  );
  return (
    <div
      ref={frame}
      role="listbox"
      inert={isStale}
      aria-busy={isStale}
      aria-label="Exposures as pictures"
      aria-multiselectable
      tabIndex={0}
      aria-activedescendant={selection.cursor === null ? undefined : `picture-${selection.cursor}`}
      className="mt-3 h-[calc(100vh-300px)] min-h-[320px] overflow-auto bg-ground"
      onKeyDown={(event) =>
        onLedgerKey(event, {
          ...{ moves, ids, selection, onSelection, onVerdict, onOpen: open },
          onMoved: (index) => virtual.scrollToIndex(Math.floor(index / across)),
        })
      }
      onFocus={() => selection.cursor === null && ids[0] && onSelection(standing(selection, ids[0]))}
    >
      <div ref={measure} role="presentation" className="relative" style={{ height: virtual.getTotalSize() }}>
        {lines.map(({ index, start }) => (
          <div
            key={index}
            role="presentation"
            className="absolute inset-x-0 flex gap-2 [contain:strict]"
            style={{ top: start, height: ROW_PX }}
          >
            {rows.slice(index * across, (index + 1) * across).map((row) => (
              <Cell
                key={row.id}
                row={row}
                zone={zone}
                isPassing={isFlicking}
                isSelected={selection.ids.has(row.id)}
                isCurrent={selection.cursor === row.id}
                onStand={stand}
                onOpen={open}
              />
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}

interface CellProps {
  readonly row: LedgerRow;
  readonly zone: string;
  /** Scrolled past too fast: its picture waits, so that those that are looked at come first. */
  readonly isPassing: boolean;
  readonly isSelected: boolean;
  readonly isCurrent: boolean;
  readonly onStand: (id: string, isToggling: boolean) => void;
  readonly onOpen: (id: string) => void;
}

/** One exposure: drawn, with the figures that tell a good one from a bad one; drawn again only when something in it changes. */
const Cell = memo(function Cell({ row, zone, isPassing, isSelected, isCurrent, onStand, onOpen }: CellProps) {
  const [isWanted, setIsWanted] = useState(!isPassing);
  if (!isPassing && !isWanted) setIsWanted(true);
  const time = `${dayOf(row.nightDate)} ${clockSeconds(row.startUtcMs, zone).slice(0, 5)}`;
  return (
    <div
      id={`picture-${row.id}`}
      role="option"
      aria-selected={isSelected}
      aria-label={`${time}, ${row.panelName ?? 'no project'}, ${row.filterLetter}, ${[row.verdict, ...pictureMarks(row)].join(', ')}`}
      className={`w-[220px] cursor-pointer p-1 text-sm ${isSelected ? 'bg-wash' : ''} ${isCurrent ? 'outline outline-1 -outline-offset-1 outline-brass' : ''}`}
      onClick={(event) => onStand(row.id, event.ctrlKey || event.metaKey)}
      onDoubleClick={() => onOpen(row.id)}
    >
      <div
        className={`flex h-[146px] items-center justify-center ${row.hasFrame ? 'bg-black' : 'border border-hairline'}`}
      >
        {!row.hasFrame && <span className="text-xs text-soft">no file on this server</span>}
        {row.hasFrame && isWanted && (
          <img
            src={pictureAddress(row.id, 'whole', PICTURE_PX)}
            alt=""
            decoding="async"
            className={`max-h-full max-w-full ${row.verdict === 'rejected' ? 'opacity-40' : ''}`}
          />
        )}
      </div>
      <div className="flex items-baseline justify-between">
        <FilterTab letter={row.filterLetter} filterClass={row.filterClass} dim={row.verdict === 'rejected'} />
        <span className="whitespace-nowrap text-soft">{time}</span>
      </div>
      <p className="truncate">{row.panelName ?? 'no project'}</p>
      <div className="flex items-baseline justify-between gap-2 text-soft">
        <span className={`truncate ${row.verdict === 'rejected' ? 'text-signal' : ''}`}>
          <span aria-hidden>{MARKS[row.verdict]}</span> {row.verdict}
          {row.verdict === 'rejected' && `: ${row.verdictReason}`}
        </span>
        <span className="whitespace-nowrap">
          {row.halfFluxRadiusPx === null ? '—' : row.halfFluxRadiusPx.toFixed(2)}
          <span className="unit">px</span> {row.starCount ?? '—'}
          <span aria-label="stars">★</span>
        </span>
      </div>
      <p className="truncate text-brass">{pictureMarks(row).join(', ')}</p>
    </div>
  );
});
