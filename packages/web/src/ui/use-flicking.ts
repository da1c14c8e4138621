import { useRef, useState } from 'react';

/** Faster than anyone looks at pictures, and slower than a flick of the wheel or the bar. */
const FLICK_PX_PER_SEC = 2200;
/** Speed is taken over at least so long. */
const OVER_MS = 60;

interface Scrolled {
  readonly isScrolling: boolean;
  readonly scrollOffset: number | null;
}

/** Whether a list is scrolled past too fast to be looked at.
 * @returns that, and what to call with each change of the list's place */
export function useFlicking(): [boolean, (list: Scrolled) => void] {
  const [isFlicking, setIsFlicking] = useState(false);
  const from = useRef<{ px: number; ms: number } | null>(null);
  const onScrolled = ({ isScrolling, scrollOffset }: Scrolled): void => {
    const [px, ms] = [scrollOffset ?? 0, performance.now()];
    if (!isScrolling) {
      from.current = null;
      setIsFlicking(false);
      return;
    }
    from.current ??= { px, ms };
    const passedMs = ms - from.current.ms;
    if (passedMs < OVER_MS) return;
    setIsFlicking((1000 * Math.abs(px - from.current.px)) / passedMs > FLICK_PX_PER_SEC);
    from.current = { px, ms };
  };
  return [isFlicking, onScrolled];
}
