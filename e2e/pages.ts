// What the browser tests do again and again.
import type { Page } from '@playwright/test';
import { expect } from '@playwright/test';
import { stackState } from './stack.ts';

export const urlOf = (path: string): string => stackState().url + path;

/** Enters as one of the demo's people. */
export async function enterAs(page: Page, name: string, path = '/tonight'): Promise<void> {
  await page.goto(urlOf(path));
  await page.getByRole('button', { name: new RegExp(name) }).click();
  await expect(page.getByRole('navigation', { name: 'Pages' })).toBeVisible();
  if (path !== '/tonight') await page.goto(urlOf(path));
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
}

/** The section of a rig on a night's page. */
export const rigSection = (page: Page, name: RegExp) => page.getByRole('region', { name });
