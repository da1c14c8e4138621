// A walk through the pages by mouse, each click and each field counted, as a person would count them.
import type { Locator, Page } from '@playwright/test';

export class Walk {
  actions = 0;
  readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }

  async click(target: Locator | string): Promise<void> {
    this.actions += 1;
    await (typeof target === 'string' ? this.page.getByRole('button', { name: target }) : target).click();
  }

  /** A field under its label. */
  async fill(target: Locator | string, text: string): Promise<void> {
    this.actions += 1;
    await (typeof target === 'string' ? this.page.getByLabel(target) : target).fill(text);
  }

  /** One of a native list. */
  async select(target: Locator, label: string | RegExp): Promise<void> {
    this.actions += 1;
    const option = target.getByRole('option', { name: label }).first();
    await target.selectOption((await option.getAttribute('value')) ?? { label: (await option.textContent()) ?? '' });
  }

  /** One of our own lists: opening it and choosing. */
  async choose(within: Page | Locator, label: RegExp, option: string | RegExp): Promise<void> {
    await this.click(within.getByRole('button', { name: label }));
    await this.click(this.page.getByRole('option', { name: option }).first());
  }

  /** A value edited in place. */
  async edit(within: Page | Locator, label: string, text: string): Promise<void> {
    await this.click(within.getByRole('button', { name: `${label}: change` }));
    await this.fill(within.getByRole('textbox', { name: label, exact: true }), text);
    await this.page.keyboard.press('Enter');
  }
}
