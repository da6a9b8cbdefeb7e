import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect } from './desk.js';

/** What axe finds on a family's page, and what is wider than the phone. */
export async function expectFits(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
}

/** Puts another question into a form that is open at the desk. */
export async function ask(page: Page, kind: RegExp, words: string): Promise<void> {
  await page.getByRole('button', { name: 'Ask for …' }).click();
  await page.getByRole('menuitem', { name: kind }).click();
  const asks = (label: string) => page.getByLabel(label, { exact: true });
  await asks('What it asks').or(asks('What people agree to')).fill(words);
}

/** Publishes the form that is open at the desk, and returns its address here. */
export async function publish(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Publish the form' }).click();
  await expect(page.getByText('Open: 0 answers')).toBeVisible();
  const link = await page.getByRole('link', { name: /\/f\// }).getAttribute('href');
  return new URL(new URL(link!).pathname, page.url()).href;
}
