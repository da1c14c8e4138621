// Hand changes of a working plan: planned anew in the page at once, saved beside; the server's own plan takes over when it is there.
import type { NightSky, RigPlan } from '@meridiem/contract';
import { changeByHand, readPlanning, shownWishes } from '@meridiem/contract';
import type { NightWish } from '@meridiem/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { call, wordsOf } from '../../app/api.ts';
import { useNotice } from '../../app/notices.tsx';
import { underWay } from '../../app/under-way.ts';
import type { HandStep } from './hand-changes.ts';
import { keptRunsOf, wishesAfter } from './hand-changes.ts';
import type { Explained, PlannerOrder, PlannerReply, Replanned } from './planner-worker.ts';

/** The server plans the same problem; it waits until the page has had the machine for its own. */
const SETTLE_MS = 400;

export interface Replan {
  /** The plan to show: the server's, or the page's own while it is ahead. */
  readonly plan: RigPlan;
  readonly isAhead: boolean;
  readonly change: (step: HandStep) => void;
  readonly ask: (goalId: string, utcMs: number) => void;
  readonly answer: Explained | null;
  /** Goals that can be asked about. */
  readonly goals: readonly { readonly id: string; readonly words: string }[];
}

/** A hand may move on before the plan of its last change is shown: what it pins again takes the place of what it has just pinned. */
function overPending(step: HandStep, wishes: readonly NightWish[], shown: RigPlan): HandStep {
  const pending = wishes.filter(
    (wish) =>
      wish.kind === 'pin' &&
      !shown.wishes.some(({ id }) => id === wish.id) &&
      step.changes.some((change) => change.kind === 'pin' && change.goalId === wish.goalId),
  );
  return { ...step, replaces: [...step.replaces, ...pending.map(({ id }) => id)] };
}

/** @param mayEdit whether this is the working plan of an open night and the viewer coordinates */
export function useReplan(server: RigPlan, sky: NightSky, mayEdit: boolean): Replan {
  const { nightDate } = sky;
  const notice = useNotice();
  const queryClient = useQueryClient();
  const { data: planning } = useQuery({
    queryKey: ['night', 'planning', server.rigId, nightDate],
    queryFn: ({ signal }) => call(readPlanning, { params: { id: server.rigId, nightDate }, signal }),
    enabled: mayEdit,
  });
  const worker = useRef<Worker | null>(null);
  const turn = useRef(0);
  const wishes = useRef<readonly NightWish[]>([]);
  /** Changes are saved one after the other, so that each meets what the one before has left. */
  const saving = useRef<Promise<unknown>>(Promise.resolve());
  const startedMs = useRef(0);
  const [planned, setPlanned] = useState<{
    readonly by: Replanned;
    readonly over: RigPlan;
    readonly wishes: readonly NightWish[];
  } | null>(null);
  const latest = useRef(server);
  useEffect(() => {
    latest.current = server;
  }, [server]);
  // What was planned here is shown until the server has planned the same.
  const isAhead = planned?.over === server;
  const ahead = isAhead ? planned.by : null;
  const [answer, setAnswer] = useState<Explained | null>(null);

  useEffect(() => {
    if (!mayEdit) return;
    const own = new Worker(new URL('./planner-worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.onmessage = ({ data }: MessageEvent<PlannerReply>) => {
      if (data.kind === 'why') setAnswer(data);
      else if (data.turn === turn.current) setPlanned({ by: data, over: latest.current, wishes: wishes.current });
    };
    return () => own.terminate();
  }, [mayEdit]);
  useEffect(() => {
    if (!planning) return;
    wishes.current = planning.request.wishes ?? [];
    const order: PlannerOrder = { kind: 'setting', sky, ...planning };
    worker.current?.postMessage(order);
    // The sky of a night does not change; a new object of it is the same sky.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [planning, nightDate, mayEdit]);
  useLayoutEffect(() => {
    if (!ahead) return;
    const { stage } = ahead;
    // The task after the next frame: what was planned is on the screen by then.
    const frame = requestAnimationFrame(() =>
      setTimeout(() => performance.measure(`replan ${stage}`, { start: startedMs.current, end: performance.now() })),
    );
    return () => cancelAnimationFrame(frame);
  }, [ahead]);

  const plan = useMemo(
    (): RigPlan =>
      planned?.over === server
        ? {
            ...server,
            blocks: planned.by.blocks,
            value: planned.by.value,
            exposingHours: planned.by.exposingHours,
            overheadHours: planned.by.overheadHours,
            wishes: shownWishes(planned.wishes, planning?.names ?? [], planned.by.broken),
          }
        : server,
    [server, planned, planning],
  );
  /** Once the server's own plan is here, it is the one to show, also where an undo has made it what it was. */
  const settle = useCallback(
    async (own: number): Promise<void> => {
      await queryClient.invalidateQueries({ queryKey: ['night'] });
      if (turn.current === own) setPlanned(null);
    },
    [queryClient],
  );
  const change = useCallback(
    (asked: HandStep): void => {
      startedMs.current = performance.now();
      const step = overPending(asked, wishes.current, plan);
      const own = ++turn.current;
      if (planning) {
        wishes.current = wishesAfter(wishes.current, step);
        const order: PlannerOrder = {
          kind: 'change',
          turn: own,
          wishes: wishes.current,
          kept: keptRunsOf(plan.blocks),
        };
        worker.current?.postMessage(order);
      }
      saving.current = saving.current
        .then(() => call(changeByHand, { params: { id: server.rigId, nightDate }, body: step }))
        .catch((error: unknown) => {
          setPlanned(null);
          notice(wordsOf(error), true);
        })
        .finally(() => setTimeout(() => void settle(own), SETTLE_MS));
      void underWay(saving.current);
    },
    [planning, plan, server.rigId, nightDate, notice, settle],
  );
  const ask = useCallback((goalId: string, utcMs: number): void => {
    const order: PlannerOrder = { kind: 'why', goalId, utcMs };
    worker.current?.postMessage(order);
  }, []);
  const goals = useMemo(
    () =>
      (planning?.names ?? [])
        .toSorted((a, b) => a.panelName.localeCompare(b.panelName, 'en', { numeric: true }))
        .map((name) => ({ id: name.goalId, words: `${name.panelName}, ${name.filterLetter}` })),
    [planning],
  );
  return { plan, isAhead, change, ask, answer, goals };
}
