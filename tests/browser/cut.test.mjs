/** A cut comes in, its shots are delivered at once, and the cut that goes out names the files. */
import assert from 'node:assert/strict';
import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';
import { dragRow } from './hands.mjs';

const cossel = new Cossel(8696);
const edl = join(tmpdir(), 'glasshouse.edl');
let page;

/** Events of the demo's own files: name, first frame and length. */
function list(events) {
  const code = (frame) => `01:00:${String(Math.floor(frame / 24)).padStart(2, '0')}:${String(frame % 24).padStart(2, '0')}`;
  let at = 0;
  const lines = events.flatMap(([file, name, from, length], i) => {
    const source = (frame) => code(frame).replace('01:', '00:');
    const line = `${String(i + 1).padStart(3, '0')}  AX       V     C        ${source(from)} ${source(from + length)} ${code(at)} ${code(at + length)}`;
    at += length;
    return [line, `* FROM CLIP NAME: ${name}`, `* SOURCE FILE: ${file}`];
  });
  writeFileSync(edl, ['TITLE: Glasshouse', 'FCM: NON-DROP FRAME', ...lines].join('\r\n'));
}
const shots = async () => (await cossel.api('GET', '/jobs/1')).body.shots;
const inCut = async () => (await shots()).filter((s) => s.cut && !s.cut.retired).map((s) => [s.name, s.state, s.from, s.to]);
const row = (name) => page.getByRole('row').filter({ has: page.getByRole('link', { name: `Open ${name}`, exact: true }) });
async function bringIn() {
  await page.getByRole('button', { name: 'Bring in a cut' }).click();
  const dialog = page.getByRole('dialog', { name: 'Bring in a cut' });
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), dialog.getByRole('button', { name: 'Choose a cut' }).click()]);
  await chooser.setFiles(edl);
  const told = await dialog.getByRole('status').innerText();
  await dialog.getByRole('button', { name: 'Done' }).click();
  await dialog.waitFor({ state: 'detached' });
  return told;
}

before(async () => {
  await cossel.start();
  await cossel.cli('load-demo');
  page = await cossel.page();
  page.setDefaultTimeout(20000);
});
after(async () => {
  assert.deepEqual(page.problems, []);
  await cossel.stop();
});

test('a cut becomes shots in its order; what was treated stays, what is missing is asked for', async () => {
  await page.goto(`${cossel.url}/jobs/1`);
  list([['gh050_leaf.webm', 'gh050', 30, 8], ['gh010_backlit.webm', 'gh010', 40, 8], ['gh080_door.mov', 'gh080', 0, 24]]);
  const told = await bringIn();
  assert.match(told, /2 shots are new, 1 was known/);
  assert.match(told, /gh080 asks for gh080_door\.mov/);
  // The demo's own backlit shot was worked on: it is the event, as long as it was.
  assert.deepEqual(await inCut(), [['gh050', 'ready', 18, 49], ['gh010_backlit', 'ready', 0, 83], ['gh080', 'missing', 0, 0]]);
  await page.getByText('Its footage is not here: bring in gh080_door.mov.').waitFor();
});

test('rows go where they are dragged, and back into the order of the cut', async () => {
  const order = async () => (await shots()).slice(0, 3).map((s) => s.name);
  const moved = (names) => until(async () => (await order()).join() === names.join(), 10);
  await dragRow(page, row('gh050'), row('gh010_backlit'), true);
  await moved(['gh010_backlit', 'gh050', 'gh080']);
  await dragRow(page, row('gh020_laugh'), row('gh010_backlit'));
  await moved(['gh020_laugh', 'gh010_backlit', 'gh050']);
  await page.getByRole('button', { name: 'Order by the cut' }).click();
  await moved(['gh050', 'gh010_backlit', 'gh080']);
});

test('chosen shots are those that another one is carried to', async () => {
  await row('gh050').getByRole('checkbox').check();
  await page.getByRole('combobox', { name: 'Carry from' }).click();
  await page.getByRole('option', { name: 'gh010_backlit' }).click();
  const to = page.getByRole('region', { name: 'Carry to other shots' }).getByRole('region', { name: 'To', exact: true });
  await to.getByRole('checkbox').first().waitFor();
  assert.deepEqual(await to.locator('label', { has: page.getByRole('checkbox', { checked: true }) }).locator('span').allInnerTexts(), ['gh050']);
  await page.goto(`${cossel.url}/jobs/1`);
});

test('chosen shots are delivered at once as the cut shows them, and the cut names their files', async () => {
  await page.reload();
  for (const name of ['gh050', 'gh010_backlit']) await row(name).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Deliver all 2' }).click();
  const dialog = page.getByRole('dialog', { name: 'Deliver 2 shots' });
  await dialog.getByRole('combobox', { name: 'Format' }).click();
  await page.getByRole('option', { name: /VP9/ }).click();
  await dialog.getByRole('button', { name: 'As the cut shows' }).click();
  await dialog.getByLabel('Names of the files').fill('e{event}_{shot}');
  await dialog.getByText('e001_gh050').waitFor();
  await dialog.getByRole('button', { name: 'Render all 2' }).click();
  await until(async () => (await cossel.api('GET', '/deliveries')).body.filter((d) => d.state === 'done').length === 2, 180);
  const files = (await cossel.api('GET', '/deliveries')).body.map((d) => [d.file, d.frames]).sort();
  assert.deepEqual(files, [['e001_gh050.webm', 8], ['e002_gh010_backlit.webm', 8]]);
  const otio = await (await fetch(`${cossel.url}/api/jobs/1/cut.otio`)).json();
  const clips = otio.tracks.children[0].children;
  assert.deepEqual(clips.map((c) => [c.name, c.media_references.DEFAULT_MEDIA.target_url ?? null, c.source_range.start_time.value, c.source_range.duration.value]), [
    ['gh050', 'e001_gh050.webm', 0, 8], ['gh010_backlit', 'e002_gh010_backlit.webm', 0, 8], ['gh080', 'gh080_door.mov', 0, 24],
  ]);
  const sums = await (await fetch(`${cossel.url}/api/jobs/1/deliveries.sha256`)).text();
  assert.match(sums, /^[0-9a-f]{64} {2}e00\d_gh0\d0(_backlit)?\.webm$/m);
});

test('deliveries are rendered in the order that they are dragged into', async () => {
  const all = (await shots()).filter((s) => ['gh020_laugh', 'gh030_gaze', 'gh040_skin'].includes(s.name)).map((s) => s.id);
  const { status } = await cossel.api('POST', '/jobs/1/deliveries', { shots: all, format: 'ffv1', handles: true, name: '{shot}', slip: 'three-at-once' });
  assert.equal(status, 200);
  await page.goto(`${cossel.url}/deliveries`);
  const listed = async () => (await cossel.api('GET', '/deliveries')).body.filter((d) => d.state === 'rendering').map((d) => d.shot);
  assert.deepEqual(await listed(), ['gh020_laugh', 'gh030_gaze', 'gh040_skin']);
  const [first, , last] = ['gh020_laugh', 'gh030_gaze', 'gh040_skin'].map((name) => page.getByRole('row').filter({ hasText: name }));
  const cancel = last.getByRole('button', { name: 'Cancel' });
  await cancel.focus();
  await page.getByText(/[1-9]\d* of 84 frames/).waitFor();
  assert.ok(await cancel.evaluate((it) => it === document.activeElement), 'what is told of progress took the focus away');
  await dragRow(page, last, first);
  await until(async () => (await listed())[0] === 'gh040_skin', 10);
  for (const d of (await cossel.api('GET', '/deliveries')).body) if (d.state === 'rendering') await cossel.api('POST', `/deliveries/${d.id}/cancel`);
});

test('what is no cut says where it is wrong', async () => {
  await page.goto(`${cossel.url}/jobs/1`);
  writeFileSync(edl, 'TITLE: Glasshouse\n001  AX V C 00:00:00:00 00:00:00:30 01:00:00:00 01:00:01:06\n');
  await page.getByRole('button', { name: 'Bring in a cut' }).click();
  const dialog = page.getByRole('dialog', { name: 'Bring in a cut' });
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), dialog.getByRole('button', { name: 'Choose a cut' }).click()]);
  await chooser.setFiles(edl);
  await dialog.getByText('Line 2: “00:00:00:30” is no timecode of 24 frames a second.').waitFor();
});
