// Nights lived through with what nobody planned: bad weather, faults, slow steps, hands. A world of its own that shares nothing with
// the review but the planner and the words in which steps are reported.
import { INTERRUPTION_WORDS, LEFT_BY_HAND, WAIT_WORDS } from '../src/night/interruptions.ts';
import type { NightEnd, StepKind } from '../src/night/steps.ts';
import type { NightPlan, NightRequest, RequestedGoal } from '../src/planning/night/night-request.ts';
import { planNight } from '../src/planning/night/plan-night.ts';
import { surveyNight } from '../src/planning/night/survey.ts';
import type { ExposureAt, NightAction, NightRecord } from '../src/planning/review/lost-time.ts';
import type { Random } from '../src/random.ts';
import { normalFrom, pickBelow, seededRandom } from '../src/random.ts';
import { panelChangeSec } from '../src/exposure/time-cost.ts';

/** What a night does to a plan, in seconds from its origin. */
export interface Fate {
  readonly bad: readonly { readonly fromSec: number; readonly toSec: number }[];
  /** Steps take so many times as long as the rig's times say, each drawn around it. */
  readonly slowness: number;
  /** Chance that a try of a step at the target fails, and that a stay can't be had at all. */
  readonly failing: number;
  readonly hopeless: number;
  readonly heldFromSec: number | null;
  readonly heldForSec: number;
  readonly stoppedAtSec: number | null;
}

export interface Lived {
  readonly request: NightRequest;
  readonly plan: NightPlan;
  readonly record: NightRecord;
}

interface PlannedShot {
  readonly goal: RequestedGoal;
  readonly startMs: number;
}

class Broken extends Error {
  readonly why: 'unsafe' | 'held' | 'stopped' | 'hopeless';
  constructor(why: Broken['why']) {
    super(why);
    this.why = why;
  }
}

const [LATE_MS, LATEST_MS, SAFE_HOLD_MS, LEAD_MS] = [600_000, 1_500_000, 1_200_000, 240_000];

export const WITHOUT_TROUBLE: Fate = {
  bad: [],
  slowness: 1,
  failing: 0,
  hopeless: 0,
  heldFromSec: null,
  heldForSec: 0,
  stoppedAtSec: null,
};

export function randomFate(random: Random, lengthSec: number): Fate {
  const bad: { fromSec: number; toSec: number }[] = [];
  for (let sec = 0; sec < lengthSec;) {
    sec += -Math.log(1 - random()) * 4 * 3600;
    const toSec = sec - Math.log(1 - random()) * 0.7 * 3600;
    bad.push({ fromSec: sec, toSec });
    sec = toSec + 1800;
  }
  const isHeld = random() < 0.25;
  return {
    bad,
    slowness: 1 + 0.5 * random(),
    failing: 0.05 * random(),
    hopeless: random() < 0.3 ? 0.1 : 0,
    heldFromSec: isHeld ? random() * lengthSec : null,
    heldForSec: 600 + 3000 * random(),
    stoppedAtSec: random() < 0.1 ? (0.6 + 0.4 * random()) * lengthSec : null,
  };
}

/** A plan carried out under its fate as the runner does it: starts waited for, trouble answered, the rest planned again. */
export function livedNight(request: NightRequest, fate: Fate, seed: number): Lived {
  const plan = planNight(request).plan;
  const life = new Life(request, fate, seededRandom(seed));
  const endedAs = life.through(plan);
  return { request, plan, record: { ...life.record, endedAs } };
}

class Life {
  readonly record = {
    actions: [] as NightAction[],
    taken: [] as ExposureAt[],
    madeAgain: [] as { fromUtcMs: number; exposures: ExposureAt[] }[],
    givenUp: [] as { panelId: string; words: string }[],
  };
  readonly #request: NightRequest;
  readonly #fate: Fate;
  readonly #random: Random;
  readonly #originMs: number;
  readonly #endMs: number;
  readonly #left = new Set<string>();
  readonly #done = new Map<string, number>();
  #nowMs: number;
  #heldYet = false;

  constructor(request: NightRequest, fate: Fate, random: Random) {
    const { table } = surveyNight(request)!;
    this.#request = request;
    this.#fate = fate;
    this.#random = random;
    this.#originMs = table.startUtcMs;
    this.#endMs = table.startUtcMs + (table.length - 1) * table.stepMs;
    this.#nowMs = table.startUtcMs;
  }

  through(plan: NightPlan): NightEnd {
    let queue = this.#shots(plan);
    let [at, filter, isPlannedAgain] = ['', '', true];
    while (queue.length > 0) {
      const [shot] = queue;
      try {
        const isElsewhere = shot.goal.panelId !== at;
        this.#wait(shot.startMs - (isElsewhere ? LEAD_MS : 0));
        if (this.#nowMs > shot.startMs + LATE_MS && isPlannedAgain) {
          queue = this.#again();
          isPlannedAgain = !queue.some(({ startMs }) => startMs < this.#nowMs - LATE_MS);
          continue;
        }
        if (isElsewhere) this.#arrive(shot, at);
        else if (shot.goal.filterId !== filter) this.#step('filter', this.#filterSec(shot, filter));
        [at, filter] = [shot.goal.panelId, shot.goal.filterId];
        this.#hold(shot.startMs);
        queue = queue.slice(1);
        if (this.#nowMs <= shot.startMs + LATEST_MS) this.#expose(shot);
      } catch (error) {
        if (!(error instanceof Broken)) throw error;
        [at, filter, isPlannedAgain] = ['', '', true];
        const end = this.#answer(error, shot);
        if (end) return end;
        queue = this.#again();
      }
    }
    this.#quick('close roof', 40);
    return 'finished';
  }

  #shots({ blocks }: Pick<NightPlan, 'blocks'>): PlannedShot[] {
    return blocks
      .flatMap(({ runs }) => runs)
      .flatMap(({ goalId, exposureStartsUtcMs }) => {
        const goal = this.#request.goals.find(({ id }) => id === goalId)!;
        return exposureStartsUtcMs.map((startMs) => ({ goal, startMs }));
      })
      .sort((a, b) => a.startMs - b.startMs);
  }

  /** The rest of the night from its request, with what has been done. */
  #again(): PlannedShot[] {
    const doneOf = (id: string): number => this.#done.get(id) ?? 0;
    const bans = [...this.#left].map((panelId) => ({ id: panelId, kind: 'ban' as const, panelId }));
    const { kept: _kept, ...request } = this.#request;
    const shots = this.#shots(
      planNight({
        ...request,
        fromUtcMs: this.#nowMs + 60_000,
        goals: request.goals.map((goal) => ({
          ...goal,
          toPlan: goal.toPlan - doneOf(goal.id),
          done: goal.done + doneOf(goal.id),
        })),
        wishes: [...(request.wishes ?? []), ...bans],
      }).plan,
    );
    const exposures = shots.map(({ goal, startMs }) => ({ goalId: goal.id, startUtcMs: startMs }));
    this.record.madeAgain.push({ fromUtcMs: this.#nowMs, exposures });
    return shots;
  }

  #secNow(): number {
    return (this.#nowMs - this.#originMs) / 1000;
  }

  #report(action: Partial<NightAction> & Pick<NightAction, 'kind' | 'startUtcMs'>): void {
    this.record.actions.push({ words: '', endUtcMs: this.#nowMs, outcome: 'done', remark: null, ...action });
  }

  /** What breaks off a step that ends at a moment, and when. */
  #breaks(untilSec: number): { why: 'unsafe' | 'held' | 'stopped'; atSec: number } | null {
    const nowSec = this.#secNow();
    const { bad, heldFromSec, stoppedAtSec } = this.#fate;
    const weather = bad.find(({ fromSec, toSec }) => toSec > nowSec && fromSec < untilSec);
    const all = [
      ...(weather ? [{ why: 'unsafe' as const, atSec: Math.max(nowSec, weather.fromSec) }] : []),
      ...(heldFromSec !== null && !this.#heldYet && heldFromSec < untilSec ? [{ why: 'held' as const, atSec: Math.max(nowSec, heldFromSec) }] : []), // prettier-ignore
      ...(stoppedAtSec !== null && stoppedAtSec < untilSec ? [{ why: 'stopped' as const, atSec: Math.max(nowSec, stoppedAtSec) }] : []), // prettier-ignore
    ];
    return all.sort((a, b) => a.atSec - b.atSec)[0] ?? null;
  }

  /** @throws Broken where the sky, or a person, ends it before it is done */
  #step(kind: StepKind, sec: number, isRough = true): void {
    const startUtcMs = this.#nowMs;
    const { slowness, failing } = this.#fate;
    const lastsSec = isRough ? sec * slowness * Math.exp(0.2 * normalFrom(this.#random)) : sec;
    const broken = this.#breaks(this.#secNow() + lastsSec);
    if (broken) {
      this.#nowMs = this.#originMs + broken.atSec * 1000;
      this.#report({ kind, startUtcMs, outcome: 'interrupted', remark: INTERRUPTION_WORDS[broken.why] });
      throw new Broken(broken.why);
    }
    this.#nowMs += 1000 * lastsSec;
    const fails = isRough && kind !== 'download' && this.#random() < failing;
    this.#report({ kind, startUtcMs, outcome: fails ? 'failed' : 'done', remark: fails ? 'not done in time' : null });
    if (fails) this.#step(kind, sec);
  }

  #quick(kind: StepKind, sec: number): void {
    const startUtcMs = this.#nowMs;
    this.#nowMs += 1000 * sec;
    this.#report({ kind, startUtcMs });
  }

  #wait(untilMs: number): void {
    if (untilMs > this.#nowMs) this.#step('wait', (untilMs - this.#nowMs) / 1000, false);
  }

  #hold(untilMs: number): void {
    if (untilMs > this.#nowMs + 5000) this.#step('hold', (untilMs - this.#nowMs) / 1000, false);
  }

  #filterSec({ goal }: PlannedShot, before: string): number {
    const { costs } = this.#request.rig;
    const known = [goal.filterId, before].every(
      (id) => this.#request.filters.find((one) => one.id === id)?.offsetKnown,
    );
    return costs.filterChangeSec + (known ? 0 : costs.autofocusSec);
  }

  #arrive({ goal }: PlannedShot, from: string): void {
    const { rig, panels } = this.#request;
    const place = (id: string) => panels.find((panel) => panel.id === id)?.position ?? null;
    const isHopeless = this.#random() < this.#fate.hopeless;
    this.#step('slew', panelChangeSec(rig.costs, place(from), place(goal.panelId)!) - 40);
    const startUtcMs = this.#nowMs;
    if (isHopeless) {
      this.#nowMs += 120_000;
      this.#report({ kind: 'solve', startUtcMs, outcome: 'failed', remark: `no solution at ${goal.panelId}` });
      this.#left.add(goal.panelId);
      this.record.givenUp.push({ panelId: goal.panelId, words: `no solution at ${goal.panelId}` });
      throw new Broken('hopeless');
    }
    this.#step('guide', 40);
  }

  #expose({ goal }: PlannedShot): void {
    const { costs } = this.#request.rig;
    const { settings } = goal;
    const startUtcMs = this.#nowMs;
    this.#step('expose', settings.exposureSec, false);
    this.record.taken.push({ goalId: goal.id, startUtcMs });
    this.#done.set(goal.id, (this.#done.get(goal.id) ?? 0) + 1);
    this.#step('download', costs.downloadSec * (settings.shareRead ?? 1) + settings.pauseSec);
    const ditherSec = settings.ditherEvery > 0 ? costs.ditherSec / settings.ditherEvery : 0;
    const focusSec =
      costs.autofocusEveryMin > 0 ? (costs.autofocusSec * settings.exposureSec) / (costs.autofocusEveryMin * 60) : 0;
    this.#step('dither', ditherSec + focusSec);
  }

  /** @returns how the night ended, where it did */
  #answer({ why }: Broken, { goal }: PlannedShot): NightEnd | null {
    if (why === 'hopeless') return null;
    this.#quick('stow', 60);
    if (why === 'stopped') return 'stopped';
    const startUtcMs = this.#nowMs;
    if (why === 'held') {
      this.#heldYet = true;
      this.#nowMs += 1000 * this.#fate.heldForSec;
      this.#report({ kind: 'wait', startUtcMs, words: WAIT_WORDS.held });
      if (this.#random() < 0.3) {
        this.#left.add(goal.panelId);
        this.#report({
          kind: 'slew',
          startUtcMs: this.#nowMs,
          outcome: 'interrupted',
          remark: INTERRUPTION_WORDS.left,
        });
        this.record.givenUp.push({ panelId: goal.panelId, words: LEFT_BY_HAND });
      }
      return null;
    }
    this.#quick('close roof', 40);
    const waitedFromMs = this.#nowMs;
    for (let span = this.#badNow(); span; span = this.#badNow())
      this.#nowMs = this.#originMs + Math.ceil(1000 * span.toSec) + SAFE_HOLD_MS;
    this.#nowMs = Math.min(this.#nowMs, this.#endMs);
    this.#report({ kind: 'wait', startUtcMs: waitedFromMs, words: `${WAIT_WORDS.safety} for 20 minutes` });
    if (this.#nowMs >= this.#endMs) return 'closed early';
    this.#quick('open roof', 40);
    this.#quick('unstow', 20);
    return null;
  }

  #badNow(): Fate['bad'][number] | undefined {
    const nowSec = this.#secNow();
    return this.#fate.bad.find(({ fromSec, toSec }) => fromSec <= nowSec && nowSec < toSec + SAFE_HOLD_MS / 1000);
  }
}

/** A hand change in some nights: a panel of the plan left out, or held back. */
export function handsOf(request: NightRequest, random: Random): NightRequest {
  if (random() < 0.6) return request;
  const { blocks } = planNight(request).plan;
  if (blocks.length === 0) return request;
  const { panelId, startUtcMs } = blocks[pickBelow(random, blocks.length)];
  const wish =
    random() < 0.5
      ? ({ id: 'hand', kind: 'ban', panelId } as const)
      : ({ id: 'hand', kind: 'not_before', panelId, utcMs: startUtcMs + 3_600_000 } as const);
  return { ...request, wishes: [wish] };
}
