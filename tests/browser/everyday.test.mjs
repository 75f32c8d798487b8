/** Everyday things: areas, people, shots and jobs named, arranged, doubled and removed; the history; what is judged. */
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';
import { hands } from './hands.mjs';

const cossel = new Cossel(8682);
const BACKLIT = 1;
const GAZE = 3;
let page;
const { drag, goTo } = hands(() => page);

before(async () => {
  await cossel.start();
  await cossel.cli('load-demo');
  page = await cossel.page();
  page.setDefaultTimeout(15000);
});
after(async () => {
  assert.deepEqual(page.problems, []);
  await cossel.stop();
});

const state = async (shot) => (await cossel.api('GET', `/shots/${shot}/recipe`)).body;
const areas = async (shot) => (await state(shot)).recipe.areas;
const names = async (shot) => (await areas(shot)).map((a) => a.name);
async function open(shot) {
  await page.goto(`${cossel.url}/shots/${shot}`);
  await page.getByRole('tab', { name: /^A / }).waitFor();
}
const act = async (what) => {
  await page.getByRole('button', { name: 'More for this area' }).click();
  await page.getByRole('menuitem', { name: what, exact: true }).click();
};
const step = (name) => page.locator('.line').filter({ hasText: name }).click();

test('an area is renamed in place, by double-click and by its menu', async () => {
  await open(BACKLIT);
  await page.getByRole('heading', { name: 'Face', level: 2 }).dblclick();
  await page.getByLabel('Name of the area').fill('Face of Dario');
  await page.keyboard.press('Enter');
  await until(async () => (await names(BACKLIT))[0] === 'Face of Dario');
  await act('Rename');
  await page.getByLabel('Name of the area').fill('nothing');
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { name: 'Face of Dario' }).waitFor();
});

test('an area is doubled with and without its motion', async () => {
  await act('Duplicate with its motion');
  await until(async () => (await areas(BACKLIT)).length === 3);
  const [face, copy] = await areas(BACKLIT);
  assert.equal(copy.name, 'Face of Dario copy');
  assert.deepEqual(copy.motion, face.motion);
  assert.notEqual(copy.id, face.id);
  assert.equal(copy.touches.length, face.touches.length);
  await page.getByRole('tab', { name: 'A Face of Dario' }).click();
  await act('Duplicate without motion');
  await until(async () => (await areas(BACKLIT)).length === 4);
  assert.equal((await areas(BACKLIT))[1].motion.by, 'none');
});

test('areas are put in order by dragging their tabs and by keys', async () => {
  const tab = async (i) => {
    const b = await page.getByRole('tab').nth(i).boundingBox();
    return [b.x + b.width / 2, b.y + b.height / 2];
  };
  const before = (await areas(BACKLIT)).map((a) => a.id);
  await drag(await tab(0), await tab(2));
  await until(async () => (await areas(BACKLIT))[2].id === before[0]);
  assert.deepEqual((await areas(BACKLIT)).map((a) => a.id), [before[1], before[2], before[0], before[3]]);
  await page.locator(`#tab-${before[0]}`).click();
  await page.locator(`#tab-${before[0]}`).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('Alt+ArrowUp');
  await until(async () => (await areas(BACKLIT))[0].id === before[0]);
  assert.deepEqual((await areas(BACKLIT)).map((a) => a.id), before);
});

test('a removed area is back by the undo that is offered; one that others ride on stays', async () => {
  await page.getByRole('tab', { name: 'B Face of Dario copy' }).click();
  await act('Remove');
  await until(async () => (await areas(BACKLIT)).length === 3);
  await page.getByRole('alert').filter({ hasText: 'is removed' }).getByRole('button', { name: 'Undo' }).click();
  await until(async () => (await areas(BACKLIT)).length === 4);
  await page.getByRole('tab', { name: 'A Face of Dario' }).click();
  await act('Remove');
  await page.getByText('rides on it or is made of it').waitFor();
  assert.equal((await areas(BACKLIT)).length, 4);
});

test('an area is live on the frames its ends are dragged to, with fades', async () => {
  const border = async (end) => {
    const b = await page.locator(`[data-live="${end}"] .target`).boundingBox();
    return [b.x + b.width / 2, b.y + b.height / 2];
  };
  const frames = async (n) => ((await page.locator('[data-ruler]').boundingBox()).width - Number(await page.locator('[data-ruler]').getAttribute('data-left')) - 16) * (n / 84);
  const live = async () => (await areas(BACKLIT))[0].live;
  const [x, y] = await border('from');
  await drag([x, y], [x + (await frames(10)), y]);
  await until(async () => (await live()).from === 10);
  const [tx, ty] = await border('to');
  await drag([tx, ty], [tx - (await frames(13)), ty]);
  await until(async () => (await live()).to === 70);
  await page.locator('[data-live="fadeIn"]').focus();
  for (let i = 0; i < 6; ++i) await page.keyboard.press('ArrowRight');
  await until(async () => (await live()).fadeIn === 6);
  await page.getByRole('button', { name: /^live 10–70/ }).click();
  await page.getByRole('spinbutton', { name: 'Frames it fades out' }).fill('8');
  await page.keyboard.press('Enter');
  await until(async () => (await live()).fadeOut === 8);
  assert.deepEqual(await live(), { from: 10, to: 70, fadeIn: 6, fadeOut: 8 });
});

test('its strength is set and keyed on the frame', async () => {
  await page.getByRole('button', { name: 'Strength: keyframe here' }).click();
  const keys = async () => (await areas(BACKLIT))[0].strength.keys ?? [];
  await until(async () => (await keys()).length === 1);
  const strength = page.getByRole('slider', { name: 'Strength', exact: true });
  await strength.focus();
  for (let i = 0; i < 20; ++i) await page.keyboard.press('ArrowLeft');
  assert.equal(await strength.getAttribute('aria-valuetext'), '0 %');
  await until(async () => (await keys())[0].value === 0);
});

test('whose an area is and which part is chosen from lists that keep their arrow keys', async () => {
  const frame = await page.locator('[data-ruler]').getAttribute('aria-valuenow');
  await page.getByRole('combobox', { name: 'Person' }).click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await until(async () => (await areas(BACKLIT))[0].person !== 'dario');
  assert.equal(await page.locator('[data-ruler]').getAttribute('aria-valuenow'), frame);
});

test('people are made, renamed and removed on the bench, in any script', async () => {
  await page.getByRole('button', { name: 'People…' }).click();
  for (const name of ['Ирина', 'Ирена']) {
    await page.getByRole('region', { name: 'People' }).getByRole('textbox').last().fill(name);
    await page.keyboard.press('Enter');
    await page.getByLabel(`Name of ${name}`).waitFor();
  }
  await page.getByLabel('Name of Ирена').fill('Лена');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove Лена' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Remove', exact: true }).click();
  await until(async () => (await cossel.api('GET', '/jobs/1')).body.people.map((p) => p.name).sort().join() === 'Dario,Ione,Wren,Ирина');
  await page.keyboard.press('Escape');
});

test('the history shows every state; looking changes nothing, restoring is a step of its own', async () => {
  await page.getByRole('button', { name: 'History', exact: true }).click();
  await page.getByRole('region', { name: 'History' }).getByText('Demo treatment').click();
  const was = await state(BACKLIT);
  await page.getByText(/^Looking at \d+: Demo treatment/).waitFor();
  assert.equal((await state(BACKLIT)).revision, was.revision);
  await page.getByRole('button', { name: 'Restore', exact: true }).click();
  await until(async () => (await names(BACKLIT)).join() === 'Face,Surroundings');
  assert.ok((await state(BACKLIT)).revision > was.revision);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await until(async () => (await names(BACKLIT)).length === 4);
});

test('a tab that is behind is told, not let take back what another did', async () => {
  const other = await cossel.page();
  await open(GAZE);
  await other.goto(`${cossel.url}/shots/${GAZE}`);
  await other.getByRole('tab', { name: /^A / }).click();
  await other.getByRole('heading', { level: 2 }).first().dblclick();
  await other.getByLabel('Name of the area').fill('Bridge');
  await other.keyboard.press('Enter');
  await until(async () => (await names(GAZE))[0] === 'Bridge');
  await page.keyboard.press('Control+z');
  await page.getByRole('alert').first().waitFor();
  await page.waitForTimeout(500);
  assert.equal((await names(GAZE))[0], 'Bridge');
  await other.close();
});

test('a part counts as judged when it is ticked, until something seen in it changes', async () => {
  const left = async () => (await cossel.api('GET', '/jobs/1')).body.shots.find((s) => s.id === GAZE).progress.left;
  const to = async () => (await cossel.api('GET', '/jobs')).body[0].left;
  await open(GAZE);
  for (const a of await areas(GAZE)) {
    await page.locator(`#tab-${a.id}`).click();
    await page.locator(`#tab-${a.id}[aria-selected=true]`).waitFor();
    const line = page.locator('.line').filter({ hasText: 'Judge' });
    if ((await line.getAttribute('aria-expanded')) !== 'true') await line.click();
    await page.getByRole('checkbox', { name: `${a.name} is judged` }).check();
    await until(async () => (await state(GAZE)).judged.includes(a.id));
  }
  assert.equal(await left(), 'ready to deliver');
  const open_ = await to();
  const iris = (await areas(GAZE)).find((a) => a.name === 'Left iris');
  await page.locator(`#tab-${iris.id}`).click();
  await page.getByRole('switch', { name: 'Left iris on' }).click();
  await until(async () => !(await state(GAZE)).judged.includes(iris.id));
  await page.keyboard.press('Control+z');
  await until(async () => (await state(GAZE)).judged.includes(iris.id));
  assert.equal(await to(), open_);
});

test('Space presses the focused button and plays elsewhere; the wheel leaves a ruler alone that has no focus', async () => {
  await step('Treat');
  const sound = page.getByRole('button', { name: 'Matte', exact: true });
  await sound.focus();
  await page.keyboard.press('Space');
  assert.equal(await sound.getAttribute('aria-pressed'), 'true');
  assert.equal(await page.getByRole('button', { name: 'Play', exact: true }).count(), 1);
  await page.keyboard.press('Space');
  await page.evaluate(() => document.activeElement.blur());
  const ruler = page.locator('[data-touch] .ruler [role=slider]').first();
  const value = await ruler.getAttribute('aria-valuenow');
  const { x, y, width } = await ruler.boundingBox();
  await page.mouse.move(x + width / 2, y + 5);
  await page.mouse.wheel(0, 120);
  assert.equal(await ruler.getAttribute('aria-valuenow'), value);
  await page.keyboard.down('Alt');
  await page.mouse.wheel(0, 120);
  await page.keyboard.up('Alt');
  await until(async () => (await ruler.getAttribute('aria-valuenow')) !== value);
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: /^(Stop|Leave)$/ }).first().waitFor();
  await page.keyboard.press('Space');
});

test('both sides of a comparison carry their names, and the outline thins out while a control is dragged', async () => {
  await goTo(40);
  await page.keyboard.press('s');
  await page.locator('[data-side="own"]').getByText('result').waitFor();
  await page.locator('[data-side="other"]').getByText('original').waitFor();
  await page.keyboard.press('s');
  const ruler = page.locator('[data-touch] .ruler [role=slider]').first();
  const { x, y, width } = await ruler.boundingBox();
  await page.mouse.move(x + width / 2, y + 5);
  await page.mouse.down();
  await page.mouse.move(x + width / 2 + 8, y + 5);
  await page.locator('.outlines.thin').waitFor();
  await page.mouse.up();
  await page.locator('.outlines:not(.thin)').waitFor();
});

test('shots are put in order, renamed and removed; jobs too; each asks before anything is thrown away', async () => {
  await page.goto(`${cossel.url}/jobs/1`);
  const shots = async () => (await cossel.api('GET', '/jobs/1')).body.shots.map((s) => s.name);
  const onShot = async (name, what) => {
    await page.getByRole('alertdialog').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: `More for ${name}` }).click();
    await page.getByRole('menuitem', { name: what, exact: true }).click();
  };
  await onShot('gh020_laugh', 'Move up');
  await until(async () => (await shots())[0] === 'gh020_laugh');
  await onShot('gh050_leaf', 'Rename');
  await page.getByLabel('Name', { exact: true }).fill('gh055_leaf');
  await page.keyboard.press('Enter');
  await until(async () => (await shots()).includes('gh055_leaf'));
  await onShot('gh055_leaf', 'Remove');
  await page.getByRole('alertdialog').getByRole('button', { name: 'Keep it' }).click();
  assert.equal((await shots()).length, 6);
  await onShot('gh055_leaf', 'Remove');
  await page.getByRole('alertdialog').getByRole('button', { name: /^Remove/ }).click();
  await until(async () => (await shots()).length === 5);
  await page.goto(cossel.url);
  await page.getByRole('button', { name: 'More for The Verrin Glasshouse' }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Glasshouse');
  await page.keyboard.press('Enter');
  await page.getByText('Glasshouse', { exact: true }).waitFor();
  await page.getByRole('button', { name: 'More for Glasshouse' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Remove the job' }).click();
  await page.getByText('No job yet.').waitFor();
});
