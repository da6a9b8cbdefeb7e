import { zipSync } from 'fflate';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';

/** A photograph as the browser itself makes it: one colour, JPEG, larger than paper needs. */
const photo = (page: Page, colour: string): Promise<Buffer> =>
  page
    .evaluate((fill) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [2400, 3200];
      const context = canvas.getContext('2d')!;
      context.fillStyle = fill;
      context.fillRect(0, 0, 2400, 3200);
      return canvas.toDataURL('image/jpeg');
    }, colour)
    .then((url) => Buffer.from(url.slice(url.indexOf(',') + 1), 'base64'));

test('a ZIP of photos is matched to the learners by itself, mended by hand, and stands in each one’s paper', async ({
  page,
}) => {
  await signIn(page);
  const csv = 'Name,Class\nAmara Okafor,8A\nZoë Lind,8A\nيعقوب,8B\nDilys Pugh,8B\n';
  await page.getByLabel('Title').fill('Photos');
  await page
    .getByLabel('File with a table')
    .setInputFiles({ name: 'class.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  await expect(page.getByRole('gridcell', { name: 'Amara Okafor' })).toBeVisible();
  const [red, blue, green] = await Promise.all(
    ['#c81e28', '#1e3cc8', '#1ea028'].map((one) => photo(page, one)),
  );
  const archive = zipSync({
    'class/okafor_amara.jpg': red!,
    'class/Lind, Zoe.JPG': blue!,
    'class/IMG_0042.jpg': green!,
    'class/list.txt': new Uint8Array([65]),
    '__MACOSX/class/._okafor_amara.jpg': new Uint8Array([0]),
  });
  await page.getByRole('button', { name: 'Pictures …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Pictures of the learners' });
  await dialog.getByLabel('Pictures, or a ZIP archive of them').setInputFiles([
    { name: 'photos.zip', mimeType: 'application/zip', buffer: Buffer.from(archive) },
    { name: 'broken.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('not a picture') },
  ]);
  await expect(dialog.getByText('2 of 4 learners have a picture')).toBeVisible();
  await expect(dialog.getByRole('region', { name: 'Not usable' })).toContainText(
    'broken.jpg: It is no picture that this browser can read',
  );
  await expect(dialog.getByRole('region', { name: 'Who has none' })).toContainText('يعقوب');
  await expectAccessible(page);
  await dialog.getByLabel('Whose class/IMG_0042.jpg is').selectOption('يعقوب');
  await expect(dialog.getByText('3 of 4 learners have a picture')).toBeVisible();
  await dialog.getByRole('button', { name: 'Put 3 pictures in' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole('gridcell', { name: 'IMG_0042.jpg' })).toBeVisible();
  await page.getByRole('gridcell', { name: 'okafor_amara.jpg' }).click();
  await expect(page.getByRole('img', { name: 'The picture okafor_amara.jpg' })).toBeVisible();

  await station(page, 'Page');
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await editor.click();
  await page.getByText('Put in a table, a chart or a picture').click();
  await page.getByRole('button', { name: /Put in Picture: Photo/ }).click();
  const shown = editor.getByRole('img', { name: 'Photo: Amara Okafor' });
  await expect(shown).toBeVisible();
  // What came with 2,400 by 3,200 pixels is kept as paper needs it.
  expect(await shown.evaluate((image: HTMLImageElement) => image.naturalHeight)).toBe(1600);
  await editor.press('Enter');
  const about = page.getByRole('region', { name: 'This picture' });
  await about.getByRole('button', { name: /where it stands/ }).click();
  await page.getByRole('option', { name: 'on the right' }).click();
  await saved(page);
  await page.keyboard.press('F9');
  await page.keyboard.press('F9');
  await page.keyboard.press('F9');
  await expect(editor).toContainText('Photo: nothing to print for this learner');
  await expectAccessible(page);
});

test('a photograph of many megabytes becomes as small as the page needs it', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: /River survey/ }).click();
  await station(page, 'Page');
  // Noise, which no way of saving makes small: 10 million pixels.
  const buffer = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(3600, 2700);
    const context = canvas.getContext('2d')!;
    const noise = context.createImageData(500, 500);
    for (let at = 0; at < noise.data.length; at++) noise.data[at] = at % 4 === 3 ? 255 : (at * 7919) % 251;
    for (let x = 0; x < 3600; x += 500) for (let y = 0; y < 2700; y += 500) context.putImageData(noise, x, y);
    const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 1 });
    return new Promise<string>((resolve) => {
      const reader = new FileReader();
      reader.onload = () => resolve(reader.result as string);
      reader.readAsDataURL(blob);
    });
  });
  const photograph = Buffer.from(buffer.slice(buffer.indexOf(',') + 1), 'base64');
  expect(photograph.length).toBeGreaterThan(10 * 1024 * 1024);
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await editor.click();
  await page.locator('sc-toolbar input[type=file]').setInputFiles({
    name: 'weir_house.jpg',
    mimeType: 'image/jpeg',
    buffer: photograph,
  });
  const shown = editor.getByRole('img', { name: 'weir house' });
  await expect(shown).toBeVisible();
  expect(await shown.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(2800);
  await editor.press('Control+z');
  await saved(page);
});

test('pictures that are on their way when the dialog is left are put nowhere', async ({ page }) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Left');
  await page.getByLabel('File with a table').setInputFiles({
    name: 'class.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Class\nAmara,8A\nBo,8B\n'),
  });
  await expect(page.getByRole('gridcell', { name: 'Amara' })).toBeVisible();
  await page.getByRole('button', { name: 'Pictures …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Pictures of the learners' });
  const buffer = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"/>');
  await dialog
    .getByLabel('Pictures, or a ZIP archive of them')
    .setInputFiles([{ name: 'amara.svg', mimeType: 'image/svg+xml', buffer }]);
  let letThrough = (): void => undefined;
  const held = new Promise<void>((resolve) => (letThrough = resolve));
  await page.route('**/assets?*', async (route) => {
    await held;
    await route.continue();
  });
  const sent = page.waitForResponse(/\/assets\?/);
  await dialog.getByRole('button', { name: 'Put one picture in' }).click();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog).toHaveCount(0);
  letThrough();
  await sent;
  await saved(page);
  await expect(page.getByRole('columnheader', { name: /Photo/ })).toHaveCount(0);
});
