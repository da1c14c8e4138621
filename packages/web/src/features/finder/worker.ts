// Ranks the catalogue off the page's own thread, telling how far it is.
import type { Worth, WorthSetting, WorthWish } from '@meridiem/core';
import { rankByWorth } from '@meridiem/core';

export interface RankOrder {
  readonly setting: WorthSetting;
  readonly wish: WorthWish;
}
export type RankReply = { readonly share: number } | { readonly ranked: readonly Worth[]; readonly tookMs: number };

self.onmessage = ({ data }: MessageEvent<RankOrder>): void => {
  const started = performance.now();
  const reply = (message: RankReply): void => self.postMessage(message);
  reply({ share: 0 });
  const ranked = rankByWorth(data.setting, data.wish, (share) => {
    reply({ share });
    return true;
  });
  reply({ ranked: ranked ?? [], tookMs: performance.now() - started });
};
