/** A cut of three shots is worked through as a job: one is treated, carried, matched, noted, looked along the cut, delivered with all that goes beside. */
import assert from 'node:assert/strict';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { Cossel, root, until } from './cossel.mjs';

const cossel = new Cossel(8697);
const out = (name) => join(cossel.folder, name);
let page;
let job;

const shots = async () => (await cossel.api('GET', `/jobs/${job}`)).body.shots;
const named = async (name) => (await shots()).find((s) => s.name === name);
const recipe = async (name) => (await cossel.api('GET', `/shots/${(await named(name)).id}/recipe`)).body.recipe;
async function saved(start, name) {
  const [download] = await Promise.all([page.waitForEvent('download', { timeout: 60000 }), start()]);
  await download.saveAs(out(name));
  return out(name);
}
/** From the button over the job. */
async function takeOut(what, name) {
  await page.getByRole('button', { name: 'Take out…' }).click();
  return saved(() => page.getByRole('menuitem', { name: what, exact: true }).click(), name);
}

before(async () => {
  const reels = out('reels');
  mkdirSync(reels);
  // Three pieces of the same person in three lights, as a server keeps them.
  const demo = join(root, 'demo/footage/gh010_backlit.webm');
  for (const [name, filter] of [['a.mkv', 'null'], ['b.mkv', 'eq=brightness=-0.08:saturation=0.85'], ['c.mkv', 'eq=brightness=0.05']]) {
    execFileSync('ffmpeg', ['-v', 'error', '-i', demo, '-frames:v', '30', '-vf', `${filter},scale=640:-2`, '-c:v', 'ffv1', join(reels, name)]);
  }
  cossel.env.COSSEL_FOLDERS = reels;
  await cossel.start();
  job = (await cossel.api('POST', '/jobs', { name: 'Night house' })).body.id;
  page = await cossel.page();
  page.setDefaultTimeout(20000);
  await page.goto(`${cossel.url}/jobs/${job}`);
});
after(async () => {
  assert.deepEqual(page.problems, []);
  await cossel.stop();
});

test('footage is taken from a folder of the server, and a cut makes three shots with handles of it', async () => {
  const code = (frame) => `00:00:0${Math.floor(frame / 24)}:${String(frame % 24).padStart(2, '0')}`;
  const events = ['a', 'b', 'c'].map((reel, i) => `00${i + 1}  ${reel.toUpperCase()}001     V     C        ${code(6)} ${code(24)} ${code(18 * i)} ${code(18 * i + 18)}\n* FROM CLIP NAME: s0${i + 1}0\n* SOURCE FILE: ${reel}.mkv`);
  writeFileSync(out('night.edl'), ['TITLE: Night house', 'FCM: NON-DROP FRAME', ...events].join('\n'));
  await page.getByRole('button', { name: 'Bring in a cut' }).click();
  const dialog = page.getByRole('dialog', { name: 'Bring in a cut' });
  await dialog.getByRole('spinbutton').fill('4');
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), dialog.getByRole('button', { name: 'Choose a cut' }).click()]);
  await chooser.setFiles(out('night.edl'));
  assert.match(await dialog.getByRole('status').innerText(), /3 shots are new/);
  await dialog.getByRole('button', { name: 'Done' }).click();
  await dialog.waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Bring in footage' }).click();
  const bring = page.getByRole('dialog', { name: 'Bring in footage' });
  await bring.getByRole('button', { name: 'reels/' }).click();
  for (const name of ['a', 'b', 'c']) await bring.getByRole('button', { name: `Take ${name}.mkv` }).click();
  await until(async () => (await shots()).every((s) => s.state === 'ready'), 60);
  await page.keyboard.press('Escape');
  assert.deepEqual((await shots()).map((s) => [s.name, s.from, s.to, s.cut.in, s.cut.out]), [['s010', 2, 27, 6, 23], ['s020', 2, 27, 6, 23], ['s030', 2, 27, 6, 23]]);
  // Nothing outside the folder is taken.
  assert.equal((await cossel.api('POST', `/jobs/${job}/folder`, { path: 'reels/../data/cossel.sqlite' })).status, 422);
});

test('one is found and treated, and its treatment is kept and carried to the second', async () => {
  await page.getByRole('link', { name: 'Open s010' }).click();
  await page.getByRole('button', { name: 'Add an area' }).waitFor();
  await page.getByRole('button', { name: 'Find the people on this frame' }).first().click();
  await page.getByRole('button', { name: 'Take and follow' }).click({ timeout: 90000 });
  await until(async () => (await recipe('s010')).areas.some((a) => a.part === 'face' && a.motion.track), 120);
  const face = (await recipe('s010')).areas.find((a) => a.part === 'face');
  const state = (await cossel.api('GET', `/shots/${(await named('s010')).id}/recipe`)).body;
  await cossel.api('POST', `/jobs/${job}/people`, { name: 'Dario Vale' });
  const [{ slug: person }] = (await cossel.api('GET', `/jobs/${job}`)).body.people;
  for (const area of state.recipe.areas) area.person = person;
  face.person = person;
  face.touches.push({ id: 'lift', kind: 'exposure', stops: 0.6 });
  Object.assign(state.recipe.areas.find((a) => a.id === face.id), face);
  assert.equal((await cossel.api('PUT', `/shots/${(await named('s010')).id}/recipe`, { base: state.revision, label: 'Lift the face', recipe: state.recipe })).status, 200);
  await page.reload();
  await page.getByRole('button', { name: 'Carry' }).click();
  const panel = page.getByRole('region', { name: 'Carry to other shots' });
  await panel.getByLabel('Name to keep the treatment under').fill('Night face');
  await panel.getByRole('button', { name: 'Keep', exact: true }).click();
  await panel.getByText('Night face').waitFor();
  await panel.getByRole('checkbox', { name: /s020/ }).setChecked(true);
  if (await panel.getByRole('checkbox', { name: /s030/ }).isChecked()) await panel.getByRole('checkbox', { name: /s030/ }).setChecked(false);
  await panel.getByRole('button', { name: 'Propose' }).click();
  await panel.getByRole('button', { name: 'Take it' }).click({ timeout: 120000 });
  await until(async () => (await recipe('s020')).areas.some((a) => a.touches.some((t) => t.kind === 'exposure')), 20);
});

test('the kept treatment is laid on the third from the job, and a note on a frame leads to the bench', async () => {
  await page.goto(`${cossel.url}/jobs/${job}`);
  await page.getByRole('row').filter({ hasText: 's030' }).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Lay a treatment on' }).click();
  const dialog = page.getByRole('dialog', { name: 'Lay a treatment on' });
  await dialog.getByRole('button', { name: 'Propose for it' }).click();
  await dialog.getByRole('button', { name: 'Take it' }).click({ timeout: 120000 });
  await dialog.getByText('taken', { exact: true }).waitFor();
  await dialog.getByRole('button', { name: 'Close', exact: true }).last().click();
  assert.ok((await recipe('s030')).areas.some((a) => a.touches.some((t) => t.kind === 'exposure')));
  await cossel.api('POST', `/shots/${(await named('s030')).id}/notes`, { frame: 11, text: 'A little less' });
  await page.reload();
  await page.getByRole('button', { name: 'Notes 1' }).click();
  assert.equal(await page.getByRole('row').filter({ hasText: 'event' }).count(), 1);
  await page.getByRole('link', { name: '1 open note' }).click();
  await page.getByRole('slider', { name: 'Frame', exact: true }).and(page.locator('[aria-valuenow="11"]')).waitFor();
  const notes = page.getByRole('region', { name: 'Notes on frames' });
  await notes.getByRole('checkbox', { name: 'A little less: resolved' }).check();
  await until(async () => (await named('s030')).openNotes === 0, 10);
});

test('a shot is matched to the one beside it by numbers, and the match is one step', async () => {
  const third = await named('s030');
  const face = (await recipe('s030')).areas.find((a) => a.part === 'face');
  // Somebody has made it darker meanwhile.
  const state = (await cossel.api('GET', `/shots/${third.id}/recipe`)).body;
  state.recipe.base = [{ id: 'dark', kind: 'exposure', stops: -0.8 }];
  await cossel.api('PUT', `/shots/${third.id}/recipe`, { base: state.revision, label: 'Darker', recipe: state.recipe });
  await page.goto(`${cossel.url}/shots/${third.id}?area=${face.id}&frame=11`);
  await page.getByRole('combobox', { name: 'Another shot' }).click();
  await page.getByRole('option', { name: 's010' }).click();
  const beside = page.getByRole('region', { name: 'Beside s010' });
  const row = beside.getByRole('row').filter({ hasText: 'Face' });
  await row.waitFor();
  await beside.getByRole('button', { name: 'Match the base' }).click();
  await beside.getByRole('button', { name: 'Apply' }).click({ timeout: 60000 });
  await until(async () => (await recipe('s030')).base.some((t) => t.kind === 'trim'), 20);
  await page.getByRole('button', { name: 'Undo' }).click();
  await until(async () => (await recipe('s030')).base.length === 1, 20);
});

test('people are seen through the cut; two are delivered with mattes and report, and the cut that goes out names media that are there', async () => {
  await page.goto(`${cossel.url}/jobs/${job}`);
  await page.getByRole('button', { name: 'People', exact: true }).click();
  await page.locator('ol.strip img').first().waitFor();
  assert.equal(await page.locator('ol.strip li').count(), 3);
  await page.getByRole('button', { name: 'Shots', exact: true }).click();
  for (const name of ['s010', 's020']) await page.getByRole('row').filter({ hasText: name }).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Deliver all 2' }).click();
  const dialog = page.getByRole('dialog', { name: 'Deliver 2 shots' });
  await dialog.getByRole('combobox', { name: 'Format' }).click();
  await page.getByRole('option', { name: /ProRes/ }).click();
  await page.getByRole('option').first().waitFor({ state: 'detached' });
  await dialog.getByRole('combobox', { name: 'Mattes' }).click();
  await page.getByRole('option', { name: 'PNG 16 bit', exact: true }).click();
  for (const what of ['Report', 'Tracks, JSON and CSV']) await dialog.getByRole('checkbox', { name: what }).check();
  await dialog.getByRole('button', { name: 'As the cut shows' }).click();
  await dialog.getByLabel('Name to keep this choice under').fill('Cutting room');
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
  await dialog.getByRole('button', { name: 'Cutting room', exact: true }).waitFor();
  await dialog.getByRole('button', { name: 'Render all 2' }).click();
  await until(async () => (await cossel.api('GET', '/deliveries')).body.filter((d) => d.state === 'done').length === 2, 240);
  await page.goto(`${cossel.url}/deliveries`);
  const delivery = page.getByRole('row').filter({ hasText: 's010' });
  const film = await saved(() => delivery.getByRole('link', { name: 'Download' }).click(), 's010.mov');
  const beside = await saved(() => delivery.getByRole('link', { name: 'What is beside' }).click(), 'beside.zip');
  execFileSync('unzip', ['-q', beside, '-d', out('beside')]);
  const mattes = readdirSync(out('beside/mattes'));
  assert.ok(mattes.length > 0);
  assert.equal(readdirSync(out(`beside/mattes/${mattes[0]}`)).length, 18);
  assert.ok(readdirSync(out('beside')).some((name) => name.endsWith('.report.pdf')));
  const probed = JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', film]));
  assert.deepEqual([probed.streams[0].codec_name, probed.streams[0].profile, probed.streams[0].nb_read_frames], ['prores', 'HQ', '18']);
  assert.equal(probed.streams.find((s) => s.codec_type === 'data').tags.reel_name, 'A001');
  await page.goto(`${cossel.url}/jobs/${job}`);
  const otio = JSON.parse(readFileSync(await takeOut('Cut, OpenTimelineIO', 'night.otio'), 'utf8'));
  const media = otio.tracks.children[0].children.map((c) => c.media_references.DEFAULT_MEDIA.target_url);
  const delivered = (await cossel.api('GET', '/deliveries')).body.map((d) => d.file);
  assert.deepEqual(media.slice(0, 2), ['s010', 's020'].map((name) => delivered.find((file) => file.startsWith(name))));
  assert.ok(existsSync(await takeOut('Report, PDF', 'night.pdf')));
  assert.equal(readFileSync(out('night.pdf')).subarray(0, 4).toString(), '%PDF');
});

test('the job goes out as a bundle and comes in elsewhere with the same pixels', async () => {
  const bundle = await takeOut('Bundle with footage', 'night.bundle.zip');
  const picture = async (at, id) => Buffer.from(await (await fetch(`${at}/api/shots/${id}/picture`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ frame: 11, view: 'result', height: 360 }) })).arrayBuffer());
  const here = await Promise.all((await shots()).map((s) => picture(cossel.url, s.id)));
  const other = new Cossel(8698);
  try {
    await other.start();
    const there = await other.page();
    await there.goto(other.url);
    const [chooser] = await Promise.all([there.waitForEvent('filechooser'), there.getByRole('button', { name: 'Bring in a bundle' }).click()]);
    await chooser.setFiles(bundle);
    await there.getByText('s010 came in.').waitFor({ timeout: 60000 });
    await there.getByRole('link', { name: /Night house/ }).click();
    await there.getByRole('link', { name: 'Open s030' }).waitFor();
    const all = (await other.api('GET', '/jobs/1')).body.shots;
    assert.deepEqual(all.map((s) => s.name), ['s010', 's020', 's030']);
    const pictures = await Promise.all(all.map((s) => picture(other.url, s.id)));
    pictures.forEach((p, i) => assert.ok(p.equals(here[i]), all[i].name));
    assert.deepEqual(there.problems, []);
  } finally {
    await other.stop();
  }
});
