import { expect, expectAccessible, signIn, station, test } from './desk.js';

for (const theme of ['light', 'dark'] as const) {
  test(`axe finds nothing on any screen in the ${theme} theme`, async ({ page }) => {
    test.setTimeout(240_000);
    await page.addInitScript((chosen) => localStorage.setItem('scriptum-theme', chosen), theme);
    await page.goto('/sign-in');
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
    await expectAccessible(page);
    await signIn(page);
    await expect(page.getByRole('link', { name: /River survey awards/ })).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('link', { name: /River survey awards/ }).click();
    await expect(page.getByRole('img', { name: /Page 1 of the paper/ })).toBeVisible();
    for (const [name, region] of [
      ['Page', 'Page'],
      ['Roll', 'Roll'],
      ['Note', 'Cover note'],
      ['Press', 'Who gets what'],
      ['Register', 'Register'],
    ] as const) {
      await station(page, name);
      await expect(page.getByRole('region', { name: region, exact: true })).toBeVisible();
      await expectAccessible(page);
    }
    await page.getByRole('button', { name: 'Keyboard shortcuts' }).click();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Close', exact: true }).click();
    await station(page, 'Register');
    await page.getByRole('link', { name: 'Packs', exact: true }).click();
    await expect(page.getByRole('button', { name: 'Make this pack' })).toBeVisible();
    await expectAccessible(page);
    await page.goto('/');
    await page.getByRole('link', { name: /Bridge-design feedback/ }).click();
    await station(page, 'Roll');
    await page.getByRole('link', { name: 'Forms (1)' }).click();
    await page.getByRole('button', { name: /Which kind of bridge did you build/ }).click();
    await expect(page.getByRole('heading', { name: 'How it is answered' })).toBeVisible();
    await expectAccessible(page);
    await page.goto('/');
    await page.getByRole('link', { name: /Instrument loans/ }).click();
    await station(page, 'Press');
    await page.getByRole('link', { name: 'By itself' }).click();
    await expect(page.getByRole('switch', { name: '“Loan agreements” is on' })).toBeChecked();
    await expect(
      page
        .getByRole('region', { name: /^Loan agreements:/ })
        .getByRole('row')
        .nth(1),
    ).toBeVisible();
    await expectAccessible(page);
    await page.goto('/register');
    await expect(page.getByRole('region', { name: 'Papers' }).getByRole('row').nth(1)).toBeVisible();
    await expectAccessible(page);
    await page.goto('/practice-post');
    await expect(page.getByRole('navigation', { name: 'Mailboxes' })).toBeVisible();
    await expectAccessible(page);
    await page.goto('/post-room');
    await expect(page.getByRole('main').getByRole('status')).toContainText('message');
    await expectAccessible(page);
    await page.goto('/post-room/accounts');
    await expect(page.getByRole('radio', { name: /Practice post/ })).toBeChecked();
    await expectAccessible(page);
  });
}

test('empty places teach, and are accessible', async ({ page }) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Nothing yet');
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  for (const name of ['Roll', 'Page', 'Note', 'Press', 'Register']) {
    await station(page, name);
    await expectAccessible(page);
  }
  await expect(page.getByRole('heading', { name: 'No papers yet' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Press this one' })).toBeDisabled();
});

test('bad files are refused in a sentence, and what was there stays', async ({ page }) => {
  await signIn(page);
  const drop = async (name: string, buffer: Buffer): Promise<void> =>
    page.getByLabel('File with a table').setInputFiles({ name, mimeType: 'text/csv', buffer });
  await expect(page.getByRole('link', { name: /River survey awards/ })).toBeVisible();
  const before = await page.getByRole('main').getByRole('listitem').count();
  for (const [name, bytes, says] of [
    ['empty.csv', Buffer.alloc(0), 'The file is empty'],
    ['header.csv', Buffer.from('Name,Mail\n'), 'no rows below it'],
    ['workbook.csv', Buffer.from([0x50, 0x4b, 3, 4, 20, 0, 6, 0]), 'The file is damaged'],
    ['open.csv', Buffer.from('Name\n"Amara\n'), 'Row 2 opens a quotation mark'],
    ['huge.csv', Buffer.alloc(30 * 1024 * 1024, 97), 'The file has 30 MB'],
  ] as const) {
    await drop(name, bytes);
    await expect(page.getByRole('alert')).toContainText(says);
  }
  await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(before);
  await drop('ragged.csv', Buffer.from('Name,Name,\nAmara\nIlse,8B,x,y\n'));
  // Titles twice and missing are in doubt, so it is shown how the file is read.
  const reading = page.getByRole('complementary', { name: 'How the file is read' });
  await expect(reading).toContainText('Row 2 has fewer cells');
  await page.getByRole('button', { name: /^Make the roll/ }).click();
  const margin = page.getByRole('complementary', { name: 'About the roll' });
  await expect(margin).toContainText('Row 2 has fewer cells');
  await expect(margin).toContainText('Row 3 has more cells');
  await expect(page.getByRole('columnheader', { name: 'Name (2)' })).toBeVisible();
});

test('a page that is asked for without a session comes back after sign-in', async ({ page }) => {
  await page.goto('/practice-post');
  await page.getByLabel('Email address').fill('office@thistlequay.example');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('not right');
  await page.getByLabel('Password').fill('tide-table-and-chalk');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Practice post' })).toBeVisible();
});

test('a deleted folio asks first, and is gone', async ({ page }) => {
  await signIn(page);
  await page.getByLabel('Title').fill('To be deleted');
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await page.goto('/');
  await page.getByRole('button', { name: 'Delete To be deleted' }).click();
  await expectAccessible(page);
  await page.getByRole('dialog').getByRole('button', { name: 'Delete the folio' }).click();
  await expect(page.getByRole('link', { name: /To be deleted/ })).toBeHidden();
});

test('while the database is away nothing typed is lost: it is said, and saved when it is back', async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole('link', { name: /Instrument loans/ }).click();
  const letter = page.getByRole('textbox', { name: 'Text of the letter' });
  await letter.click();
  await page.keyboard.press('Control+End');
  let away = true;
  const problem = { type: '', title: '', status: 503, detail: 'Away.', code: 'database-away' };
  await page.route(/\/api\/folios\/\w+\/(letter|proof)$/, (route) =>
    away
      ? route.fulfill({ status: 503, contentType: 'application/problem+json', body: JSON.stringify(problem) })
      : route.continue(),
  );
  await page.keyboard.type(' Kept through an outage.');
  await expect(page.getByText('The database does not answer. Nothing is lost; trying again …')).toBeVisible();
  await expect(page.getByText('Saving …')).toBeVisible();
  await expectAccessible(page);
  away = false;
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await expect(page.getByText('The database does not answer')).toBeHidden();
  await page.reload();
  await expect(letter).toContainText('Kept through an outage.');
});

test('signing out asks where; everywhere ends the other browser too', async ({ page, browser }) => {
  await signIn(page);
  const context = await browser.newContext({ baseURL: new URL(page.url()).origin });
  const other = await context.newPage();
  await signIn(other);
  await page.getByRole('button', { name: /^Sign out/ }).click();
  await expect(page.getByRole('menuitem', { name: 'Sign out here' })).toBeVisible();
  await page.getByRole('menuitem', { name: 'Sign out everywhere' }).click();
  await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
  await other.reload();
  await expect(other.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
  await context.close();
});

test('in small windows nothing but the panes scrolls, panes take turns, and the press buttons stay in reach', async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole('link', { name: /Year 8 spring reports/ }).click();
  const press = page.getByRole('button', { name: /^(Press (all )?\d+ papers?|All up to date)$/ });
  await expect(press).toBeVisible();
  // 1024 × 700, and 1280 × 800 at 200 % (WCAG 2.2, 1.4.4 and 1.4.10).
  for (const [width, height] of [
    [1280, 800],
    [1024, 700],
    [640, 400],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const name of ['Roll', 'Page', 'Note', 'Press', 'Register']) {
      await page.getByRole('link', { name, exact: true }).click();
      await expect(page.locator('main > :nth-child(2)')).toBeVisible();
      const size = await page.evaluate(() => {
        const { scrollHeight, scrollWidth } = document.documentElement;
        return [scrollWidth, scrollHeight];
      });
      expect([name, ...size]).toEqual([name, width, height]);
      await expect(press).toBeInViewport({ ratio: 1 });
    }
  }
  await page.getByRole('link', { name: 'Page', exact: true }).click();
  const learners = page.getByRole('listbox', { name: 'Learners' });
  const margin = page.getByRole('complementary', { name: 'About the letter' });
  await expect(learners).toBeHidden();
  await expect(margin).toBeHidden();
  await page.getByRole('button', { name: 'Margin' }).click();
  await expect(margin).toBeInViewport();
  await page.getByRole('button', { name: 'Learners', exact: true }).click();
  await expect(margin).toBeHidden();
  await learners.getByRole('option').nth(2).click();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(learners).toBeHidden();
});
