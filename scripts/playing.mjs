/**
 * Measures, in the browser, playing straight after an edit of a finished demo shot: how long from Space to the first frame that
 * moves, frames a second of the first round and of a later one, and how many of those could not be shown. Prints JSON.
 * node scripts/playing.mjs
 */
import { Cossel, until } from '../tests/browser/cossel.mjs';

const cossel = new Cossel(8695);
/** Seconds that are played, and between the edit and Space. */
const PLAYED = 4;
const PAUSE = 0.6;

/** What was shown while it played: milliseconds from Space, frame, how coarse. */
const played = (page) => page.evaluate(async (seconds) => {
  const began = performance.now();
  const seen = [];
  let last = document.querySelector('.frame').textContent.trim();
  document.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', code: 'Space', bubbles: true }));
  while (performance.now() - began < seconds * 1000) {
    await new Promise((done) => requestAnimationFrame(done));
    const now = document.querySelector('.frame').textContent.trim();
    if (now !== last) seen.push([performance.now() - began, parseInt(now, 10), document.querySelector('.coarse')?.textContent ?? '']);
    last = now;
  }
  document.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', code: 'Space', bubbles: true }));
  return seen;
}, PLAYED);

function told(seen, fps) {
  const seconds = (seen.at(-1)[0] - seen[0][0]) / 1000;
  const steps = seen.slice(1).map(([, frame], i) => frame - seen[i][1]);
  return {
    first: Math.round(seen[0][0]),
    rate: Number(((seen.length - 1) / seconds).toFixed(1)),
    late: steps.reduce((sum, step) => sum + (step > 1 ? step - 1 : 0), 0),
    coarse: Math.round((100 * seen.filter(([, , coarse]) => coarse !== '').length) / seen.length),
    fps,
  };
}

async function measure(page, shot, area, kind) {
  await page.goto(`${cossel.url}/shots/${shot}`);
  await page.getByRole('tab', { name: area }).click();
  const track = page.locator(`[data-touch="${kind}"] .track`).first();
  await page.waitForTimeout(500);
  if (!(await track.isVisible())) await page.locator('.line').filter({ hasText: 'Treat' }).click();
  await track.waitFor();
  // Everything stands as it would after a while of work.
  await until(() => page.evaluate(() => {
    const ready = document.querySelectorAll('[data-ruler] rect.ready');
    return ready.length === 1 && Number(ready[0].getAttribute('width')) > 0.97 * (document.querySelector('[data-ruler]').clientWidth - 140);
  }), 180);
  const box = await track.boundingBox();
  await page.mouse.move(box.x + box.width * 0.5, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.56, box.y + 8, { steps: 4 });
  await page.mouse.up();
  await page.evaluate(() => document.activeElement?.blur());
  await page.waitForTimeout(PAUSE * 1000);
  const first = told(await played(page), 24);
  await page.waitForTimeout(300);
  return { first, again: told(await played(page), 24) };
}

try {
  await cossel.start();
  await cossel.cli('load-demo');
  const page = await cossel.page();
  await page.goto(cossel.url);
  await page.waitForTimeout(30000); // Frames are decoded ahead meanwhile.
  process.stdout.write(JSON.stringify({ face: await measure(page, 1, /Face/, 'exposure'), teeth: await measure(page, 2, /Teeth/, 'whiten') }));
} finally {
  await cossel.stop();
}
