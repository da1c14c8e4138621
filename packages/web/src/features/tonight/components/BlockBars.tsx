import type { NightSky, PlanBlock, RigPlan } from '@meridiem/contract';
import type { KeyboardEvent, PointerEvent } from 'react';
import { useRef, useState } from 'react';
import { filterColour, filterTexture } from '../../../filters/filter-look.ts';
import { stripScale, xOf } from '../../../night-strip/geometry.ts';
import { clock } from '../../../words/format.ts';
import type { MarkedBlock } from '../night-picture.ts';
import { blockKeys } from '../view-model.ts';

/** What a hand does to a block. */
export interface BlockHand {
  readonly move: (block: PlanBlock, byMs: number) => void;
  readonly stretch: (block: PlanBlock, byMs: number) => void;
  readonly pin: (block: PlanBlock) => void;
  readonly leaveOut: (block: PlanBlock) => void;
}

interface BlockBarsProps {
  readonly plan: RigPlan;
  readonly sky: NightSky;
  readonly zone: string;
  readonly hand: BlockHand | null;
  /** Told which block is pointed at or has the focus. */
  readonly onMark?: (marked: MarkedBlock) => void;
}

interface Drag {
  readonly startUtcMs: number;
  readonly kind: 'move' | 'stretch';
  readonly fromX: number;
  readonly byMs: number;
}

/** What an arrow key moves by. */
const STEP_MS = 5 * 60_000;
const EDGE_PX = 8;

/** Blocks with their runs as bars under the axis; where hands may change them they are dragged, stretched at their end, or moved by keys. */
export function BlockBars({ plan, sky, zone, hand, onMark }: BlockBarsProps) {
  const frame = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const scale = stripScale(sky, 100);
  const spanMs = scale.endUtcMs - scale.startUtcMs;
  const keys = blockKeys(plan.blocks);
  const pinned = new Set(plan.wishes.filter(({ kind }) => kind === 'pin').map(({ goalId }) => goalId));

  const mark = ({ panelId, startUtcMs }: PlanBlock): void => onMark?.({ rigId: plan.rigId, panelId, startUtcMs });
  const begin = (block: PlanBlock) => (event: PointerEvent<HTMLButtonElement>) => {
    if (!hand || event.button !== 0) return;
    const box = event.currentTarget.getBoundingClientRect();
    const kind = box.right - event.clientX < EDGE_PX ? 'stretch' : 'move';
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrag({ startUtcMs: block.startUtcMs, kind, fromX: event.clientX, byMs: 0 });
  };
  const go = (event: PointerEvent): void => {
    if (!drag || !frame.current) return;
    const byMs = ((event.clientX - drag.fromX) / frame.current.clientWidth) * spanMs;
    setDrag({ ...drag, byMs: Math.round(byMs / 60_000) * 60_000 });
  };
  const end = (block: PlanBlock): void => {
    if (!drag || !hand) return;
    setDrag(null);
    if (Math.abs(drag.byMs) < 60_000) return;
    if (drag.kind === 'move') hand.move(block, drag.byMs);
    else hand.stretch(block, drag.byMs);
  };
  const onKey = (block: PlanBlock) => (event: KeyboardEvent) => {
    if (!hand) return;
    const arrow = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (arrow !== 0) {
      if (event.shiftKey) hand.stretch(block, arrow * STEP_MS);
      else hand.move(block, arrow * STEP_MS);
    } else if (event.key === 'p') hand.pin(block);
    else if (event.key === 'Delete') hand.leaveOut(block);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div ref={frame} className="relative h-[34px]">
      {plan.blocks.map((block, i) => {
        const own = drag?.startUtcMs === block.startUtcMs ? drag : null;
        const shiftMs = own?.kind === 'move' ? own.byMs : 0;
        const growMs = own?.kind === 'stretch' ? own.byMs : 0;
        const left = xOf(scale, block.startUtcMs + shiftMs);
        const width = xOf(scale, block.endUtcMs + shiftMs + growMs) - left;
        const words = `${i + 1}: ${block.panelName}, ${clock(block.startUtcMs + shiftMs, zone)} to ${clock(block.endUtcMs + shiftMs + growMs, zone)}`;
        const isPinned = block.runs.some(({ goalId }) => pinned.has(goalId));
        return (
          <button
            key={keys[i]}
            type="button"
            aria-label={hand ? `${words}; arrows move, with shift lengthen, p pins, Delete leaves out` : words}
            title={words}
            className={`absolute top-1 h-[30px] touch-none border-l text-left ${isPinned ? 'border-l-2 border-brass' : 'border-soft'} ${hand ? 'cursor-grab' : ''} ${own ? 'z-10 cursor-grabbing opacity-80' : ''}`}
            style={{ left: `${left}%`, width: `${Math.max(0.2, width)}%` }}
            onFocus={() => mark(block)}
            onPointerEnter={() => mark(block)}
            onPointerDown={begin(block)}
            onPointerMove={go}
            onPointerUp={() => end(block)}
            onPointerCancel={() => setDrag(null)}
            onKeyDown={onKey(block)}
          >
            <span className="absolute left-1 top-0 whitespace-nowrap text-xs text-soft">
              {i + 1}
              {own && ` ${clock(block.startUtcMs + shiftMs, zone)}–${clock(block.endUtcMs + shiftMs + growMs, zone)}`}
            </span>
            {block.runs.map((run, nth) => (
              <span
                key={`${run.goalId} ${nth}`}
                title={`${block.projectName}: ${run.filterLetter} ${run.count} × ${run.exposureSec} s, ${clock(run.startUtcMs, zone)}–${clock(run.endUtcMs, zone)}`}
                className={`absolute bottom-0 h-[14px] border-r border-ground ${filterTexture(run.filterClass)}`}
                style={{
                  left: `${(100 * (run.startUtcMs - block.startUtcMs)) / (block.endUtcMs - block.startUtcMs)}%`,
                  width: `${(100 * (run.endUtcMs - run.startUtcMs)) / (block.endUtcMs - block.startUtcMs)}%`,
                  backgroundColor: filterColour(run.filterLetter),
                }}
              />
            ))}
            {hand && <span aria-hidden className="absolute bottom-0 right-0 h-[14px] w-[8px] cursor-ew-resize" />}
          </button>
        );
      })}
    </div>
  );
}
