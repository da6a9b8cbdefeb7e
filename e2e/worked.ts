import type { Locator, Page } from '@playwright/test';
import { expect } from './desk.js';

/** Begins a worked column. */
export async function workOut(page: Page, name: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Work out', exact: true }).click();
  await page.getByRole('menuitem', { name }).click();
  await expect(page.getByLabel('Title of the column')).toBeVisible();
}
/** From a worked column back to the table. */
export const back = (page: Page): Promise<void> =>
  page.getByRole('button', { name: 'Table', exact: true }).click();
/** The steps for the picked learner. */
export const steps = (page: Page): Locator =>
  page.getByRole('complementary', { name: 'What the column comes to' });
export const pick = (page: Page, name: string): Promise<void> =>
  page.getByRole('listbox', { name: 'Learners' }).getByRole('option', { name }).click();

/** The cells of a column, from the first row to the last. Goes there, since only what is in sight is drawn. */
export async function expectColumn(page: Page, title: string, texts: readonly string[]): Promise<void> {
  const grid = page.getByRole('grid');
  await grid.focus();
  await grid.press('Control+Home');
  for (let n = 0; n < 60; n++) {
    await expect(grid).toHaveAttribute('aria-activedescendant', `cell-0-${n}`);
    const head = page.locator(`[role="columnheader"][aria-colindex="${n + 2}"]`);
    if ((await head.innerText()).split('\n')[0]?.trim() === title) {
      for (const [row, text] of texts.entries())
        await expect(page.locator(`#cell-${row}-${n} .text`)).toHaveText(text);
      return;
    }
    await grid.press('ArrowRight');
  }
  throw new Error(`There is no column ${title}.`);
}
