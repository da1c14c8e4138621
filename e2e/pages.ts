/// <reference lib="dom" />
// What the browser tests do again and again.
import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect } from '@playwright/test';
import { stackState } from './stack.ts';

export const urlOf = (path: string): string => stackState().url + path;

/** Enters as one of the demo's people. */
export async function enterAs(page: Page, name: string, path = '/tonight'): Promise<void> {
  await page.goto(urlOf(path));
  await page.getByRole('button', { name: new RegExp(name) }).click();
  await expect(page.getByRole('button', { name: 'Search and commands' })).toBeVisible();
  if (path !== '/tonight') await page.goto(urlOf(path));
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
}

/** The section of a rig on a night's page. */
export const rigSection = (page: Page, name: RegExp) => page.getByRole('region', { name });

/** What keeps people out, by the rules of accessibility: serious and critical faults, each with the first places.
 * @param rules to look at; all where left out */
export async function seriousFaults(page: Page, rules?: string[]): Promise<string[]> {
  // One frame only, and only what fails is described: a third of the time.
  const builder = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  const { violations } = await (rules ? builder.withRules(rules) : builder).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .slice(0, 3)
          .map((node) => node.html.slice(0, 140))
          .join(' | ')}`,
    );
}

/** Tabs until something with this name has the focus. */
export async function tabTo(page: Page, name: RegExp, most = 90): Promise<void> {
  for (let i = 0; i < most; i++) {
    await page.keyboard.press('Tab');
    const label = await page.evaluate(() => {
      const element = document.activeElement;
      const labelled =
        element instanceof HTMLInputElement || element instanceof HTMLSelectElement
          ? element.labels?.[0]?.textContent
          : '';
      return `${element?.getAttribute('aria-label') ?? ''} ${labelled ?? ''} ${element?.textContent ?? ''}`.trim();
    });
    if (name.test(label)) return;
  }
  throw new Error(`nothing named ${name} is reached by the keyboard`);
}

/** Chooses from one of our own lists: "State: Draft" opens, the option is clicked. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^${label}: `) }).click();
  await page.getByRole('option', { name: option }).first().click();
  await expect(page.getByRole('button', { name: new RegExp(`^${label}: `) })).toHaveAccessibleName(
    typeof option === 'string' ? `${label}: ${option}` : option,
  );
}
