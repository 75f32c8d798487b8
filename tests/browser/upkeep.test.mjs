/** What goes wrong is told and can be seen to: damaged footage, work given up, room, a server that is ended from outside. */
import assert from 'node:assert/strict';
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';

const cossel = new Cossel(8688);
let page;

before(async () => {
  await cossel.start();
  page = await cossel.page();
  page.setDefaultTimeout(15000);
});
after(async () => {
  assert.deepEqual(page.problems, []);
  await cossel.stop();
});

const light = async () => {
  try {
    return (await fetch(`${cossel.url}/api/kinds`, { signal: AbortSignal.timeout(2000) })).status;
  } catch {
    return 0;
  }
};

/** Answers over a second: what is being ended may answer once more. */
const steady = async () => {
  for (let n = 0; n < 5; n++) {
    if ((await light()) !== 200) return false;
    await new Promise((done) => setTimeout(done, 200));
  }
  return true;
};

test('footage that ends early says so and is used when its user says so', async () => {
  const job = (await cossel.api('POST', '/jobs', { name: 'Broken things' })).body.id;
  const file = join(cossel.folder, 'cut.mkv');
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=24:duration=2', '-c:v', 'libx264', '-g', '8', '-pix_fmt', 'yuv420p', '-y', file]);
  const whole = readFileSync(file);
  writeFileSync(file, whole.subarray(0, Math.floor(whole.length * 0.6)));
  await page.goto(`${cossel.url}/jobs/${job}`);
  await page.getByRole('button', { name: 'Bring in footage' }).click();
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Choose files' }).click()]);
  await chooser.setFiles(file);
  await page.getByText(/The file ends early: by its own word it lasts 48 frames/).waitFor();
  await page.getByRole('button', { name: 'Use it as it is' }).click();
  await page.getByRole('button', { name: 'Deliver', exact: true }).waitFor();
});

test('the page of the system tells what takes room and makes some', async () => {
  await page.goto(cossel.url);
  await page.getByRole('link', { name: 'Upkeep' }).click();
  await page.getByRole('heading', { name: 'Upkeep' }).waitFor();
  await page.getByText(/All \d+ programs run/).waitFor();
  await page.getByText('There is none yet.').waitFor();
  await until(async () => !(await page.getByRole('row', { name: /Decoded frames/ }).textContent()).endsWith('frames0 MB'), 30);
  await page.getByRole('button', { name: 'Make room' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Make room' }).click();
  await page.getByText('There is room').waitFor();
});

test('whatever serves is started again when it is ended', async () => {
  for (const what of ['nginx', 'php-fpm', 'cossel:turns', 'supervisord']) {
    spawnSync('pkill', ['-KILL', '-f', `${what}.*/tmp/cossel-[0-9]+-8688`]);
    await until(steady, 30);
  }
});

test('a thousand heads sent by halves keep nobody else from being answered', async () => {
  const sockets = Array.from({ length: 1100 }, () => connect({ host: '127.0.0.1', port: cossel.port }));
  try {
    await Promise.all(sockets.map((socket) => new Promise((done) => socket.on('error', done).on('connect', () => socket.write('GET /api/kinds HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Half: ', done)))));
    for (let n = 0; n < 10; n++) assert.equal(await light(), 200);
    // Those that say no more are let go of.
    await until(() => sockets.every((socket) => socket.destroyed || socket.closed), 20);
  } finally {
    for (const socket of sockets) socket.destroy();
  }
});

test('requests that claim to be enormous end nothing, and what is too large is refused', async () => {
  for (let n = 0; n < 8; n++) spawnSync('bash', ['-c', `exec 3<>/dev/tcp/127.0.0.1/8688; printf 'POST /api/jobs HTTP/1.1\\r\\nHost: 127.0.0.1\\r\\nContent-Length: 40000000000\\r\\n\\r\\nx' >&3; timeout 1 head -c 12 <&3`]);
  assert.equal(await light(), 200);
  const answer = await fetch(`${cossel.url}/api/jobs`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ name: 'x'.repeat(6e6) }) }).catch(() => null);
  assert.ok(answer === null || answer.status === 413);
});
