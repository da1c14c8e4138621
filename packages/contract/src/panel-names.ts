// What panels are called: the same for a project's panels and for those written out of a framing.

/** "Veil in hydrogen, panel 2"; a single panel is called like the whole.
 * @param number from 1 */
export const panelName = (whole: string, number: number, panels: number): string =>
  panels === 1 ? whole : `${whole}, panel ${number}`;
