/** What happens when something dies in the middle: nothing acknowledged is lost, nothing is delivered twice. */
import assert from 'node:assert/strict';
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { Cossel, root, until } from './cossel.mjs';

const cossel = new Cossel(8693);
const FRAMES = 36;

before(async () => {
  await cossel.cli('import', join(root, 'demo/footage/gh010_backlit.webm'), '--job', 'Breaks', '--frames', `0-${FRAMES - 1}`);
  await cossel.start();
});
after(() => cossel.stop());

const recipe = async () => (await cossel.api('GET', '/shots/1/recipe')).body;
const md5s = (file) => execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', '0:v', '-f', 'framemd5', '-'], { encoding: 'utf8' }).split('\n').filter((l) => l.startsWith('0,')).map((l) => l.split(',').at(-1).trim());
const fileOf = (d) => join(cossel.env.COSSEL_DATA, 'deliveries', String(d.id), d.file);

/** The workers of this Cossel, by the environment they were started with. */
function workers() {
  return readdirSync('/proc').filter((pid) => /^\d+$/.test(pid)).filter((pid) => {
    try {
      return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('queue:work') && readFileSync(`/proc/${pid}/environ`, 'utf8').includes(cossel.folder);
    } catch {
      return false;
    }
  });
}

test('a worker killed in the middle of a delivery loses and doubles nothing', async () => {
  const state = await recipe();
  state.recipe.areas = [{ id: 'a', name: 'A', outline: { at: 0, shapes: [{ id: 's', kind: 'ellipse', centre: [0.9, 0.5], radii: [0.2, 0.3] }] }, live: { from: 0, to: 83 }, touches: [{ id: 't', kind: 'exposure', stops: 1 }] }];
  assert.equal((await cossel.api('PUT', '/shots/1/recipe', { base: state.revision, label: 'Treat', recipe: state.recipe })).status, 200);
  const wanted = await cossel.delivered((await cossel.api('POST', '/shots/1/deliveries', { format: 'ffv1', from: 0, to: FRAMES - 1 })).body.id);
  assert.equal(wanted.state, 'done', wanted.error);

  const { body } = await cossel.api('POST', '/shots/1/deliveries', { format: 'ffv1', from: 0, to: FRAMES - 1 });
  await until(async () => (await cossel.deliveries()).find((d) => d.id === body.id).done > 2, 240);
  const pids = workers();
  // One for the bench, two for deliveries, two that look ahead.
  assert.equal(pids.length, 5, pids.join());
  for (const pid of pids) process.kill(Number(pid), 'SIGKILL');
  const done = await cossel.delivered(body.id);
  assert.equal(done.state, 'done', done.error);
  const frames = md5s(fileOf(done));
  assert.equal(frames.length, FRAMES);
  assert.deepEqual(frames, md5s(fileOf(wanted)));
  assert.ok(!existsSync(join(cossel.env.COSSEL_DATA, `deliveries/${done.id}.work`)));
});

test('everything killed in the middle of edits and a delivery is taken up again at the next start', async () => {
  const { body: order } = await cossel.api('POST', '/shots/1/deliveries', { format: 'ffv1', from: 0, to: FRAMES - 1 });
  await until(async () => (await cossel.deliveries()).find((d) => d.id === order.id).done > 2, 240);
  // Edits go in one after the other; the power fails while one is on its way.
  let acknowledged = null;
  let failed = false;
  const edits = (async () => {
    for (let n = 1; n < 200 && !failed; ++n) {
      try {
        const state = await recipe();
        state.recipe.base = [{ id: 'b', kind: 'exposure', stops: n / 100 }];
        const { status, body } = await cossel.api('PUT', '/shots/1/recipe', { base: state.revision, label: `Edit ${n}`, recipe: state.recipe });
        // An answer that broke off half-way acknowledges nothing.
        if (status === 200 && body !== null) acknowledged = body;
      } catch {
        failed = true;
      }
    }
  })();
  await until(() => acknowledged?.recipe.base[0].stops > 0.04, 60);
  await cossel.kill();
  await edits;
  assert.ok(failed);
  await cossel.start();
  const now = await recipe();
  const kept = now.recipe.base[0].stops;
  const told = acknowledged.recipe.base[0].stops;
  assert.ok(kept === told || Math.abs(kept - told - 0.01) < 1e-9, `acknowledged ${told}, kept ${kept}`);
  const done = await cossel.delivered(order.id);
  assert.equal(done.state, 'done', done.error);
  assert.equal(md5s(fileOf(done)).length, FRAMES);
});

test('the bench says what is wrong while the server is away and saves when it is back', async () => {
  const page = await cossel.page();
  page.setDefaultTimeout(15000);
  await page.goto(`${cossel.url}/shots/1`);
  await page.getByRole('tab', { name: 'Base' }).click();
  await page.getByText('the whole frame, before all areas').waitFor();
  const figure = page.locator('[data-touch="exposure"] .ruler').first();
  await figure.locator('button.figure').waitFor();
  await cossel.kill();
  await figure.locator('button.figure').click();
  await figure.locator('input.figure').fill('1.5');
  await figure.locator('input.figure').press('Enter');
  await page.getByText(/The server cannot be reached/).first().waitFor();
  assert.equal(await figure.locator('button.figure').innerText(), '+1.50 st');
  await cossel.start();
  await until(async () => (await recipe()).recipe.base[0].stops === 1.5, 30);
  await page.getByText('saved', { exact: true }).waitFor();
});

test('a change that the server broke down over is kept and saved again', async () => {
  const page = await cossel.page();
  page.setDefaultTimeout(15000);
  let broken = 0;
  await page.route('**/api/shots/1/recipe', (route) => {
    if (route.request().method() !== 'PUT' || ++broken > 2) return route.continue();
    return route.fulfill({ status: 500, contentType: 'application/json', body: '{"message":"Server Error"}' });
  });
  await page.goto(`${cossel.url}/shots/1`);
  await page.getByRole('tab', { name: 'Base' }).click();
  const figure = page.locator('[data-touch="exposure"] .ruler').first();
  await figure.locator('button.figure').click();
  await figure.locator('input.figure').fill('0.75');
  await figure.locator('input.figure').press('Enter');
  await page.getByText(/or broke down. Your change is kept here/).first().waitFor();
  await until(async () => (await recipe()).recipe.base[0].stops === 0.75, 30);
  await page.getByText('saved', { exact: true }).waitFor();
  assert.equal(broken, 3);
});

test('an address of something that is gone explains itself', async () => {
  const page = await cossel.page();
  await page.goto(`${cossel.url}/shots/999`);
  await page.getByText('There is no such shot. It may have been deleted.').waitFor();
  await page.goto(`${cossel.url}/jobs/999`);
  await page.getByText('There is no such job. It may have been deleted.').waitFor();
  await page.goto(`${cossel.url}/nowhere`);
  await page.getByText('There is nothing at this address.').waitFor();
});
