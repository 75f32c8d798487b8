/** Picking and treating by hand: samples and ranges, curves, bands, keyed values, handles, pairs, starting points, scopes. */
import assert from 'node:assert/strict';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';
import { hands } from './hands.mjs';

const cossel = new Cossel(8695);
const LAUGH = 2;
const GAZE = 3;
const SKIN = 4;
let page;
const { onPage, drag, goTo, addArea, choose: chooseFile } = hands(() => page);

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

const recipe = async (shot) => (await cossel.api('GET', `/shots/${shot}/recipe`)).body.recipe;
const area = async (shot, name) => (await recipe(shot)).areas.find((a) => a.name === name);
const touch = async (shot, name, kind) => (await area(shot, name)).touches.find((t) => t.kind === kind);

/** Drags inside an element, by shares of its size. */
async function within(locator, from, to) {
  await locator.scrollIntoViewIfNeeded();
  const b = await locator.boundingBox();
  await drag([b.x + from[0] * b.width, b.y + from[1] * b.height], [b.x + to[0] * b.width, b.y + to[1] * b.height]);
}
async function open(shot) {
  await page.goto(`${cossel.url}/shots/${shot}`);
  await page.getByRole('button', { name: 'Add an area' }).and(page.locator(':enabled')).waitFor();
}
async function addEllipse(name, centre, radii) {
  await addArea(name);
  await drag(await onPage([centre[0] - radii[0], centre[1] - radii[1]]), await onPage([centre[0] + radii[0], centre[1] + radii[1]]));
}
const step = (name) => page.locator('.line').filter({ hasText: name }).click();
const card = (kind) => page.locator(`[data-touch="${kind}"]`);
async function add(kind, side = 'inside') {
  await page.getByRole('button', { name: 'Add a touch' }).click();
  await page.getByRole('group', { name: side, exact: true }).getByRole('button', { name: kind, exact: true }).click();
}
async function type(kind, label, value) {
  const ruler = card(kind).locator('.ruler').filter({ has: page.getByRole('slider', { name: label, exact: true }) });
  await ruler.locator('button.figure').click();
  await ruler.locator('input.figure').fill(String(value));
  await ruler.locator('input.figure').press('Enter');
}
/** The mean of the shown canvas round a picture point. */
const shown = async (at) => {
  const [x, y] = await onPage(at);
  return page.evaluate(([px, py]) => {
    const canvas = document.querySelector('[data-stage] canvas');
    const r = canvas.getBoundingClientRect();
    const d = canvas.getContext('2d').getImageData(Math.round((px - r.left) * devicePixelRatio) - 2, Math.round((py - r.top) * devicePixelRatio) - 2, 5, 5).data;
    const sum = [0, 0, 0];
    for (let i = 0; i < d.length; i += 4) for (let c = 0; c < 3; ++c) sum[c] += d[i + c] / 25;
    return sum;
  }, [x, y]);
};
/** The picture is there and not being redone. */
const rested = () => until(async () => (await page.locator('.redoing').count()) === 0 && (await page.getByText('Making the picture…').count()) === 0);
const grey = ([r, g, b]) => Math.max(r, g, b) - Math.min(r, g, b);

test('samples pick the iris, and the pick is seen as a matte and over grey', async () => {
  await open(GAZE);
  await goTo(40);
  await addEllipse('Left iris', [1.1193, 0.4629], [0.0945, 0.09]);
  await until(async () => (await area(GAZE, 'Left iris'))?.outline.shapes.length === 1);
  await step('Pick');
  await page.getByRole('button', { name: 'Sample +' }).click();
  await drag(await onPage([1.05, 0.44]), await onPage([1.08, 0.48]));
  await until(async () => (await area(GAZE, 'Left iris')).pick?.samples.length === 9);
  await page.getByRole('button', { name: 'Sample −' }).click();
  await page.mouse.click(...(await onPage([1.199, 0.45])));
  await until(async () => (await area(GAZE, 'Left iris')).pick.samples.length === 10);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Matte', exact: true }).last().click();
  await until(async () => (await shown([1.3, 0.2]))[0] < 8);
  assert.ok((await shown([1.065, 0.46]))[0] > 120, String(await shown([1.065, 0.46])));
  await page.getByRole('button', { name: 'Picked over grey' }).click();
  await until(async () => grey(await shown([1.3, 0.2])) < 4 && (await shown([1.3, 0.2]))[0] > 60);
  await page.getByRole('button', { name: 'Picture', exact: true }).click();
});

test('its ranges are dragged on bands, cleaned, and follow the light', async () => {
  const before_ = (await area(GAZE, 'Left iris')).pick;
  await within(page.locator('[data-range="Lightness"] svg'), [Math.min(0.95, before_.light[1]), 0.2], [Math.min(0.99, before_.light[1] + 0.1), 0.2]);
  await until(async () => (await area(GAZE, 'Left iris')).pick.light[1] > before_.light[1] + 0.05);
  assert.equal((await area(GAZE, 'Left iris')).pick.light[0], before_.light[0]);
  await page.getByLabel(/Lightness follows/).check();
  await until(async () => (await area(GAZE, 'Left iris')).pick.follow !== null);
  await page.getByLabel(/Lightness follows/).uncheck();
  await until(async () => (await area(GAZE, 'Left iris')).pick.follow === null);
  await page.getByRole('button', { name: /^Holes .*type a value/ }).click();
  await page.getByLabel('Holes, typed').fill('1.2');
  await page.keyboard.press('Enter');
  await until(async () => (await area(GAZE, 'Left iris')).pick.clean.holes === 0.012);
});

test('a starting point turns the iris green and keeps its pupil; held, it is seen without', async () => {
  await step('Treat');
  await rested();
  const brown = await shown([1.065, 0.46]);
  const pupil = await shown([1.125, 0.47]);
  await page.getByRole('button', { name: 'Start from…' }).click();
  await page.getByRole('button', { name: /^Green eyes/ }).click();
  await until(async () => (await touch(GAZE, 'Left iris', 'iris'))?.hue === 150);
  await until(async () => (await shown([1.065, 0.46]))[1] > (await shown([1.065, 0.46]))[0] + 4, 30);
  assert.ok(brown[0] > brown[1] + 4, String(brown));
  const after_ = await shown([1.125, 0.47]);
  assert.ok(Math.abs(after_[0] - pupil[0]) < 14 && Math.abs(after_[1] - pupil[1]) < 14, `${pupil} ${after_}`);
  const hold = await card('iris').getByRole('button', { name: 'Hold to see it without Iris' }).boundingBox();
  await page.mouse.move(hold.x + 6, hold.y + 8);
  await page.mouse.down();
  await until(async () => (await shown([1.065, 0.46]))[0] > (await shown([1.065, 0.46]))[1] + 4, 20);
  await page.mouse.up();
  await until(async () => (await shown([1.065, 0.46]))[1] > (await shown([1.065, 0.46]))[0] + 4, 20);
  await page.getByRole('button', { name: 'Hue 250°' }).click();
  await until(async () => (await touch(GAZE, 'Left iris', 'iris')).hue === 250);
});

test('the other eye is made, linked, unlinked with touches of its own, and linked again', async () => {
  await cossel.api('GET', `/shots/${GAZE}/recipe`).then(async ({ body }) => {
    body.recipe.areas[0].part = 'iris';
    await cossel.api('PUT', `/shots/${GAZE}/recipe`, { base: body.revision, label: 'Part', recipe: body.recipe });
  });
  await page.reload();
  await goTo(40);
  await page.getByRole('button', { name: 'Make the other eye' }).click();
  await until(async () => (await area(GAZE, 'Right iris'))?.pair?.linked, 30);
  const right = (await area(GAZE, 'Right iris'));
  assert.ok(Math.hypot(right.outline.shapes[0].centre[0] - 194.17 / 720, right.outline.shapes[0].centre[1] - 388.29 / 720) < 0.03, JSON.stringify(right.outline.shapes[0].centre));
  assert.deepEqual(right.touches, []);
  await page.getByText('Treated as Left iris').waitFor();
  await type('iris', 'Chroma', 0.08);
  await until(async () => (await touch(GAZE, 'Left iris', 'iris')).chroma === 0.08);
  await page.getByRole('button', { name: 'Unlink' }).click();
  await until(async () => (await area(GAZE, 'Right iris')).touches.length === 1);
  await type('iris', 'Chroma', 0.02);
  await until(async () => (await touch(GAZE, 'Right iris', 'iris')).chroma === 0.02);
  assert.equal((await touch(GAZE, 'Left iris', 'iris')).chroma, 0.08);
  await page.getByRole('button', { name: 'Link again' }).click();
  await until(async () => (await area(GAZE, 'Right iris')).pair.linked && (await area(GAZE, 'Right iris')).touches.length === 0);
});

test('curves, hue band and balance are drawn by hand', async () => {
  await open(LAUGH);
  await goTo(40);
  await addEllipse('Face', [0.868, 0.52], [0.25, 0.36]);
  await until(async () => (await area(LAUGH, 'Face'))?.outline.shapes.length === 1);
  await step('Treat');
  await add('Curves');
  await within(page.locator('[data-curve]'), [0.5, 0.5], [0.45, 0.35]);
  await until(async () => (await touch(LAUGH, 'Face', 'curves'))?.luma.length === 3);
  const [, middle] = (await touch(LAUGH, 'Face', 'curves')).luma;
  assert.ok(Math.abs(middle[0] - 0.45) < 0.02 && Math.abs(middle[1] - 0.65) < 0.03, String(middle));
  await page.getByRole('group', { name: 'Curve', exact: true }).getByRole('button', { name: 'Red' }).click();
  await within(page.locator('[data-curve]'), [0.7, 0.3], [0.7, 0.38]);
  await until(async () => (await touch(LAUGH, 'Face', 'curves')).red.length === 3);
  await add('Hues');
  await within(page.locator('[data-hue-band]'), [40 / 360, 0.5], [40 / 360, 0.8]);
  await until(async () => (await touch(LAUGH, 'Face', 'hues'))?.saturation.length === 3);
  const pulled = (await touch(LAUGH, 'Face', 'hues')).saturation.find(([h]) => Math.abs(h - 40) < 3);
  assert.ok(pulled[1] < -0.4, String(pulled));
  await add('Balance');
  const flag = page.getByRole('slider', { name: 'mids, green to red' });
  await flag.scrollIntoViewIfNeeded();
  const f = await flag.boundingBox();
  await drag([f.x + 7, f.y + 8], [f.x + 37, f.y + 8]);
  await until(async () => (await touch(LAUGH, 'Face', 'balance'))?.midsRed > 0.015);
  await flag.press('Home');
  await until(async () => (await touch(LAUGH, 'Face', 'balance')).midsRed === 0);
});

test('touches are put in another order by dragging, copied and pasted', async () => {
  const kinds = async () => (await area(LAUGH, 'Face')).touches.map((t) => t.kind).join();
  assert.equal(await kinds(), 'curves,hues,balance');
  for (const kind of ['curves', 'hues', 'balance']) await card(kind).getByRole('button', { name: { curves: 'Curves', hues: 'Hues', balance: 'Balance' }[kind], exact: true }).click();
  await card('curves').scrollIntoViewIfNeeded();
  const grip = await card('balance').locator('[data-grip]').boundingBox();
  const first = await card('curves').boundingBox();
  await drag([grip.x + 6, grip.y + 8], [grip.x + 6, first.y + 8]);
  await until(async () => (await kinds()) === 'balance,curves,hues');
  await card('hues').getByRole('button', { name: 'Copy Hues' }).click();
  await page.getByRole('tab', { name: 'Base', exact: true }).click();
  await page.getByRole('button', { name: 'Paste', exact: true }).click();
  await until(async () => (await recipe(LAUGH)).base.length === 1);
  const { base, areas } = await recipe(LAUGH);
  assert.deepEqual(base[0].saturation, areas[0].touches[2].saturation);
  assert.notEqual(base[0].id, areas[0].touches[2].id);
  assert.equal(base[0].side, undefined);
  await page.getByRole('tab', { name: 'Finish', exact: true }).click();
  await page.getByRole('button', { name: 'Add a touch' }).click();
  await page.getByRole('button', { name: 'Legal levels' }).click();
  await until(async () => (await recipe(LAUGH)).finish.length === 1);
  await page.getByRole('button', { name: 'Add a touch' }).click();
  assert.equal(await page.getByRole('button', { name: 'Legal levels', exact: true }).filter({ hasNot: page.locator('[aria-expanded]') }).count(), 1);
  await page.getByRole('group', { name: 'whole frame' }).getByRole('button', { name: 'Exposure' }).click();
  await until(async () => (await recipe(LAUGH)).finish.map((t) => t.kind).join() === 'exposure,legal');
});

test('a value is keyed on two frames and blends between them', async () => {
  await page.keyboard.press('Shift+A');
  await add('Exposure');
  await goTo(20);
  await card('exposure').locator('.ruler').first().hover();
  await page.getByRole('button', { name: 'Light: keyframe here' }).click();
  await until(async () => (await touch(LAUGH, 'Face', 'exposure')).stops.keys?.length === 1);
  await goTo(60);
  await type('exposure', 'Light', 1);
  await until(async () => (await touch(LAUGH, 'Face', 'exposure')).stops.keys.length === 2);
  assert.deepEqual((await touch(LAUGH, 'Face', 'exposure')).stops.keys.map((k) => [k.frame, k.value]), [[20, 0], [60, 1]]);
  await goTo(40);
  assert.equal(await card('exposure').locator('button.figure').first().innerText(), '+0.50 st');
  await goTo(60);
  await page.getByRole('button', { name: 'Light: take the keyframe here away' }).click();
  await until(async () => (await touch(LAUGH, 'Face', 'exposure')).stops.keys.length === 1);
});

test('light from one side is turned on the picture', async () => {
  await rested();
  const even = [await shown([0.75, 0.5]), await shown([1.0, 0.5])];
  await add('Sidelight');
  await type('sidelight', 'Light', -1.5);
  await until(async () => (await touch(LAUGH, 'Face', 'sidelight'))?.stops === -1.5);
  // Light is taken from the right, then from the left.
  await until(async () => (await shown([1.0, 0.5]))[0] < even[1][0] - 20, 20);
  const lamp = await page.locator('[data-handle="sidelight"]').boundingBox();
  const to = await onPage([0.55, 0.52]);
  await drag([lamp.x + 7, lamp.y + 7], to);
  await until(async () => Math.abs((await touch(LAUGH, 'Face', 'sidelight')).direction) > 165);
  await until(async () => (await shown([0.75, 0.5]))[0] < even[0][0] - 20 && (await shown([1.0, 0.5]))[0] > even[1][0] - 20, 20);
});

test('a spot is covered: found by itself, then from where the ring is dragged', async () => {
  await open(SKIN);
  await goTo(20);
  await addEllipse('Spot', [619.5 / 720, 413.45 / 720], [0.016, 0.016]);
  await until(async () => (await area(SKIN, 'Spot'))?.outline.shapes.length === 1);
  await step('Treat');
  await rested();
  const red = grey(await shown([619.5 / 720, 413.45 / 720]));
  await page.getByRole('button', { name: 'Start from…' }).click();
  await page.getByRole('button', { name: /^Cover a spot/ }).click();
  await until(async () => (await touch(SKIN, 'Spot', 'conceal'))?.offsetX === 0.05);
  await page.getByRole('button', { name: 'Find a place' }).click();
  await until(async () => (await touch(SKIN, 'Spot', 'conceal')).offsetX !== 0.05, 20);
  await until(async () => grey(await shown([619.5 / 720, 413.45 / 720])) < red - 20, 20);
  const ring = await page.locator('[data-handle="conceal"]').boundingBox();
  const from = [ring.x + ring.width / 2, ring.y + ring.height / 2];
  const unit = (await onPage([1, 0]))[0] - (await onPage([0, 0]))[0];
  const was = await touch(SKIN, 'Spot', 'conceal');
  await drag(from, [from[0] + 12, from[1] - 6]);
  await until(async () => Math.abs((await touch(SKIN, 'Spot', 'conceal')).offsetX - was.offsetX - 12 / unit) < 0.003);
});

test('scopes show the frame or the area', async () => {
  for (const [name, scope] of [['Parade', 'parade'], ['Vectors', 'vectorscope'], ['Histogram', 'histogram'], ['Waveform', 'waveform']]) {
    await page.getByRole('group', { name: 'Which scope' }).getByRole('button', { name }).click();
    const canvas = page.locator(`[data-scope="${scope}"]`);
    await canvas.waitFor();
    await until(async () => canvas.evaluate((c) => new Set(new Uint32Array(c.getContext('2d').getImageData(0, 0, c.width, c.height).data.buffer)).size > 20), 20);
  }
  const read = () => page.locator('[data-scope="waveform"]').evaluate((c) => c.toDataURL());
  const frame = await read();
  await page.getByRole('button', { name: 'Area alone' }).click();
  await until(async () => (await read()) !== frame, 20);
  await page.getByRole('button', { name: 'Fold the scope away' }).click();
  await page.locator('[data-scope="waveform"]').waitFor({ state: 'hidden' });
});

test('look-up tables and decision lists come in from files, and what is wrong with one is said', async () => {
  const file = (name, text) => {
    const path = join(cossel.folder, name);
    writeFileSync(path, text);
    return path;
  };
  await page.getByRole('tab', { name: 'Base', exact: true }).click();
  await page.getByRole('button', { name: 'Add a touch' }).click();
  await page.getByRole('button', { name: 'Look-up table' }).click();
  await chooseFile(page.getByRole('button', { name: 'Choose a .cube file' }), file('broken.cube', 'LUT_1D_SIZE 2\n0 0 0\n1 1\n'));
  await page.getByText('Line 3 of the look-up table: expected three numbers.').waitFor();
  await chooseFile(page.getByRole('button', { name: 'Choose a .cube file' }), file('dark.cube', 'LUT_1D_SIZE 2\n0 0 0\n0.1 0.1 0.1\n'));
  await until(async () => (await recipe(SKIN)).base[0]?.file !== null);
  await until(async () => Math.max(...(await shown([0.9, 0.3]))) < 40, 20);
  await card('lut').getByRole('button', { name: 'Remove Look-up table' }).click();
  await page.getByRole('button', { name: 'Add a touch' }).click();
  await page.getByRole('button', { name: 'Decision list' }).click();
  await chooseFile(page.getByRole('button', { name: 'Read a file' }), file('a.cc', '<ColorCorrection id="a" xmlns="urn:ASC:CDL:v1.2"><SOPNode><Slope>1.2 1 0.9</Slope><Offset>0 0 0</Offset><Power>1 1 1</Power></SOPNode></ColorCorrection>'));
  await until(async () => (await recipe(SKIN)).base[0]?.slopeRed === 1.2);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: '.ccc' }).click()]);
  assert.match(download.suggestedFilename(), /\.ccc$/);
});
