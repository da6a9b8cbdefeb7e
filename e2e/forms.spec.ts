import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';
import { ask, expectFits, publish } from './web-forms.js';

/** The smallest picture that readers take: one point. */
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

test('a form is made, published, answered on a phone with the keyboard alone, and its answers are on the roll', async ({
  page,
  browser,
}) => {
  test.setTimeout(200_000);
  await signIn(page);
  await page.getByLabel('Title').fill('Sailing club');
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await station(page, 'Roll');
  await page.getByRole('link', { name: 'Let people answer a form of your own.' }).click();
  await page.getByRole('button', { name: 'Begin a form' }).click();
  const margin = page.getByRole('complementary', { name: 'About the form' });
  await margin.getByLabel('Title', { exact: true }).fill('Who sails with us?');
  // What is written is seen at once, as families see it.
  const seen = page.frameLocator('iframe[title="The form as people see it"]');
  await expect(seen.getByRole('heading', { level: 1 })).toHaveText('Who sails with us?');

  await ask(page, /^a name/, 'Who are you?');
  await ask(page, /^an email address/, 'Guardian email');
  await ask(page, /^one of several/, 'Have you sailed before?');
  const how = margin.getByRole('group', { name: 'How it is answered' });
  await how.getByRole('button', { name: /^whether it has to be answered/ }).click();
  await page.getByRole('option', { name: 'has to be answered' }).click();
  await ask(page, /^several lines of text/, 'Where was that?');
  const when = margin.getByRole('group', { name: 'When it is there' });
  await when.getByRole('button', { name: /^when it stands/ }).click();
  await page.getByRole('option', { name: /^only if/ }).click();
  await when.getByRole('button', { name: /^whose value is looked at/ }).click();
  await page.getByRole('option', { name: 'Have you sailed before?' }).click();
  await when.getByRole('button', { name: /^what it is compared with/ }).click();
  await page.getByRole('option', { name: 'Yes', exact: true }).click();
  await expect(seen.getByLabel('Where was that?')).toHaveCount(0);
  await seen.getByLabel('Yes', { exact: true }).check();
  await expect(seen.getByLabel('Where was that?')).toBeVisible();
  await ask(page, /^a file/, 'A picture of you');
  // The line that has the focus is moved with the keyboard.
  const line = page.getByRole('button', { name: /^\d* ?A picture of you a file/ });
  await line.focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(
    page.getByRole('list', { name: 'What the form asks' }).getByRole('listitem').nth(3),
  ).toContainText('A picture of you');
  await page.keyboard.press('Control+z');
  await expect(
    page.getByRole('list', { name: 'What the form asks' }).getByRole('listitem').nth(4),
  ).toContainText('A picture of you');
  await saved(page);
  await expectAccessible(page);
  const link = await publish(page);

  // A phone of 320 pixels, and nothing but its keyboard.
  const phone = await browser.newContext({ viewport: { width: 320, height: 640 } });
  const parent = await phone.newPage();
  await parent.goto(link);
  await expect(parent.getByRole('heading', { level: 1 })).toHaveText('Who sails with us?');
  await expectFits(parent);
  await parent.getByRole('button', { name: 'Send the answers' }).focus();
  await parent.keyboard.press('Enter');
  await expect(parent.getByText('2 answers need another look.')).toHaveCount(0);
  await expect(parent.getByRole('alert')).toContainText('need another look');
  // The first one that is wrong has the focus.
  await expect(parent.getByLabel('First name')).toBeFocused();
  await expectFits(parent);
  await parent.keyboard.type('Wilhelmina Theodora Alexandrina');
  await parent.keyboard.press('Tab');
  await parent.keyboard.type('van der Veldt-Ængström');
  await parent.keyboard.press('Tab');
  await parent.keyboard.type('veldt@families.example');
  await parent.keyboard.press('Tab');
  await parent.keyboard.press('Space');
  await expect(parent.getByLabel('Where was that?')).toBeVisible();
  await parent.keyboard.press('Tab');
  await parent.keyboard.type('On the Mürz');
  // What was written is there again when the page is opened anew.
  await parent.reload();
  await expect(parent.getByLabel('Where was that?')).toHaveValue('On the Mürz');
  await parent.getByLabel('Add a file').setInputFiles({ name: 'me.png', mimeType: 'image/png', buffer: PNG });
  await expect(parent.getByRole('listitem')).toContainText('me.png');
  await expectFits(parent);
  // Without a connection nothing is lost.
  await phone.setOffline(true);
  await parent.getByRole('button', { name: 'Send the answers' }).click();
  await expect(parent.getByRole('alert')).toContainText('There is no connection just now');
  await phone.setOffline(false);
  await parent.getByRole('button', { name: 'Send the answers' }).click();
  await expect(parent.getByRole('heading', { level: 1 })).toHaveText('Thank you. Your answers have arrived.');
  await expectFits(parent);
  expect(await phone.cookies()).toEqual([]);
  await phone.close();

  await expect(page.getByText('Open: 1 answer')).toBeVisible();
  await page
    .getByRole('navigation', { name: 'Parts of the station' })
    .getByRole('link', { name: 'Table' })
    .click();
  const grid = page.getByRole('grid');
  await expect(grid).toContainText('van der Veldt-Ængström');
  await expect(grid).toContainText('On the Mürz');
  const about = page.getByRole('complementary', { name: 'About the roll' });
  await expect(about).toContainText('Answered Sailing club');
  await expect(about.getByRole('link', { name: 'me.png' })).toBeVisible();
  await expectAccessible(page);

  // Closed, it says so.
  await station(page, 'Roll');
  await page.getByRole('link', { name: 'Forms (1)' }).click();
  await page.getByRole('button', { name: 'Close the form' }).click();
  await expect(page.getByText('Closed: 1 answer')).toBeVisible();
  const late = await browser.newPage();
  await late.goto(link);
  await expect(late.getByRole('heading', { level: 1 })).toContainText('The school has closed this form.');
  await late.close();
});

test('a form speaks the language of who answers, from right to left where that is how it is written', async ({
  page,
  browser,
}) => {
  await signIn(page);
  const title = 'Two languages';
  const folio = (await (
    await page.request.post('/api/folios', { data: { title }, headers: await csrf(page) })
  ).json()) as { id: string };
  const content = {
    name: title,
    languages: ['en-GB', 'ar', 'de'],
    title: { 'en-GB': 'Trip', ar: 'رحلة', de: 'Ausflug' },
    items: [
      {
        kind: 'short',
        id: 'name01',
        required: true,
        label: { 'en-GB': 'Name', ar: 'الاسم', de: 'Name des Kindes' },
      },
      { kind: 'section', id: 'sect01', title: { 'en-GB': 'Only English' } },
    ],
    terms: {},
  };
  const post = async (path: string, data: object): Promise<unknown> =>
    (await page.request.post(`/api/folios/${folio.id}${path}`, { data, headers: await csrf(page) })).json();
  const writing = (await post('/writings', { kind: 'form', content })) as { id: string };
  const { doors } = (await post(`/forms/${writing.id}/publish`, { version: 1 })) as {
    doors: { link: string }[];
  };
  const context = await browser.newContext({ locale: 'de-AT', viewport: { width: 390, height: 700 } });
  const parent = await context.newPage();
  await parent.goto(new URL(new URL(doors[0]!.link).pathname, page.url()).href);
  await expect(parent.getByRole('heading', { level: 1 })).toHaveText('Ausflug');
  await expect(parent.getByRole('heading', { level: 2 })).toHaveText('Only English');
  await parent.getByRole('button', { name: 'Antworten senden' }).click();
  await expect(parent.getByText('Bitte beantworten Sie diese Frage.')).toBeVisible();
  await parent.getByLabel('Sprache').selectOption('ar');
  await expect(parent.getByRole('heading', { level: 1 })).toHaveText('رحلة');
  expect(await parent.evaluate(() => [document.dir, document.documentElement.lang])).toEqual(['rtl', 'ar']);
  await expectFits(parent);

  // The site of somebody else: it may show the form only once the form says so, and gives it the room that it takes.
  const origin = new URL(page.url()).origin;
  const token = new URL(doors[0]!.link).pathname.split('/').at(-1)!;
  const club = createServer((_request, response) => {
    const script = `<script src="${origin}/families/embed.js" data-form="${token}"></script>`;
    response.setHeader('content-type', 'text/html').end(`<!doctype html><title>Club</title><body>${script}`);
  });
  await new Promise<void>((resolve) => {
    club.listen(0, '127.0.0.1', resolve);
  });
  const site = await context.newPage();
  await site.goto(`http://127.0.0.1:${(club.address() as AddressInfo).port}/`);
  const inside = site.frameLocator('iframe');
  await expect(inside.getByRole('heading')).toHaveCount(0);
  const terms = { embed: true };
  await page.request.put(`/api/folios/${folio.id}/writings/${writing.id}`, {
    data: { kind: 'form', version: 1, content: { ...content, terms } },
    headers: await csrf(page),
  });
  await post(`/forms/${writing.id}/publish`, { version: 2 });
  await site.reload();
  // In the language that was chosen before.
  await expect(inside.getByRole('heading', { level: 1 })).toHaveText('رحلة');
  await expect
    .poll(() => site.locator('iframe').evaluate((frame) => (frame as HTMLIFrameElement).style.height))
    .toMatch(/^[1-9]\d{2,}px$/);
  await context.close();
  club.close();
});

async function csrf(page: Page): Promise<Record<string, string>> {
  const { token } = (await (await page.request.get('/api/csrf')).json()) as { token: string };
  return { 'x-csrf-token': token };
}
