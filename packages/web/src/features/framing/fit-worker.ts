// Fits panels to subjects off the page's own thread.
import type { Alternative, Fit, FitWish } from '@meridiem/core';
import { alternatives, fitPanels } from '@meridiem/core';

export interface FitReply {
  readonly fit: Fit | null;
  readonly others: readonly Alternative[];
}

const LAYOUTS = [
  [1, 1],
  [1, 2],
  [2, 1],
  [2, 2],
] as const;

self.onmessage = ({ data: wish }: MessageEvent<FitWish>): void => {
  const reply: FitReply = { fit: fitPanels(wish), others: alternatives(wish, LAYOUTS) };
  self.postMessage(reply);
};
