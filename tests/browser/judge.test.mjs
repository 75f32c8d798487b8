/** Judging: views, comparing with what one likes, versions. */
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';

const cossel = new Cossel(8697);
const SKIN = 4;
let page;

before(async () => {
  await cossel.start();
  await cossel.cli('load-demo');
  page = await cossel.page();
  page.setDefaultTimeout(20000);
  await page.goto(`${cossel.url}/shots/${SKIN}`);
  await page.locator('.line').filter({ hasText: 'Judge' }).click();
  await rested();
});
after(async () => {
  assert.deepEqual(page.problems, []);
  await cossel.stop();
});

const rested = () => until(async () => (await page.locator('.redoing').count()) === 0 && (await page.getByText('Making the picture…').count()) === 0);
/** The mean of the shown canvas round a place, by shares of the stage. */
const at = ([sx, sy]) => page.evaluate(([x, y]) => {
  const canvas = document.querySelector('[data-stage] canvas');
  const d = canvas.getContext('2d').getImageData(Math.round(x * canvas.width) - 8, Math.round(y * canvas.height) - 8, 16, 16).data;
  const sum = [0, 0, 0, 0];
  for (let i = 0; i < d.length; i += 4) for (let c = 0; c < 4; ++c) sum[c] += d[i + c] / 256;
  return sum;
}, [sx, sy]);
const canvas = () => page.evaluate(() => document.querySelector('[data-stage] canvas').toDataURL());
const pressed = (name) => page.getByRole('button', { name, exact: true }).last();

test('the difference is grey where nothing was changed, and more is seen amplified', async () => {
  await page.locator('.view').filter({ hasText: 'Difference' }).click();
  await until(async () => (await at([0.12, 0.5])).slice(0, 3).every((v) => Math.abs(v - 128) < 4));
  const once = await canvas();
  await page.locator('.panel .ruler').filter({ hasText: 'Amplified' }).locator('button.figure').click();
  await page.getByLabel('Amplified, typed').fill('16');
  await page.keyboard.press('Enter');
  await until(async () => (await canvas()) !== once);
  await until(async () => (await at([0.12, 0.5])).slice(0, 3).every((v) => Math.abs(v - 128) < 6));
  await page.locator('.view').filter({ hasText: 'Result' }).click();
});

test('two pictures stand side by side, against the base or without the area', async () => {
  await pressed('Side by side').click();
  await rested();
  await until(async () => (await at([0.25, 0.5]))[3] > 200 && (await at([0.75, 0.5]))[3] > 200);
  const left = await at([0.2, 0.55]);
  const right = await at([0.7, 0.55]);
  assert.ok(left.some((v, i) => Math.abs(v - right[i]) > 1.5), `${left} ${right}`);
  await page.getByRole('group', { name: 'Compare against' }).getByRole('button', { name: 'Without area' }).click();
  await rested();
  await pressed('Side by side').click();
  await until(async () => (await page.locator('[data-handle="split"]').count()) === 0);
});

test('a version is kept, compared with by the split line, gone back to, renamed and deleted', async () => {
  await page.getByLabel('Name of a new version').fill('First try');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByRole('button', { name: 'First try', exact: true }).waitFor();
  await page.locator('.versions img').waitFor();
  const before_ = (await cossel.api('GET', `/shots/${SKIN}/recipe`)).body;
  before_.recipe.base = [{ id: 'dark', kind: 'exposure', stops: -2 }];
  await cossel.api('PUT', `/shots/${SKIN}/recipe`, { base: before_.revision, label: 'Darker', recipe: before_.recipe });
  await page.reload();
  await page.locator('.line').filter({ hasText: 'Judge' }).click();
  await rested();
  const dark = await at([0.5, 0.5]);
  await page.getByRole('button', { name: 'Compare with First try' }).click();
  await page.locator('[data-handle="split"]').waitFor();
  await until(async () => {
    const sides = [await at([0.35, 0.5]), await at([0.65, 0.5])].map(([r]) => r);
    return Math.max(...sides) > Math.min(...sides) + 40;
  });
  await page.keyboard.press('s');
  await page.getByRole('button', { name: 'Go back to First try' }).click();
  await until(async () => (await cossel.api('GET', `/shots/${SKIN}/recipe`)).body.recipe.base.length === 0);
  await until(async () => (await at([0.5, 0.5]))[0] > dark[0] + 30);
  await page.getByRole('button', { name: 'First try', exact: true }).click();
  await page.getByLabel('New name of First try').fill('Approved');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Approved', exact: true }).waitFor();
  await page.getByRole('button', { name: 'Delete Approved' }).click();
  await page.getByRole('button', { name: 'Approved', exact: true }).waitFor({ state: 'hidden' });
});
