import { createHmac } from 'node:crypto';
import { expect, expectAccessible, signIn, station, test } from './desk.js';

test('another service brings answers, they go where somebody says, and what is wrong is told', async ({
  page,
  request,
}) => {
  await signIn(page);
  await page.getByLabel('Title').fill('From elsewhere');
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await station(page, 'Roll');
  const parts = page.getByRole('navigation', { name: 'Parts of the station' });
  await page.goto(`${page.url().replace(/\/roll.*|\/page.*/, '')}/roll/hooks`);
  await expect(page.getByRole('heading', { name: 'Answers from other services' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add a hook' }).first().click();
  const hook = page.getByRole('article', { name: 'Form service' });
  await expect(hook.getByText('shown this once')).toBeVisible();
  const key = (await hook.getByRole('status').locator('code').textContent())!.trim();
  const link = (await hook.locator('code').first().textContent())!.trim();
  await hook.getByText('How a request is signed').click();
  await expectAccessible(page);

  // As another program would, by what the page says.
  const send = async (body: string, by: string): Promise<number> => {
    const time = String(Math.floor(Date.now() / 1000));
    const signature = createHmac('sha256', by).update(`${time}.${body}`).digest('hex');
    const reply = await request.post(new URL(new URL(link).pathname, page.url()).href, {
      headers: {
        'content-type': 'application/json',
        'scriptum-time': time,
        'scriptum-signature': signature,
      },
      data: body,
    });
    return reply.status();
  };
  expect(await send('{"First name":"Ada","Surname":"Lark","Club":"Chess"}', key)).toBe(200);
  await expect(hook.getByText('1 answer ·')).toBeVisible();
  const club = hook.getByRole('group', { name: 'Where “Club” goes' });
  await expect(club).toContainText('goes into Club');
  await club.getByRole('button').click();
  await page.getByRole('option', { name: /^is left out/ }).click();
  await expect(club).toContainText('is left out');
  expect(await send('{"First name":"Bo","Surname":"Reed","Club":"Fencing"}', key)).toBe(200);
  expect(await send('{"First name":"Eve"}', 'another key')).toBe(401);
  await page.reload();
  await expect(hook.getByText(/Refused on .*The signature is wrong/)).toBeVisible();
  await expect(hook.getByText('shown this once')).toHaveCount(0);
  await hook.getByRole('button', { name: 'Send a made-up answer' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'was brought' })).toBeVisible();
  await expect(hook.getByText('3 answers ·')).toBeVisible();
  await parts.getByRole('link', { name: 'Table' }).click();
  const grid = page.getByRole('grid');
  await expect(grid).toContainText('Chess');
  await expect(grid).toContainText('Reed');
  await expect(grid).not.toContainText('Fencing');
});
