import { AxeBuilder } from '@axe-core/playwright';
import { test as base, expect, type Locator, type Page } from '@playwright/test';

/** A page that fails its test where the browser reports an error, such as a breach of the content security policy. */
export const test = base.extend<{ errors: string[] }>({
  errors: [
    async ({ page }, use) => {
      const errors: string[] = [];
      page.on('pageerror', (error) => errors.push(error.message));
      page.on('console', (message) => {
        // Refused requests are what the tests of bad input are about; a blocked script is the test driver's own, in a
        // message's sandboxed frame.
        if (
          message.type() === 'error' &&
          !/status of (?:4\d\d|503)|^Blocked script execution/.test(message.text())
        )
          errors.push(message.text());
      });
      await use(errors);
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };

/** Signs in on the page where one is asked to. */
export async function signInHere(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Fill in the demo account' }).click();
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
}

export async function signIn(page: Page): Promise<void> {
  await page.goto('/');
  await signInHere(page);
  await expect(page.getByRole('heading', { name: 'Folios' })).toBeVisible();
}

export const station = (page: Page, name: string): Promise<void> =>
  page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name, exact: true }).click();

/**
 * WCAG 2.0 to 2.2, levels A and AA, as axe-core checks them.
 *
 * @param toScale what stands at its true size, beside a control of full size that does the same (WCAG 2.2, 2.5.8, Equivalent).
 */
export async function expectAccessible(page: Page, toScale?: string): Promise<void> {
  const axe = (): AxeBuilder =>
    new AxeBuilder({ page }).withTags([
      'wcag2a',
      'wcag2aa',
      'wcag21a',
      'wcag21aa',
      'wcag22aa',
      'best-practice',
    ]);
  const { violations } = toScale
    ? {
        violations: [
          ...(await axe().exclude(toScale).analyze()).violations,
          ...(await axe().include(toScale).disableRules('target-size').analyze()).violations,
        ],
      }
    : await axe().analyze();
  expect(
    violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .map((node) => `${node.html.slice(0, 160)} ${node.any[0]?.message ?? ''}`)
          .slice(0, 3)
          .join(' | ')}`,
    ),
  ).toEqual([]);
}

/** Waits until all is saved. What was typed just now is on the screen first: until then it says that the text before is saved. */
export async function saved(page: Page): Promise<void> {
  await page.evaluate(
    () => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))),
  );
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
}

/** Opens a part of a sentence and takes what stands there under a name. */
export async function choose(part: Locator, option: string): Promise<void> {
  await part.click();
  await part.page().getByRole('option', { name: option }).first().click();
}
