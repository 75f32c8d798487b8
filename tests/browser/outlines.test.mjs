/** Outlines and following by hand: drawn, edited, joined, keyed, followed, corrected, ridden on and found. */
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';
import { hands } from './hands.mjs';

const cossel = new Cossel(8694);
const LAUGH = 2;
const GAZE = 3;
const TWO = 6;
let page;
const { onPage, drag, goTo, addArea, onRuler, choose: chooseFile } = hands(() => page);

before(async () => {
  await cossel.start();
  await cossel.cli('load-demo', '--untreated');
  page = await cossel.page();
  page.setDefaultTimeout(20000);
});
after(async () => {
  assert.deepEqual(page.problems, []);
  await cossel.stop();
});

const areas = async (shot) => (await cossel.api('GET', `/shots/${shot}/recipe`)).body.recipe.areas;
const area = async (shot, name) => (await areas(shot)).find((a) => a.name === name);
const shape = async (shot, name) => (await area(shot, name)).outline.shapes[0];

async function click(at) {
  await page.mouse.move(...at, { steps: 2 });
  await page.mouse.click(...at);
}
async function handle(name) {
  const box = await page.locator(`[data-handle="${name}"]`).boundingBox();
  return [box.x + box.width / 2, box.y + box.height / 2];
}
async function open(shot) {
  await page.goto(`${cossel.url}/shots/${shot}`);
  await page.getByRole('button', { name: 'Add an area' }).waitFor();
  await page.locator('canvas').first().waitFor();
}
const tool = (name) => page.locator('.tools').getByRole('button', { name, exact: true }).click();
const step = (name) => page.getByRole('button', { name, exact: false }).and(page.locator('.line')).click();
const choose = async (label, option) => {
  await page.getByLabel(label, { exact: true }).first().click();
  await page.getByRole('option', { name: option, exact: true }).click();
};

test('a path is drawn with corners and curves and closed on its first point', async () => {
  await open(LAUGH);
  await addArea('Lips');
  await tool('Path');
  await drag(await onPage([0.78, 0.72]), await onPage([0.78, 0.69]));
  await drag(await onPage([0.88, 0.66]), await onPage([0.93, 0.66]));
  await click(await onPage([1.0, 0.72]));
  await click(await onPage([0.88, 0.8]));
  await click(await onPage([0.78, 0.72]));
  await until(async () => (await area(LAUGH, 'Lips'))?.outline.shapes.length === 1);
  const path = await shape(LAUGH, 'Lips');
  assert.equal(path.kind, 'path');
  assert.equal(path.points.length, 4);
  assert.ok(path.points[1].out[0] > 0.03 && path.points[1].in[0] < -0.03, JSON.stringify(path.points[1]));
  assert.deepEqual(path.points[2].out, [0, 0]);
});

test('its points are moved, made corners, added, lassoed, nudged and removed', async () => {
  let before_ = (await shape(LAUGH, 'Lips')).points;
  const from = await handle('point-3');
  await drag(from, [from[0], from[1] + 14]);
  await until(async () => (await shape(LAUGH, 'Lips')).points[3].at[1] > before_[3].at[1] + 0.01);
  await page.mouse.dblclick(...(await handle('point-3')));
  await until(async () => (await shape(LAUGH, 'Lips')).points[3].out.some((v) => v !== 0));
  // A point on the edge, the curve unchanged.
  const [a, b] = [await handle('point-2'), await handle('point-3')];
  const path = page.locator('[data-handle="edge"]');
  const d = (await path.getAttribute('d')).slice(1, -1).split('L').map((p) => p.split(' ').map(Number));
  const stage = await page.locator('[data-stage]').boundingBox();
  const near = d.map(([x, y]) => [stage.x + x, stage.y + y]).sort((p, q) => Math.hypot(p[0] - (a[0] + b[0]) / 2, p[1] - (a[1] + b[1]) / 2) - Math.hypot(q[0] - (a[0] + b[0]) / 2, q[1] - (a[1] + b[1]) / 2))[0];
  await page.keyboard.down('Control');
  await page.mouse.click(...near);
  await page.keyboard.up('Control');
  await until(async () => (await shape(LAUGH, 'Lips')).points.length === 5);
  // A lasso round the two lowest points, then arrow keys.
  before_ = (await shape(LAUGH, 'Lips')).points;
  const low = (await onPage([0.88, 0.9]))[1];
  const left = (await onPage([0.7, 0.5]))[0];
  const right = (await onPage([1.1, 0.5]))[0];
  const top = (await onPage([0.88, 0.765]))[1];
  await page.mouse.move(left, top);
  await page.mouse.down();
  for (const p of [[left, low], [right, low], [right, top], [(left + right) / 2 + 60, top]]) await page.mouse.move(...p, { steps: 4 });
  await page.mouse.up();
  await page.locator('[data-handle="turner"]').waitFor();
  await page.keyboard.press('Shift+ArrowDown');
  await until(async () => (await shape(LAUGH, 'Lips')).points.filter((p, i) => Math.abs(p.at[1] - before_[i].at[1] - 10 / 720) < 1e-5).length === 2);
  assert.equal((await shape(LAUGH, 'Lips')).points.filter((p, i) => p.at[1] === before_[i].at[1]).length, 3);
  await page.keyboard.press('Escape');
  await click(await handle('point-3'));
  await page.keyboard.press('Delete');
  await until(async () => (await shape(LAUGH, 'Lips')).points.length === 4);
});

test('a shape is cut out, the joins change the matte, and a path that crosses itself is told', async () => {
  await page.locator('.tools').getByRole('button', { name: 'Cut', exact: true }).click();
  await tool('Box');
  await drag(await onPage([0.84, 0.7]), await onPage([0.92, 0.78]));
  await until(async () => (await area(LAUGH, 'Lips')).outline.shapes.length === 2);
  assert.deepEqual((await area(LAUGH, 'Lips')).outline.shapes.map((s) => [s.kind, s.join]), [['path', 'add'], ['box', 'cut']]);
  await page.locator('.shapes li').nth(1).getByRole('button', { name: 'Keep' }).click();
  await until(async () => (await area(LAUGH, 'Lips')).outline.shapes[1].join === 'keep');
  await page.locator('.shapes li').nth(1).getByRole('button', { name: 'Remove this shape' }).click();
  await until(async () => (await area(LAUGH, 'Lips')).outline.shapes.length === 1);
  const [one, two] = [await handle('point-1'), await handle('point-3')];
  await drag(one, [two[0], two[1] + 30]);
  await page.getByText('The path crosses itself').waitFor();
  await page.keyboard.press('Control+z');
  await page.getByText('The path crosses itself').waitFor({ state: 'hidden' });
});

test('values are keyed on frames and blend in between', async () => {
  await page.getByRole('button', { name: 'Keyframe here' }).click();
  await until(async () => (await shape(LAUGH, 'Lips')).keys.length === 1);
  const first = (await shape(LAUGH, 'Lips')).keys[0];
  await goTo(60);
  const from = await handle('point-3');
  await drag(from, [from[0], from[1] + 20]);
  await until(async () => (await shape(LAUGH, 'Lips')).keys.length === 2);
  const keys = (await shape(LAUGH, 'Lips')).keys;
  assert.deepEqual(keys.map((k) => k.frame), [42, 60]);
  assert.deepEqual(keys[0], first);
  assert.equal(keys[0].points.length, keys[1].points.length);
  await goTo(51);
  const [, y] = await handle('point-3');
  assert.ok(Math.abs(y - (from[1] + 10)) < 2, `${y} is half-way from ${from[1]}`);
  assert.equal(await page.locator('path.notch').count(), 2);
});

test('a path keeps to an edge between clicks', async () => {
  await addArea('Face');
  await tool('Along edges');
  for (const p of [[0.63, 0.45], [0.75, 0.86], [1.0, 0.86]]) {
    await click(await onPage(p));
    await page.waitForTimeout(700);
  }
  await page.keyboard.press('Enter');
  await until(async () => (await area(LAUGH, 'Face'))?.outline.shapes.length === 1);
  const path = await shape(LAUGH, 'Face');
  assert.ok(path.points.length > 3, String(path.points.length));
  assert.ok(path.points.some((p) => p.out[0] !== 0 || p.out[1] !== 0));
});

test('an outline goes out as SVG and comes in again', async () => {
  await page.getByRole('button', { name: 'More', exact: true }).click();
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'SVG out' }).click()]);
  const svg = readFileSync(await file.path(), 'utf8');
  assert.match(svg, /<path id="s\d+"/);
  const button = page.getByRole('button', { name: 'SVG in' });
  await chooseFile(button, { name: 'outline.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
  await until(async () => (await area(LAUGH, 'Face')).outline.shapes.length === 2);
  await chooseFile(button, { name: 'outline.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('no svg') });
  await page.getByText('This is no SVG document.').waitFor();
});

test('an iris is followed, its closed lids are hatched, and the blink guard is put on', async () => {
  await open(GAZE);
  await goTo(4);
  await addArea('Left iris');
  const [cx, cy, r] = [1006.8 / 720, 353.9 / 720, 61 / 720];
  await drag(await onPage([cx - r, cy - r]), await onPage([cx + r, cy + r]));
  await until(async () => (await area(GAZE, 'Left iris'))?.outline.shapes.length === 1);
  await step('2 Follow');
  await choose('Motion', 'Iris and lids');
  await page.getByRole('button', { name: 'Follow both ways' }).click();
  await page.getByText(/iris · 84\/84/).waitFor({ timeout: 90000 });
  await until(async () => (await page.locator('.shut').count()) === 2);
  await page.getByLabel('fades it while the lids are closed').check();
  await until(async () => (await area(GAZE, 'Left iris')).blinkGuard.on);
  await goTo(24);
  await page.getByRole('button', { name: 'There here' }).click();
  await until(async () => (await area(GAZE, 'Left iris')).blinkGuard.keys[0]?.value === 1);
});

test('another area rides on it and is corrected by hand on one frame', async () => {
  await goTo(4);
  await addArea('Spot');
  await drag(await onPage([1.3, 0.3]), await onPage([1.5, 0.4]));
  await until(async () => (await area(GAZE, 'Spot'))?.outline.shapes.length === 1);
  await step('2 Follow');
  await page.getByRole('button', { name: 'Rides', exact: true }).click();
  await until(async () => (await area(GAZE, 'Spot')).motion.by === 'ride');
  const host = (await area(GAZE, 'Left iris')).id;
  assert.equal((await area(GAZE, 'Spot')).motion.on, host);
  await goTo(70);
  await page.getByRole('button', { name: 'Correct on this frame' }).click();
  const from = await handle('edge-1');
  const box = await page.locator('path.inside').boundingBox();
  const middle = [box.x + box.width / 2, box.y + box.height / 2];
  await drag(middle, [middle[0] + 30, middle[1] - 8]);
  await until(async () => (await area(GAZE, 'Spot')).motion.keys.length === 2);
  const { keys } = (await area(GAZE, 'Spot')).motion;
  assert.deepEqual(keys.map((k) => [k.frame, k.move[0] > 0.03]), [[4, false], [70, true]]);
  const now = await handle('edge-1');
  assert.ok(Math.abs(now[0] - from[0] - 30) < 3, `${from} moved to ${now}`);
  await page.keyboard.press('Escape');
});

test('only the frames chosen on the lane are followed', async () => {
  await page.getByRole('button', { name: 'Follows', exact: true }).click();
  await until(async () => (await area(GAZE, 'Spot')).motion.by === 'follow');
  await goTo(40);
  const lane = await page.locator(`[data-lane="${(await area(GAZE, 'Spot')).id}"]`).boundingBox();
  await drag([lane.x + (await onRuler(34)), lane.y + 10], [lane.x + (await onRuler(48)), lane.y + 10]);
  await page.getByText('only frames 34–48').waitFor();
  await page.getByRole('button', { name: 'Follow both ways' }).click();
  await until(async () => (await area(GAZE, 'Spot')).motion.track !== null, 60);
  const { confidence } = (await cossel.api('GET', `/shots/${GAZE}/motions`)).body.areas[(await area(GAZE, 'Spot')).id];
  assert.deepEqual([confidence[33], confidence[49]], [null, null]);
  assert.ok(confidence.slice(34, 49).every((c) => c !== null));
});

test('the person is found and proposed as areas that ride on the face', async () => {
  await open(LAUGH);
  await goTo(12);
  await page.getByRole('button', { name: 'Add an area' }).click();
  await page.locator('.side').getByRole('button', { name: /^Find the people on this frame/ }).click();
  const before = (await areas(LAUGH)).length;
  const take = page.getByRole('button', { name: 'Take and follow' });
  await take.waitFor({ timeout: 90000 });
  // What is proposed lies dashed on the picture; pointing at it in the list lights it up there.
  assert.equal(await page.locator('.proposals > g').count(), 8);
  await page.getByRole('listitem').filter({ hasText: 'Lips' }).hover();
  assert.equal(await page.locator('.proposals > .pointed').count(), 1);
  // What is not ticked stays behind, with what needs it.
  await page.getByRole('listitem').filter({ hasText: 'Right lids' }).getByRole('checkbox').uncheck();
  const count = await page.locator('.side li input:checked').count();
  assert.ok(count >= 3 && count < 8);
  await page.getByRole('button', { name: `Take ${count}`, exact: true }).click();
  await until(async () => (await areas(LAUGH)).length === count + before);
  const found = (await areas(LAUGH)).slice(before);
  assert.deepEqual(found.map((a) => a.motion.by), ['none', ...Array(count - 1).fill('ride')]);
  const iris = found.find((a) => a.name === 'Left iris');
  assert.deepEqual(iris.outline.shapes.map((s) => [s.kind, s.join]), [['ellipse', 'add'], ['area', 'keep']]);
  await page.getByRole('button', { name: 'Undo' }).click();
  await until(async () => (await areas(LAUGH)).length === before);
});

test('one of two people is taken and followed at once, each part in its own way, as one step of the history', async () => {
  await open(TWO);
  await goTo(3);
  await page.keyboard.press('w');
  await page.getByText('2 people are seen.').waitFor({ timeout: 90000 });
  await page.locator('.proposals').getByRole('button', { name: 'Person 2' }).click();
  await page.getByRole('group', { name: 'Who it is' }).getByText('Wren').click();
  await page.getByRole('button', { name: 'Take and follow' }).click();
  await page.getByText('following the person').waitFor();
  await page.getByText('The person is followed').waitFor({ timeout: 120000 });
  const found = await areas(TWO);
  const models = Object.fromEntries(found.map((a) => [a.name, a.motion.by === 'follow' ? a.motion.model : a.motion.by]));
  assert.deepEqual(models, { Face: 'relief', 'Left lids': 'outline', 'Left iris': 'iris', 'Right lids': 'outline', 'Right iris': 'iris', Lips: 'outline', Neck: 'ride' });
  assert.ok(found.every((a) => a.person === 'wren'));
  assert.ok(found.filter((a) => a.part === 'iris').every((a) => a.blinkGuard.on));
  await page.getByRole('button', { name: 'Undo' }).click();
  await until(async () => (await areas(TWO)).every((a) => !a.motion.track));
  assert.equal((await areas(TWO)).length, found.length);
});

test('where no face is whole the eyes are found, and with the eyes closed it says so', async () => {
  await open(GAZE);
  await goTo(6);
  await page.keyboard.press('w');
  await page.getByText('No face is seen whole, but two eyes.').waitFor({ timeout: 90000 });
  await page.getByRole('listitem').filter({ hasText: 'Brows and nose bridge' }).waitFor();
  await page.keyboard.press('Escape');
  await goTo(24);
  await page.keyboard.press('w');
  await page.getByText('Nobody was found on this frame').waitFor({ timeout: 90000 });
  await page.keyboard.press('Escape');
});
