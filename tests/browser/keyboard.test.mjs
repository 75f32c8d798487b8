/** The bench with the keyboard alone: everything is reached with Tab, told by name and value, and moved by keys. */
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';

const cossel = new Cossel(8683);
const BACKLIT = 1;
const LEAF = 5;
let page;

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

const areas = async (shot) => (await cossel.api('GET', `/shots/${shot}/recipe`)).body.recipe.areas;
const face = async () => (await areas(BACKLIT))[0];
const touch = async (kind) => (await face()).touches.find((t) => t.kind === kind);

const focused = () => page.evaluate(() => {
  const e = document.activeElement;
  return { name: e?.getAttribute('aria-label') ?? e?.textContent?.replace(/\s+/g, ' ').trim() ?? '', value: e?.getAttribute('aria-valuetext') ?? e?.getAttribute('aria-valuenow') };
});
/** Goes on with Tab until what has this name has the focus, once round the screen at most. */
async function reach(name) {
  const passed = [];
  for (let i = 0; i < 220; ++i) {
    const now = await focused();
    if (typeof name === 'string' ? now.name === name : name.test(now.name)) return now;
    passed.push(now.name);
    await page.keyboard.press('Tab');
  }
  assert.fail(`“${name}” is not reached with Tab, only ${[...new Set(passed)].join(' | ')}`);
}
async function press(key, times = 1) {
  for (let i = 0; i < times; ++i) await page.keyboard.press(key);
}
/** Reaches, presses, and gives what its value was and is. */
async function moved(name, key, times = 1) {
  const { value: was } = await reach(name);
  await press(key, times);
  const { value: is } = await focused();
  assert.notEqual(is, was, `${name} stays at ${was}`);
  return [was, is];
}
async function open(shot) {
  await page.goto(`${cossel.url}/shots/${shot}`);
  await page.getByRole('button', { name: 'Add an area' }).and(page.locator(':enabled')).waitFor();
}

test('frames are gone through on the ruler, the witnesses and the lanes', async () => {
  await open(BACKLIT);
  await reach('Frame');
  await press('Home');
  assert.equal((await focused()).value, 'frame 0 of 0 to 83');
  await press('ArrowRight', 3);
  await press('PageUp');
  assert.equal((await focused()).value, 'frame 13 of 0 to 83');
  await moved('Frames to follow, first', 'ArrowRight', 5);
  await moved('Frames to follow, last', 'ArrowLeft', 5);
  await page.locator('[data-lane="face"] rect.span').waitFor();
  await moved('First live frame', 'ArrowRight', 4);
  await moved('Frames it fades out', 'ArrowRight', 3);
  await until(async () => (await face()).live.from === 4 && (await face()).live.fadeOut === 3);
  const { name } = await reach(/^Frame (3|4|5|6)\d/);
  await press('Enter');
  const frame = Number(/\d+/.exec(name)[0]);
  await page.getByText(new RegExp(`^${frame} of 0–83$`)).waitFor();
});

test('an outline is moved, sized, feathered and turned', async () => {
  const was = (await face()).outline.shapes[0];
  await reach('Move Face, ellipse by the arrow keys');
  await press('ArrowRight', 4);
  await moved('Width', 'ArrowRight', 3);
  await moved('Height', 'ArrowUp', 3);
  await moved('Feather inside', 'ArrowRight', 3);
  await moved('Feather outside', 'ArrowRight', 3);
  await moved('Turn Face, ellipse', 'ArrowRight', 5);
  await until(async () => (await face()).outline.shapes[0].featherOut !== was.featherOut);
  await page.evaluate(() => document.activeElement.blur());
  await until(async () => {
    const is = (await face()).outline.shapes[0];
    return ['centre', 'radii'].every((k) => is[k].join() !== was[k].join()) && ['featherIn', 'featherOut', 'turn'].every((k) => is[k] !== was[k]);
  });
});

test('the split line is moved and turned', async () => {
  await press('s');
  await page.locator('[data-handle="split"]').waitFor();
  await moved('Split line, place', 'ArrowRight', 3);
  await moved('Split line, angle', 'ArrowRight', 2);
  await press('Escape');
  await press('s');
});

test('curves, hue band and balance are shaped point by point', async () => {
  await press('4');
  const add = async (kind) => {
    await reach('Add a touch');
    await press('Enter');
    await reach(kind);
    await press('Enter');
    await page.getByRole('article', { name: kind, exact: true }).waitFor();
  };
  await add('Curves');
  await reach('Point 1 of 2');
  await press('Enter');
  await reach('Point 2 of 3');
  await press('ArrowUp', 5);
  await until(async () => (await touch('curves')).luma[1]?.[1] === 0.55);
  await press('Delete');
  await until(async () => (await touch('curves')).luma.length === 2);
  await add('Hues');
  await reach('Add a point to the hue band');
  await press('Enter');
  const { name: point } = await reach(/^Point \d+ of \d+$/);
  await press('ArrowUp', 4);
  await until(async () => (await touch('hues')).saturation.some(([, v]) => v > 0));
  const points = (await touch('hues')).saturation.length;
  assert.equal(point, `Point 1 of ${points}`);
  await press('Delete');
  await until(async () => (await touch('hues')).saturation.length === points - 1);
  await add('Balance');
  await moved('mids, green to red', 'ArrowRight', 3);
  await until(async () => (await touch('balance')).midsRed > 0);
  await press('Home');
  await until(async () => (await touch('balance')).midsRed === 0);
});

test('twenty presses of an arrow key on a ruler are one step of the history', async () => {
  const revision = async () => (await cossel.api('GET', `/shots/${BACKLIT}/recipe`)).body.revision;
  await reach('Light');
  await page.waitForTimeout(700);
  const was = await revision();
  await press('ArrowRight', 20);
  await until(async () => (await revision()) > was);
  await page.waitForTimeout(900);
  assert.equal(await revision(), was + 1);
});

test('ranges of a pick are set', async () => {
  await press('Escape');
  await page.evaluate(() => document.activeElement.blur());
  await press('3');
  const { name } = await reach(/^Lightness, |^Saturation, |^Hue, /);
  const was = JSON.stringify((await face()).pick);
  await press('ArrowRight', 3);
  await until(async () => JSON.stringify((await face()).pick) !== was);
  assert.ok((await focused()).value !== null, name);
});

test('an area is added, named, drawn and made a path whose points are moved, added and removed', async () => {
  await open(LEAF);
  await reach('Add an area');
  await press('Enter');
  await reach('');
  await page.keyboard.type('Hat');
  await press('Enter');
  await until(async () => (await areas(LEAF)).length === 1);
  await reach(/^Drawing: .* draws an ellipse there/);
  await press('Shift+ArrowUp', 3);
  await press('Space');
  await until(async () => (await areas(LEAF))[0].outline.shapes.length === 1);
  assert.ok((await areas(LEAF))[0].outline.shapes[0].centre[1] < 0.45);
  assert.equal((await focused()).name, 'Move Hat, ellipse by the arrow keys');
  await reach('More');
  await press('Enter');
  await reach('To a path');
  await press('Enter');
  await until(async () => (await areas(LEAF))[0].outline.shapes[0].kind === 'path');
  const shape = async () => (await areas(LEAF))[0].outline.shapes[0];
  const was = await shape();
  await reach('Point 1');
  await press('ArrowDown', 6);
  await until(async () => (await shape()).points[0].at[1] > was.points[0].at[1]);
  await press('Insert');
  await until(async () => (await shape()).points.length === was.points.length + 1);
  await press('Space');
  await press('Delete');
  await until(async () => (await shape()).points.length === was.points.length);
  await reach('Point 2');
  await press('Enter');
  await until(async () => (await shape()).points[1].out.join() !== was.points[1].out.join());
});

test('a path is drawn and a colour sampled without a pointer', async () => {
  await open(LEAF);
  await press('1');
  await reach('Path');
  await press('Enter');
  await reach(/^Drawing: .* puts a point there/);
  await press('Space');
  await press('Shift+ArrowRight', 4);
  await press('Space');
  await press('Shift+ArrowDown', 4);
  await press('Space');
  await press('Enter');
  await until(async () => (await areas(LEAF))[0].outline.shapes.length === 2);
  assert.equal((await areas(LEAF))[0].outline.shapes[1].points.length, 3);
  await page.evaluate(() => document.activeElement.blur());
  await press('3');
  await reach('Sample +');
  await press('Enter');
  await reach(/^Drawing: .* takes a sample there/);
  await press('Space');
  await until(async () => (await areas(LEAF))[0].pick?.samples.length === 1);
});
