// A night that may end early, in words.
import type { EarlyEnds } from '@meridiem/contract';

export const chanceWords = (chancePercent: number): string =>
  chancePercent === 0 ? 'no early end' : `an end within the hour in ${chancePercent} of 100`;

/** What the safe order costs and brings. */
export function priceWords(price: EarlyEnds['price']): string {
  if (!price) return 'The order is the one that holds most in a night that lasts.';
  const [lost, gain] = [shareWords(price.lostShare), shareWords(price.gainShare)];
  if (gain === null && lost === null) return 'The order that holds most in a night that lasts is the safest here too.';
  const costs = lost === null ? 'costs nothing in a night that lasts' : `costs ${lost} in a night that lasts`;
  return `The order ${costs}${gain === null ? '' : `, and ${gain} more is expected to be held`}.`;
}

/** "0.4 %", "12 %"; null below a twentieth of a percent. */
function shareWords(share: number): string | null {
  const percent = 100 * share;
  if (percent < 0.05) return null;
  return `${percent < 10 ? percent.toFixed(1) : Math.round(percent)} %`;
}
