/** Takes the pictures of docs/screenshots from the demo data: node scripts/screenshots.mjs [width height folder] */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Cossel, root, until } from '../tests/browser/cossel.mjs';
import { hands } from '../tests/browser/hands.mjs';

const [width = '1280', height = '800', folder = join(root, 'docs/screenshots')] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });
const cossel = new Cossel(8692);

/** A frame of a shot, before and after, cut to what was treated and laid side by side. */
const FRAMES = { before_after_face: [1, 42, '520:520:620:90'], before_after_teeth: [2, 40, '460:300:400:350'], before_after_irises: [3, 40, '1180:330:50:190'], before_after_skin: [4, 20, '460:560:290:90'] };
const picture = (shot, frame, view) => fetch(`${cossel.url}/api/shots/${shot}/picture`, { method: 'POST', headers: { 'Content-Type': 'application/json', Accept: 'image/jpeg' }, body: JSON.stringify({ frame, view, height: 720 }) });
async function frames() {
  for (const [name, [shot, frame, cut]] of Object.entries(FRAMES)) {
    const files = [];
    for (const view of ['original', 'result']) {
      const response = await picture(shot, frame, view);
      files.push(join(cossel.folder, `${name}_${view}.jpg`));
      writeFileSync(files.at(-1), Buffer.from(await response.arrayBuffer()));
    }
    const stack = Number(cut.split(':')[0]) > 2 * Number(cut.split(':')[1]) ? 'vstack' : 'hstack';
    execFileSync('ffmpeg', ['-v', 'error', '-i', files[0], '-i', files[1], '-filter_complex', `[0]crop=${cut}[a];[1]crop=${cut}[b];[a][b]${stack}`, '-frames:v', '1', '-update', '1', '-y', join(folder, `${name}.png`)]);
  }
}

/** A turning head, as it came and with light from its left: taken, followed and relit on three of its frames. */
async function relit(page) {
  await cossel.cli('import', join(root, 'demo/footage/turn_ruta.webm'), '--job', 'The Verrin Glasshouse');
  await page.goto(`${cossel.url}/shots/7`);
  await page.locator('.tabs').waitFor();
  await page.keyboard.press('Home');
  await page.getByText(/^0 of 0–/).waitFor();
  await page.keyboard.press('w');
  await page.getByRole('button', { name: 'Take and follow' }).click({ timeout: 90000 });
  await page.getByText('The person is followed').waitFor({ timeout: 180000 });
  const { body: state } = await cossel.api('GET', '/shots/7/recipe');
  const face = state.recipe.areas.find((a) => a.part === 'face');
  for (const shape of face.outline.shapes) Object.assign(shape, { grow: -0.035, featherIn: 0.05, featherOut: 0.04 });
  face.touches = [{ id: 'light', kind: 'sidelight', stops: 0.9, direction: 0 }];
  await cossel.api('PUT', '/shots/7/recipe', { base: state.revision, label: 'Light from its left', recipe: { ...state.recipe, assets: {} } });
  const files = [];
  for (const view of ['original', 'result']) {
    for (const frame of [14, 46, 64]) {
      files.push(join(cossel.folder, `relit_${view}_${frame}.jpg`));
      writeFileSync(files.at(-1), Buffer.from(await (await picture(7, frame, view)).arrayBuffer()));
    }
  }
  const cuts = files.map((_, k) => `[${k}]crop=480:560:400:90[c${k}]`).join(';');
  execFileSync('ffmpeg', ['-v', 'error', ...files.flatMap((f) => ['-i', f]), '-filter_complex', `${cuts};[c0][c1][c2]hstack=3[a];[c3][c4][c5]hstack=3[b];[a][b]vstack`, '-frames:v', '1', '-update', '1', '-y', join(folder, 'relit.png')]);
}

try {
  await cossel.start();
  await cossel.cli('load-demo');
  await frames();
  const page = await cossel.page(Number(width), Number(height));
  const { onRuler } = hands(() => page);
  const shoot = (name) => page.screenshot({ path: join(folder, `${name}.png`) });
  const goTo = async (frame) => {
    const ruler = await page.locator('[data-ruler]').boundingBox();
    await page.mouse.click(ruler.x + (await onRuler(frame)), ruler.y + 10);
  };
  const settled = async () => {
    await page.waitForTimeout(600);
    await until(async () => (await page.locator('.redoing').count()) === 0 && (await page.locator('.witness i').count()) === 0, 60);
    await page.waitForTimeout(500);
  };

  await page.goto(cossel.url);
  await page.getByText('The Verrin Glasshouse').waitFor();
  await page.waitForTimeout(3000);
  await shoot('jobs');
  const open = async (shot) => {
    await page.goto(`${cossel.url}/shots/${shot}`);
    await page.locator('.tabs').waitFor();
    await settled();
  };
  const step = (name) => page.locator('.line').filter({ hasText: name }).click();
  await open(1);
  await shoot('bench');
  await step('Pick');
  await settled();
  await shoot('pick');
  await step('Follow');
  await page.keyboard.press('m');
  await goTo(67);
  await settled();
  await shoot('follow');
  await page.keyboard.press('m');
  await open(2);
  await page.keyboard.press('Shift+C');
  await page.getByRole('button', { name: '200', exact: true }).click();
  await page.mouse.move(420, 300);
  await page.keyboard.down('Alt');
  await page.mouse.down();
  await page.mouse.move(420, 90, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await settled();
  await shoot('outline');
  const { body: state } = await cossel.api('GET', '/shots/2/recipe');
  state.recipe.areas[1].touches = [{ id: 'w1', kind: 'whiten', yellow: 1, lift: 0.16, ceiling: 1 }];
  await cossel.api('PUT', '/shots/2/recipe', { base: state.revision, label: 'Whiten at full', recipe: { ...state.recipe, assets: {} } });
  await open(2);
  await page.keyboard.press('Shift+B');
  await step('Judge');
  await page.getByRole('button', { name: /over-white over its limit/ }).click({ timeout: 90000 });
  await page.getByText('under a ceiling of').waitFor();
  await settled();
  await shoot('telltales');
  await page.goto(`${cossel.url}/jobs/1`);
  await page.getByText('gh050_leaf').waitFor();
  await page.waitForTimeout(2500);
  await shoot('job');
  await cossel.api('POST', '/shots/2/undo', { base: (await cossel.api('GET', '/shots/2/recipe')).body.revision });
  await open(3);
  await page.keyboard.press('Shift+E');
  await step('Treat');
  await page.getByRole('button', { name: 'Parade' }).click();
  await settled();
  await shoot('iris');
  await open(4);
  await page.keyboard.press('Shift+D');
  await page.getByRole('button', { name: 'Vectors' }).click();
  await page.getByRole('button', { name: 'Area alone' }).click();
  await page.mouse.move(400, 20);
  await settled();
  await shoot('skin');
  await page.getByRole('button', { name: 'Waveform' }).click();
  await open(6);
  await goTo(3);
  await settled();
  await page.keyboard.press('w');
  await page.getByRole('button', { name: 'Take and follow' }).waitFor({ timeout: 90000 });
  await settled();
  await shoot('person');
  await page.keyboard.press('Escape');
  await relit(page);
  await open(1);
  await page.getByRole('button', { name: 'Carry', exact: true }).click();
  await page.getByRole('checkbox', { name: /gh050_leaf/ }).check();
  await page.getByRole('button', { name: 'Propose' }).click();
  await page.getByRole('button', { name: 'Take', exact: true }).waitFor({ timeout: 120000 });
  await page.waitForTimeout(2000);
  await shoot('carry');
  await page.getByRole('button', { name: 'Take it' }).click();
  await page.getByText('taken', { exact: true }).waitFor();
  await page.goto(`${cossel.url}/jobs/1`);
  await page.getByRole('button', { name: 'People', exact: true }).click();
  await page.waitForTimeout(5000);
  await shoot('through_the_cut');
  await cossel.api('POST', '/shots/1/deliveries', { format: 'vp9', from: 0, to: 23 });
  const { body } = await cossel.api('POST', '/shots/1/deliveries', { format: 'ffv1', from: 0, to: 83 });
  await page.goto(`${cossel.url}/deliveries`);
  await until(async () => (await cossel.deliveries()).find((d) => d.id === body.id).done > 4, 120);
  await page.waitForTimeout(600);
  await shoot('deliveries');
  await page.goto(`${cossel.url}/upkeep`);
  await page.getByText(/programs run/).waitFor();
  await shoot('upkeep');
} finally {
  await cossel.stop();
}
