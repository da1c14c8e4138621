// What panels are called: the same for a project's panels and for those written out of a framing.

/** "Veil in hydrogen, panel 2"; a single panel is called like the whole.
 * @param number from 1 */
export const panelName = (whole: string, number: number, panels: number): string =>
  panels === 1 ? whole : `${whole}, panel ${number}`;

/** What a panel is called where its project is known: "panel 2", or a name of its own. */
export function panelWithin(whole: string, name: string): string {
  const rest = name.startsWith(whole) ? name.slice(whole.length) : '';
  return /^,? (panel )?\d+$/.test(rest) ? `panel ${/\d+$/.exec(rest)![0]}` : name;
}
