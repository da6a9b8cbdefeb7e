import { chromium, type Browser, type Page } from 'playwright-core';

/** Debian's Chromium. */
export const CHROMIUM = '/usr/bin/chromium';

/** Does something in a Chromium in which the demo account has signed in, and closes it afterwards. */
export async function inChromium<T>(url: string, work: (page: Page) => Promise<T>): Promise<T> {
  const browser = await launchChromium();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(url);
    await page.getByRole('button', { name: 'Fill in the demo account' }).click();
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    return await work(page);
  } finally {
    await browser.close();
  }
}

export const launchChromium = (): Promise<Browser> =>
  chromium.launch({
    executablePath: CHROMIUM,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
