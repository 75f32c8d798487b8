/**
 * Measures, in the browser, how long it takes from a move of a dragged control to the changed picture, and how long the bench
 * takes to open. Prints JSON: node scripts/latency.mjs
 */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { Cossel, root, until } from '../tests/browser/cossel.mjs';

const cossel = new Cossel(8696);
const DRAGS = 40;

const round = (id, x, y, w, h, touches) => ({
  id, name: id, live: { from: 0, to: 83 }, touches,
  outline: { at: 42, shapes: [{ id: `${id}s`, kind: 'ellipse', centre: [x, y], radii: [w, h], featherIn: 0.01, featherOut: 0.03 }] },
});
const small = (id, x, y) => round(id, x, y, 0.05, 0.04, [{ id: `${id}t`, kind: 'exposure', stops: 0.4 }, { id: `${id}u`, kind: 'colour', saturation: 1.2 }]);

function quantile(list, share) {
  const sorted = [...list].sort((a, b) => a - b);
  return Math.round(sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]);
}

try {
  await cossel.start();
  execFileSync('./cossel', ['import', join(root, 'demo/footage/gh010_backlit.webm'), '--job', 'Latency'], { cwd: root, env: cossel.env });
  const { body } = await cossel.api('GET', '/shots/1/recipe');
  body.recipe.areas = [
    round('face', 1.2, 0.5, 0.18, 0.25, [{ id: 'f1', kind: 'exposure', stops: 0.5 }, { id: 'f2', kind: 'tone', gamma: 1.15, lift: 0.01 }, { id: 'f3', kind: 'colour', temperature: 8, saturation: 1.1 }]),
    small('b', 0.3, 0.3), small('c', 0.5, 0.7), small('d', 0.7, 0.3), small('e', 1.6, 0.7),
  ];
  body.recipe.base = [{ id: 'b1', kind: 'exposure', stops: 0.1 }];
  await cossel.api('PUT', '/shots/1/recipe', { base: body.revision, label: 'Treat', recipe: body.recipe });
  const page = await cossel.page();
  await page.goto(cossel.url);
  await page.waitForTimeout(15000); // Frames are decoded ahead meanwhile.
  const began = Date.now();
  await page.goto(`${cossel.url}/shots/1`);
  await page.waitForFunction(() => {
    const canvas = document.querySelector('[data-stage] canvas');
    return canvas?.width > 300 && canvas.getContext('2d').getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data[3] > 0 && document.querySelector('[data-touch]');
  }, null, { polling: 20 });
  const opened = Date.now() - began;
  const rest = () => until(async () => (await page.locator('.redoing').count()) === 0 && (await page.locator('.witness i').count()) === 0, 60);

  /** Milliseconds from each move to the first frame on which the picture has changed. */
  const drag = async (at) => page.evaluate(async ([px, py, moves]) => {
    const track = document.querySelector('[data-touch="exposure"] .track');
    const canvas = document.querySelector('[data-stage] canvas');
    const box = track.getBoundingClientRect();
    const stage = canvas.getBoundingClientRect();
    const look = () => canvas.getContext('2d').getImageData((px - stage.x) * devicePixelRatio - 8, (py - stage.y) * devicePixelRatio - 8, 16, 16).data.join();
    const send = (type, x) => track.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 1, button: 0, clientX: x, clientY: box.y + 8 }));
    track.setPointerCapture = () => undefined;
    const times = [];
    send('pointerdown', box.x + box.width * 0.5);
    await new Promise((done) => setTimeout(done, 400));
    for (let i = 0; i < moves; ++i) {
      const before = look();
      const started = performance.now();
      send('pointermove', box.x + box.width * (0.5 + 0.12 * (i % 2 ? 1 : -1) + 0.001 * i));
      await new Promise((done) => {
        const tick = () => (look() !== before || performance.now() - started > 3000 ? done() : requestAnimationFrame(tick));
        requestAnimationFrame(tick);
      });
      times.push(performance.now() - started);
      await new Promise((done) => setTimeout(done, 30));
    }
    send('pointerup', box.x + box.width * 0.5);
    return times;
  }, [...at, DRAGS]);
  const box = await page.locator('[data-stage]').boundingBox();
  const unit = Math.min(box.height - 40, (box.width - 40) / (16 / 9));
  const at = ([x, y]) => [box.x + Math.round(box.width / 2 - (8 / 9) * unit) + x * unit, box.y + Math.round(box.height / 2 - unit / 2) + y * unit];
  await rest();
  const area = await drag(at([1.2, 0.5]));
  await rest();
  await page.getByRole('tab', { name: 'Base', exact: true }).click();
  await rest();
  const base = await drag(at([0.2, 0.5]));
  process.stdout.write(JSON.stringify({ opened, area: [quantile(area, 0.5), quantile(area, 0.95)], base: [quantile(base, 0.5), quantile(base, 0.95)] }));
} finally {
  await cossel.stop();
}
