// The simulated observatory's own clock: as fast as asked, standing still while something heavy is worked out.

export interface ObservatoryClock {
  nowUtcMs(): number;
  readonly speed: number;
  /** Seconds of observatory time that have passed for each second of real time since it was last set. */
  trueSpeed(): number;
  set(change: { readonly utcMs?: number; readonly speed?: number }): void;
  /** Goes on by so much at once, while it is held. */
  advance(ms: number): void;
  /** Stands still until the returned function is called. */
  hold(): () => void;
}

/** @param realNowMs monotonic milliseconds */
export function observatoryClock(realNowMs: () => number, startUtcMs: number): ObservatoryClock {
  let [baseUtcMs, baseRealMs, speed, holds] = [startUtcMs, realNowMs(), 1, 0];
  let [setUtcMs, setRealMs] = [startUtcMs, baseRealMs];
  const now = (): number => (holds > 0 ? baseUtcMs : baseUtcMs + (realNowMs() - baseRealMs) * speed);
  const rebase = (utcMs: number): void => {
    baseUtcMs = utcMs;
    baseRealMs = realNowMs();
  };
  return {
    nowUtcMs: now,
    get speed() {
      return speed;
    },
    trueSpeed: () => {
      const realMs = realNowMs() - setRealMs;
      return realMs <= 0 ? speed : (now() - setUtcMs) / realMs;
    },
    set(change) {
      rebase(change.utcMs ?? now());
      speed = change.speed ?? speed;
      [setUtcMs, setRealMs] = [baseUtcMs, baseRealMs];
    },
    advance(ms) {
      rebase(now() + ms);
    },
    hold() {
      rebase(now());
      holds += 1;
      let isHeld = true;
      return () => {
        if (!isHeld) return;
        isHeld = false;
        holds -= 1;
        if (holds === 0) baseRealMs = realNowMs();
      };
    },
  };
}
