/** Judging: views, comparing with what one likes, versions. */
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';
import { hands } from './hands.mjs';

const cossel = new Cossel(8697);
const BACKLIT = 1;
const LAUGH = 2;
const SKIN = 4;
let page;
const { drag, onPage, onRuler } = hands(() => page);

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
const another = async (name) => {
  await page.getByRole('combobox', { name: 'Another shot' }).click();
  await page.getByRole('option', { name, exact: true }).click();
};
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
  await page.getByRole('button', { name: 'Delete it' }).click();
  await page.getByRole('button', { name: 'Approved', exact: true }).waitFor({ state: 'hidden' });
});

test('resting makes the span ready to play in the background, shown on the ruler', async () => {
  await until(async () => (await page.locator('[data-ruler] rect.ready').count()) > 0, 60);
});

test('full screen shows the picture alone, with the original while its key is held', async () => {
  await page.getByRole('button', { name: 'Full', exact: true }).click();
  await until(() => page.evaluate(() => document.fullscreenElement?.hasAttribute('data-stage') ?? false));
  await rested();
  const result = await at([0.5, 0.45]);
  await page.keyboard.down('o');
  await until(async () => (await at([0.5, 0.45])).some((v, i) => Math.abs(v - result[i]) > 0.4));
  await page.waitForTimeout(320);
  await page.keyboard.up('o');
  await page.evaluate(() => document.exitFullscreen());
});

const telltales = async (shot) => (await cossel.api('GET', `/shots/${shot}/telltales`)).body;
const judged = async (shot) => {
  await until(async () => (await telltales(shot)).findings !== null, 120);
  return (await telltales(shot)).findings;
};
const ringing = async (shot) => (await judged(shot)).filter((f) => f.rings).map((f) => `${f.telltale} ${f.area}`);
/** Changes a shot's recipe behind the bench's back, as a hand in a hurry would. */
async function spoil(shot, change) {
  const { revision, recipe } = (await cossel.api('GET', `/shots/${shot}/recipe`)).body;
  change(recipe);
  if (Array.isArray(recipe.assets)) recipe.assets = {};
  assert.equal((await cossel.api('PUT', `/shots/${shot}/recipe`, { base: revision, label: 'In a hurry', recipe })).status, 200);
}

test('whitening at full is found, told in the list, marked under the picture, and cured in one step', async () => {
  await spoil(LAUGH, (r) => (r.areas[1].touches = [{ id: 'w1', kind: 'whiten', yellow: 1, lift: 0.2, ceiling: 1 }]));
  await page.goto(`${cossel.url}/shots/${LAUGH}`);
  await page.getByRole('button', { name: 'Area B, Teeth' }).click();
  await page.locator('.line').filter({ hasText: 'Judge' }).click();
  await page.getByText('Looking the shot over').waitFor();
  assert.ok((await ringing(LAUGH)).includes('over-white teeth'));
  await page.getByRole('button', { name: /over-white over its limit/ }).click();
  const worst = (await judged(LAUGH)).find((f) => f.telltale === 'over-white').worst;
  await page.getByText(new RegExp(`^${worst} of 0–83$`)).waitFor();
  await page.getByRole('button', { name: new RegExp(`^Frame ${worst}, `) }).waitFor();
  await rested();
  const spoilt = await canvas();
  await page.getByRole('button', { name: 'Preview' }).click();
  await page.getByText('Nothing is changed yet.').waitFor();
  await until(async () => (await canvas()) !== spoilt);
  assert.equal((await cossel.api('GET', `/shots/${LAUGH}/recipe`)).body.recipe.areas[1].touches[0].ceiling, 1);
  await page.getByRole('button', { name: 'Apply' }).click();
  await until(async () => (await cossel.api('GET', `/shots/${LAUGH}/recipe`)).body.recipe.areas[1].touches[0].ceiling < 0.9);
  assert.ok(!(await ringing(LAUGH)).includes('over-white teeth'));
  await page.getByRole('button', { name: /^over-white \d/ }).waitFor();
  await page.keyboard.press('Control+z');
  await until(async () => (await ringing(LAUGH)).includes('over-white teeth'));
  await page.keyboard.press('Control+Shift+z');
});

test('a mask without feather that was shifted on some frames is found and cured; the job tells what is open', async () => {
  await spoil(BACKLIT, (r) => {
    Object.assign(r.areas[0].outline.shapes[0], { featherIn: 0, featherOut: 0 });
    r.areas[0].motion.keys = [{ frame: 40 }, { frame: 60, move: [0.2, 0] }];
  });
  await page.goto(`${cossel.url}/shots/${BACKLIT}`);
  await page.locator('.line').filter({ hasText: 'Judge' }).click();
  const found = await ringing(BACKLIT);
  assert.ok(found.includes('halo face') && found.includes('drift face'), found.join(', '));
  await page.goto(`${cossel.url}/jobs/1`);
  await page.locator('.part').filter({ hasText: 'Face' }).locator('.tells').filter({ hasText: 'drift' }).click();
  await page.getByRole('button', { name: 'drift over its limit' }).click();
  await page.getByText('Take out the correction on frame 60').waitFor();
  await page.getByRole('button', { name: 'Apply' }).click();
  await until(async () => (await cossel.api('GET', `/shots/${BACKLIT}/recipe`)).body.recipe.areas[0].motion.keys.length === 1);
  assert.ok(!(await ringing(BACKLIT)).includes('drift face'));
  await page.getByRole('button', { name: 'halo over its limit' }).click();
  await page.getByText('Widen the outer feather').waitFor({ timeout: 60000 });
  await page.getByRole('button', { name: 'Apply' }).first().click();
  await until(async () => (await cossel.api('GET', `/shots/${BACKLIT}/recipe`)).body.recipe.areas[0].outline.shapes[0].featherOut > 0);
  assert.ok(!(await ringing(BACKLIT)).includes('halo face'));
});

test('a limit can be moved, and what rings moves with it', async () => {
  await page.getByRole('button', { name: /^drift / }).click();
  await page.locator('.telltales .ruler').filter({ hasText: 'Limit' }).locator('button.figure').click();
  await page.getByLabel('Limit, typed').fill('2');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'drift over its limit' }).waitFor();
  assert.equal((await telltales(BACKLIT)).findings.find((f) => f.telltale === 'drift' && f.area === 'face').limit, 2);
});

test('witnesses are as many as asked for, and where a tell-tale rings', async () => {
  await page.getByRole('group', { name: 'How many witnesses' }).getByRole('button', { name: '5', exact: true }).click();
  await until(async () => (await page.locator('.witness').count()) === 5);
  await page.getByRole('group', { name: 'Which witnesses' }).getByRole('button', { name: 'tell' }).click();
  await page.locator('.witness').filter({ hasText: 'drift' }).first().waitFor();
  await page.locator('.witness').first().hover();
  await page.locator('.witness .large').first().waitFor();
  const first = await page.locator('.witness span').first().innerText();
  await page.keyboard.press('Home');
  await page.keyboard.press('.');
  await page.locator('.witness.now').waitFor();
  assert.ok(first.length > 0);
});

test('playing goes round the frames chosen on the lane, and goes on while one looks at the original', async () => {
  await page.goto(`${cossel.url}/shots/${LAUGH}`);
  await rested();
  const lane = await page.locator('[data-lane="teeth"]').boundingBox();
  await drag([lane.x + (await onRuler(30)), lane.y + 8], [lane.x + (await onRuler(35)), lane.y + 8]);
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Stop', exact: true }).waitFor({ timeout: 60000 });
  const now = async () => parseInt(await page.locator('.frame').innerText(), 10);
  await until(async () => (await now()) >= 30 && (await now()) <= 35);
  const frames = new Set();
  await until(async () => {
    frames.add(await now());
    return frames.size === 6;
  });
  assert.deepEqual([...frames].sort(), [30, 31, 32, 33, 34, 35]);
  const result = await at([0.5, 0.72]);
  await page.keyboard.press('o');
  await page.waitForTimeout(400);
  await until(async () => (await at([0.5, 0.72])).some((v, i) => Math.abs(v - result[i]) > 0.6));
  assert.equal(await page.getByRole('button', { name: 'Stop', exact: true }).count(), 1);
  await page.keyboard.press('o');
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Play', exact: true }).waitFor();
});

test('after an edit it plays at once, and every frame shown is as the edit has made it', async () => {
  await page.goto(`${cossel.url}/shots/${LAUGH}`);
  await page.getByRole('tab', { name: 'C Lips' }).click();
  await page.locator('.line').filter({ hasText: 'Treat' }).click();
  await rested();
  await page.keyboard.press(' ');
  await until(async () => (await page.locator('[data-ruler] rect.ready').count()) === 1 && (await page.locator('.coarse').count()) === 0, 60);
  await page.keyboard.press(' ');
  const old = (await cossel.api('GET', `/shots/${LAUGH}/recipe`)).body.revision;
  await page.getByRole('switch', { name: 'Tone on' }).click();
  await page.getByRole('switch', { name: 'Colour on' }).click();
  await until(async () => (await cossel.api('GET', `/shots/${LAUGH}/recipe`)).body.revision > old + 1);
  // Space would press the switch.
  await page.evaluate(() => document.activeElement?.blur());
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Stop', exact: true }).waitFor();
  // Lips and teeth, and a place beside them, on each frame as it is shown.
  const places = [[[0.72, 0.62], [1.0, 0.76]], [[0.2, 0.2], [0.4, 0.4]]];
  const boxes = [];
  for (const [from, to] of places) boxes.push([...(await onPage(from)), ...(await onPage(to))]);
  const shown = await page.evaluate(async (boxes) => {
    const canvas = document.querySelector('[data-stage] canvas');
    const stage = canvas.getBoundingClientRect();
    const mean = ([l, t, r, b]) => {
      const d = canvas.getContext('2d').getImageData((l - stage.x) * devicePixelRatio, (t - stage.y) * devicePixelRatio, (r - l) * devicePixelRatio, (b - t) * devicePixelRatio).data;
      const sum = [0, 0, 0];
      for (let i = 0; i < d.length; i += 4) for (let c = 0; c < 3; ++c) sum[c] += d[i + c] / (d.length / 4);
      return sum;
    };
    const seen = new Map();
    while (seen.size < 40) {
      await new Promise((done) => requestAnimationFrame(done));
      const frame = parseInt(document.querySelector('.frame').textContent, 10);
      if (!seen.has(frame)) seen.set(frame, boxes.map(mean));
    }
    return [...seen];
  }, boxes);
  await page.keyboard.press(' ');
  const of = (frame, revision) => page.evaluate(async ([shot, asked, places]) => {
    const answer = await fetch(`/api/shots/${shot}/picture`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(asked) });
    const image = await createImageBitmap(await answer.blob());
    const g = new OffscreenCanvas(image.width, image.height).getContext('2d');
    g.drawImage(image, 0, 0);
    return places.map(([[l, t], [r, b]]) => {
      const d = g.getImageData(l * image.height, t * image.height, (r - l) * image.height, (b - t) * image.height).data;
      const sum = [0, 0, 0];
      for (let i = 0; i < d.length; i += 4) for (let c = 0; c < 3; ++c) sum[c] += d[i + c] / (d.length / 4);
      return sum;
    });
  }, [LAUGH, { frame, view: 'result', height: 540, ...(revision ? { revision } : {}) }, places]);
  const far = (a, b) => Math.hypot(...a.map((v, i) => v - b[i]));
  // The first two may have been seen before Space.
  for (const [frame, [lips, beside]] of shown.slice(2).filter((_, i) => i % 6 === 0)) {
    const [before, now] = [await of(frame, old), await of(frame)];
    assert.ok(far(before[0], now[0]) > 0.5, `the edit can be seen: ${before[0]} ${now[0]}`);
    assert.ok(far(lips, now[0]) < far(lips, before[0]), `frame ${frame}: ${lips} is not ${now[0]} but ${before[0]}`);
    assert.ok(far(beside, now[1]) < 2, `frame ${frame} beside: ${beside} is not ${now[1]}`);
  }
  assert.ok(shown.length >= 40);
});

test('another shot of the job is laid beside this one, and the cut between them is played', async () => {
  await page.locator('.line').filter({ hasText: 'Judge' }).click();
  await another('gh050_leaf');
  await page.locator('[data-handle="split"]').waitFor();
  await rested();
  const alone = await canvas();
  await page.locator('.panel .ruler').filter({ hasText: 'Its frame' }).locator('button.figure').click();
  await page.getByLabel('Its frame, typed').fill('40');
  await page.keyboard.press('Enter');
  await until(async () => (await canvas()) !== alone);
  await page.getByRole('button', { name: 'Cut to it' }).click();
  await page.getByRole('button', { name: 'Stop', exact: true }).waitFor({ timeout: 120000 });
  assert.equal(await page.locator('[data-handle="split"]').count(), 0);
  const seen = new Set();
  await until(async () => {
    seen.add(await page.locator('.frame').innerText());
    return [...seen].some((words) => words.includes('of gh050_leaf')) && [...seen].some((words) => words.includes('of 0–83'));
  });
  await page.keyboard.press(' ');
  await another('none');
  await page.locator('[data-handle="split"]').waitFor({ state: 'hidden' });
});
