/** One dark moving face, relit and delivered: the whole job by hand-like actions in a real browser. */
import assert from 'node:assert/strict';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { Cossel, decoded, grey16, root, until } from './cossel.mjs';

const cossel = new Cossel(8691);
const source = join(root, 'demo/footage/gh010_backlit.webm');
const W = 1280;
const H = 720;
let page;

before(async () => {
  await cossel.start();
  page = await cossel.page();
  page.setDefaultTimeout(15000);
});
after(() => cossel.stop());

/** Where a point of the picture (in picture heights) is on the page. */
async function onPage([x, y]) {
  const box = await page.locator('[data-stage]').boundingBox();
  const unit = Math.min(box.height - 40, (box.width - 40) / (W / H));
  return [box.x + box.width / 2 + (x - W / H / 2) * unit, box.y + box.height / 2 + (y - 0.5) * unit];
}

async function drag(from, to, steps = 8) {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move(...to, { steps });
  await page.mouse.up();
}

async function dragHandle(name, dx, dy) {
  const box = await page.locator(`g.chosen [data-handle="${name}"], [data-handle="${name}"]`).first().boundingBox();
  const from = [box.x + box.width / 2, box.y + box.height / 2];
  await drag(from, [from[0] + dx, from[1] + dy]);
}

/** Types a value into a ruler slider. */
async function set(card, label, value) {
  const ruler = page.locator(`[data-touch="${card}"] .ruler`).filter({ has: page.getByText(label, { exact: true }) }).first();
  await ruler.locator('button.figure').click();
  await ruler.locator('input.figure').fill(String(value));
  await ruler.locator('input.figure').press('Enter');
}

/** Takes a file where the dialog asks for one. */
async function choose(file) {
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Choose files' }).click()]);
  await chooser.setFiles(file);
}

const saved = () => page.getByText('saved', { exact: true }).waitFor();
const recipe = async () => (await cossel.api('GET', '/shots/1/recipe')).body;
/** The mean grey of a patch of the picture as the stage shows it. */
const shown = async (at, size = 12) => {
  const [x, y] = await onPage(at);
  return page.evaluate(([px, py, s]) => {
    const canvas = document.querySelector('[data-stage] canvas');
    const box = canvas.getBoundingClientRect();
    const k = canvas.width / box.width;
    const { data } = canvas.getContext('2d').getImageData((px - box.x) * k - s / 2, (py - box.y) * k - s / 2, s, s);
    let sum = 0;
    for (let i = 0; i < data.length; i += 4) sum += 0.2126 * data[i] + 0.7152 * data[i + 1] + 0.0722 * data[i + 2];
    return sum / (data.length / 4);
  }, [x, y, size]);
};

test('footage is uploaded into a new job and read', async () => {
  await page.goto(cossel.url);
  await page.getByText('No job yet').waitFor();
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name').fill('The Verrin Glasshouse');
  await page.getByRole('button', { name: 'Make the job' }).click();
  await page.getByText('No footage in this job yet').waitFor();
  await page.getByRole('button', { name: 'Bring in footage' }).click();
  await choose(source);
  await page.getByText('84 f · 24 · 1280×720').waitFor({ timeout: 60000 });
});

test('a text renamed to .webm is refused with a sentence', async () => {
  await page.getByRole('button', { name: 'Bring in footage' }).click();
  await choose({ name: 'notes.webm', mimeType: 'video/webm', buffer: Buffer.from('Not a film at all.\n'.repeat(40)) });
  await page.getByText('This file cannot be read as video').waitFor({ timeout: 30000 });
  await page.getByRole('button', { name: 'Remove' }).click();
});

test('the base grade changes the picture', async () => {
  await page.getByRole('link', { name: 'Open gh010_backlit' }).click();
  await page.getByText('42 of 0–83').waitFor();
  await until(async () => (await shown([0.3, 0.4])) > 20, 30);
  const before = await shown([0.3, 0.85]);
  await page.getByRole('button', { name: 'Exposure, tone and colour' }).click();
  await set('exposure', 'Light', -0.4);
  await set('tone', 'Contrast', 1.05);
  await set('colour', 'Saturation', 110);
  await saved();
  await until(async () => (await shown([0.3, 0.85])) < before - 8, 20);
});

test('an area is added and an ellipse drawn over the head', async () => {
  await page.getByRole('button', { name: 'Add an area' }).click();
  await page.getByRole('button', { name: 'Add and draw it' }).click();
  await page.getByText('Drag across the picture').waitFor();
  await drag(await onPage([0.99, 0.22]), await onPage([1.36, 0.78]));
  await until(async () => (await recipe()).recipe.areas[0]?.outline.shapes.length === 1);
  const { outline } = (await recipe()).recipe.areas[0];
  assert.equal(outline.at, 42);
  assert.ok(Math.abs(outline.shapes[0].centre[0] - 1.175) < 0.01 && Math.abs(outline.shapes[0].radii[1] - 0.28) < 0.01, JSON.stringify(outline));
});

test('it is turned by its flag and resized by its edge', async () => {
  const before = (await recipe()).recipe.areas[0].outline.shapes[0];
  await dragHandle('flag', 14, 22);
  await until(async () => (await recipe()).recipe.areas[0].outline.shapes[0].turn > 3);
  await dragHandle('edge-0', 12, 3);
  await until(async () => (await recipe()).recipe.areas[0].outline.shapes[0].radii[0] > before.radii[0] + 0.01);
});

test('it is followed both ways, with progress', async () => {
  await page.getByRole('button', { name: '2 Follow' }).click();
  await page.getByRole('button', { name: 'Follow both ways' }).click();
  await page.getByText(/following, \d+ of 83/).first().waitFor();
  await page.getByText(/similarity · 84\/84/).waitFor({ timeout: 60000 });
  const motions = (await cossel.api('GET', '/shots/1/motions')).body.areas;
  const [area] = Object.values(motions);
  assert.ok(area.states.every((s) => s === 'followed' || s === 'set'), area.states.join());
});

test('stopping a follow keeps what was found', async () => {
  await page.getByRole('button', { name: 'Follow both ways' }).click();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Follow both ways' }).waitFor({ timeout: 30000 });
  assert.equal(Object.values((await cossel.api('GET', '/shots/1/motions')).body.areas)[0].matrices.length, 84);
});

test('shrinking and softening afterwards leave the motion alone', async () => {
  const track = (await recipe()).recipe.areas[0].motion.track.sha256;
  const before = (await recipe()).recipe.areas[0].outline.shapes[0];
  await dragHandle('outer-0', 30, 4);
  await until(async () => (await recipe()).recipe.areas[0].outline.shapes[0].featherOut > before.featherOut + 0.01);
  await dragHandle('edge-3', 0, 12);
  await until(async () => (await recipe()).recipe.areas[0].outline.shapes[0].radii[1] < before.radii[1] - 0.01);
  assert.equal((await recipe()).recipe.areas[0].motion.track.sha256, track);
});

test('touches inside and outside change the picture where they should', async () => {
  await page.getByRole('button', { name: '4 Treat' }).click();
  const face = await shown([1.2, 0.5]);
  await page.getByRole('button', { name: 'Exposure, tone and colour' }).click();
  await set('exposure', 'Light', 1.4);
  await set('tone', 'Gamma', 1.1);
  await set('colour', 'Temperature', 8);
  await saved();
  await page.getByRole('button', { name: 'Add a touch' }).click();
  await page.getByRole('group', { name: 'outside' }).getByRole('button', { name: 'Exposure' }).click();
  await until(async () => (await recipe()).recipe.areas[0].touches.length === 4);
  const outside = page.locator('[data-touch="exposure"]').nth(1).locator('.ruler').first();
  await outside.locator('button.figure').click();
  await outside.locator('input.figure').fill('-0.3');
  await outside.locator('input.figure').press('Enter');
  await until(async () => (await recipe()).recipe.areas[0].touches[3].stops === -0.3);
  await until(async () => (await shown([1.2, 0.5])) > face + 20, 20);
});

test('dragging a slider shows the change before it is let go', async () => {
  const track = page.locator('[data-touch="exposure"] .track').first();
  await track.scrollIntoViewIfNeeded();
  await until(async () => (await page.locator('.redoing').count()) === 0);
  const box = await track.boundingBox();
  const before = await shown([1.2, 0.5]);
  await page.mouse.move(box.x + box.width * 0.62, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.7, box.y + 8, { steps: 6 });
  await until(async () => (await shown([1.2, 0.5])) > before + 6, 20);
  await page.mouse.up();
  await saved();
  await page.keyboard.press('Control+z');
  await until(async () => Math.abs((await recipe()).recipe.areas[0].touches[0].stops - 1.4) < 1e-6);
});

test('the original is there while its key is held, and the split line parts the picture', async () => {
  await page.locator('.title h2').click();
  await until(async () => (await page.locator('.redoing').count()) === 0);
  const treated = await until(async () => {
    const v = await shown([1.2, 0.5]);
    return v > 60 ? v : null;
  });
  await page.keyboard.down('o');
  await until(async () => (await shown([1.2, 0.5])) < treated - 15, 20);
  await page.waitForTimeout(400);
  await page.keyboard.up('o');
  await until(async () => (await shown([1.2, 0.5])) > treated - 5, 20);
  await page.keyboard.press('s');
  await page.locator('[data-handle="split"]').waitFor();
  const grip = await page.locator('[data-handle="split"]').boundingBox();
  await drag([grip.x + 7, grip.y + 7], await onPage([0.3, 0.5]));
  const one = await shown([1.2, 0.5]);
  await drag(await onPage([0.3, 0.5]), await onPage([1.6, 0.5]));
  await until(async () => Math.abs((await shown([1.2, 0.5])) - one) > 15, 20);
  await page.keyboard.press('s');
});

test('it plays after it was prepared, round and round, until it is stopped', async () => {
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Stop', exact: true }).waitFor({ timeout: 180000 });
  const frame = async () => Number(await page.locator('.frame').innerText().then((t) => t.trim().split(/\s+/)[0]));
  const seen = new Set();
  await until(async () => seen.add(await frame()).size > 5);
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Play', exact: true }).waitFor();
  const rest = await frame();
  await page.waitForTimeout(300);
  assert.equal(await frame(), rest);
});

test('undo and redo go through the history', async () => {
  const { revision } = (await recipe());
  await page.keyboard.press('Control+z');
  await until(async () => (await recipe()).revision !== revision);
  await page.keyboard.press('Control+Shift+z');
  await until(async () => (await recipe()).revision === revision);
});

test('after a reload everything is as it was', async () => {
  const before = (await recipe()).recipe;
  await page.reload();
  await page.getByText(/similarity · 84\/84/).waitFor({ timeout: 20000 });
  assert.deepEqual((await recipe()).recipe, before);
  assert.equal(await page.locator('[data-touch]').count(), 4);
});

test('it is delivered, with progress, as a file to download', async () => {
  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  await page.getByRole('button', { name: 'Render it' }).click();
  await page.getByText(/rendering, \d+ of 84 frames/).waitFor({ timeout: 20000 });
  await page.getByRole('link', { name: 'Download' }).waitFor({ timeout: 300000 });
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).click();
  const file = join(cossel.folder, 'delivered.mkv');
  await (await coming).saveAs(file);
  const frame = await decoded(file, 83);
  assert.equal(frame.length, W * H * 3);
});

test('with the inside exposure alone, light rises by the stops asked and nothing else changes', async () => {
  const state = await recipe();
  const alone = structuredClone(state.recipe);
  alone.base = [];
  alone.areas[0].touches = [{ ...alone.areas[0].touches[0], stops: 1 }];
  assert.equal((await cossel.api('PUT', '/shots/1/recipe', { base: state.revision, label: 'Exposure alone', recipe: alone })).status, 200);
  const { body } = await cossel.api('POST', '/shots/1/deliveries', { format: 'ffv1', from: 30, to: 50 });
  const done = await cossel.delivered(body.id);
  assert.equal(done.state, 'done', done.error);
  const file = join(cossel.env.COSSEL_DATA, 'deliveries', String(done.id), done.file);

  // The same without the interface: it follows for itself, and writes the mattes.
  const wanted = join(cossel.folder, 'alone.recipe.json');
  const tracks = join(cossel.folder, 'tracks.json');
  const area = alone.areas[0];
  const { matrices, confidence, states } = (await cossel.api('GET', '/shots/1/motions')).body.areas[area.id];
  // The motions are stated from the outline's frame, which is a track as good as any.
  writeFileSync(tracks, JSON.stringify({ cossel: 'tracks/1', areas: { [area.id]: { cossel: 'track/1', start: area.motion.start, model: 'similarity', frames: matrices.map((matrix, frame) => ({ frame, matrix, state: states[frame], confidence: confidence[frame] })) } } }));
  writeFileSync(wanted, JSON.stringify({ ...alone, areas: [{ ...area, motion: { ...area.motion, track: null } }] }));
  await cossel.cli('process', '--footage', source, '--recipe', wanted, '--out', join(cossel.folder, 'alone.mkv'), '--mattes', join(cossel.folder, 'mattes'), '--use-tracks', tracks, '--frames', '40-40');
  const matte = await grey16(join(cossel.folder, `mattes/${area.id}/000040.png`));
  const before = await decoded(source, 40);
  const treated = await decoded(file, 10);

  let inside = 0;
  let outside = 0;
  const linear = (f, i) => {
    const y = (f[i] - 4096) / 56064;
    const u = (f[i + W * H] - 32768) / 57344;
    const v = (f[i + 2 * W * H] - 32768) / 57344;
    return [y + 1.5748 * v, y - 0.187324 * u - 0.468124 * v, y + 1.8556 * u].map((c) => Math.sign(c) * Math.abs(c) ** 2.4);
  };
  for (let i = 0; i < W * H; ++i) {
    if (matte[i] === 0) {
      ++outside;
      for (const plane of [0, 1, 2]) assert.equal(treated[i + plane * W * H], before[i + plane * W * H]);
    } else if (matte[i] >= 0.99 * 65535) {
      const [a, b] = [linear(before, i), linear(treated, i)];
      // Very dark values are decided by the rounding of the file, and clipped ones by its ends.
      if (Math.min(...a) < 0.002 || Math.max(...b) > 1) continue;
      ++inside;
      const weight = matte[i] / 65535;
      const gain = (1 + (2 ** (1 / 2.4) - 1) * weight) ** 2.4;
      for (const c of [0, 1, 2]) assert.ok(Math.abs(b[c] / a[c] / gain - 1) < 0.01 && (weight < 0.99999 || Math.abs(b[c] / a[c] / 2 - 1) < 0.01), `pixel ${i}: ${a[c]} to ${b[c]}, matte ${weight}`);
    }
  }
  assert.ok(inside > 20000 && outside > 400000, `${inside} inside, ${outside} outside`);
});

test('nothing went wrong in the page', () => {
  assert.deepEqual(page.problems, []);
  assert.ok(!existsSync(join(root, 'storage/logs/laravel.log')) || !readFileSync(join(root, 'storage/logs/laravel.log'), 'utf8').includes('production.ERROR'));
});
