/** Takes the pictures of docs/screenshots from the demo data: node scripts/screenshots.mjs [width height folder] */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { Cossel, root, until } from '../tests/browser/cossel.mjs';

const [width = '1280', height = '800', folder = join(root, 'docs/screenshots')] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });
const cossel = new Cossel(8692);

const save = async (shot, change) => {
  const { body } = await cossel.api('GET', `/shots/${shot}/recipe`);
  change(body.recipe);
  await cossel.api('PUT', `/shots/${shot}/recipe`, { base: body.revision, label: 'Treat', recipe: body.recipe });
};
const follow = async (shot, area, start) => {
  await cossel.api('POST', `/shots/${shot}/follows`, { area, start, from: 0, to: 83 });
  await until(async () => (await cossel.api('GET', `/shots/${shot}/follows`)).body.every((f) => f.state === 'done'), 240);
};
const live = { from: 0, to: 83 };

/** A face, followed and relit, as a visitor would make it. */
async function relit(shot) {
  await save(shot, (recipe) => {
    recipe.base = [
      { id: 'b1', kind: 'exposure', stops: -0.2 },
      { id: 'b2', kind: 'tone', contrast: 1.05, highlights: -0.15 },
      { id: 'b3', kind: 'colour', saturation: 1.05 },
    ];
    recipe.areas = [{
      id: 'a1', name: 'Face', part: 'face', person: 'dario', live,
      outline: { at: 42, shapes: [{ id: 's1', kind: 'ellipse', centre: [1.17, 0.5], radii: [0.17, 0.27], turn: 4, featherIn: 0.05, featherOut: 0.02 }] },
      motion: { by: 'follow', start: 42, span: [0, 83], pivot: [1.17, 0.5], track: null },
      touches: [
        { id: 't1', kind: 'exposure', stops: 1.15 },
        { id: 't2', kind: 'tone', gamma: 1.08, gain: 0.97 },
        { id: 't3', kind: 'colour', temperature: 6, saturation: 1.08 },
        { id: 't4', kind: 'exposure', side: 'outside', stops: -0.15 },
      ],
    }];
  });
  await follow(shot, 'a1', 42);
}

/** Both irises of the gaze shot, kept within nothing yet: followed by their round edges, with blink guards. */
async function irises(shot) {
  const iris = (id, name, x, y) => ({
    id, name, part: 'iris', person: 'wren', live, blinkGuard: { on: true, keys: [] },
    outline: { at: 4, shapes: [{ id: `${id}s`, kind: 'ellipse', centre: [x, y], radii: [0.087, 0.087], featherIn: 0.008, featherOut: 0.004 }] },
    motion: { by: 'follow', model: 'iris', start: 4, span: [0, 83], pivot: [x, y], track: null },
    touches: [{ id: `${id}t`, kind: 'exposure', stops: 0.35 }, { id: `${id}u`, kind: 'colour', saturation: 1.15 }],
  });
  await save(shot, (recipe) => {
    recipe.areas = [iris('a1', 'Left iris', 1.398, 0.4915), iris('a2', 'Right iris', 0.634, 0.4275)];
  });
  await follow(shot, 'a1', 4);
  await follow(shot, 'a2', 4);
}

try {
  await cossel.start();
  await cossel.cli('load-demo');
  await relit(1);
  await irises(3);
  const page = await cossel.page(Number(width), Number(height));
  const shoot = (name) => page.screenshot({ path: join(folder, `${name}.png`) });
  const goTo = async (frame) => {
    const ruler = page.locator('[data-ruler]');
    await ruler.click({ position: { x: 76 + ((frame + 0.5) * ((await ruler.boundingBox()).width - 92)) / 84, y: 10 } });
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
  await page.goto(`${cossel.url}/jobs/1`);
  await page.getByText('gh050_leaf').waitFor();
  await page.waitForTimeout(2500);
  await shoot('job');
  await page.goto(`${cossel.url}/shots/1`);
  await page.getByText(/similarity · 84\/84/).waitFor();
  await settled();
  await shoot('bench');
  await page.getByRole('button', { name: '1 Outline' }).click();
  await page.keyboard.press('s');
  await settled();
  await shoot('split');
  await page.keyboard.press('s');
  await page.getByRole('button', { name: '2 Follow' }).click();
  await page.keyboard.press('m');
  await goTo(67);
  await settled();
  await shoot('follow');
  await page.keyboard.press('m');
  await page.getByRole('button', { name: 'Base' }).click();
  await settled();
  await shoot('base');
  await page.goto(`${cossel.url}/shots/3`);
  await page.getByText('ellipse · feather').waitFor();
  await page.getByRole('button', { name: '2 Follow' }).click();
  await goTo(4);
  await settled();
  await shoot('iris');
  await page.goto(`${cossel.url}/shots/2`);
  await page.getByText('Set the base grade first').waitFor();
  await page.getByRole('button', { name: 'Add an area' }).click();
  await page.getByText('Or find the person on this frame').click();
  await page.getByRole('button', { name: 'Take 8 areas' }).click({ timeout: 90000 });
  await page.getByRole('dialog').waitFor({ state: 'hidden' });
  await settled();
  await shoot('person');
  await save(2, (recipe) => {
    const lips = recipe.areas.find((a) => a.name === 'Lips');
    recipe.areas = [{ ...lips, motion: { by: 'follow', model: 'outline', start: 42, span: [0, 83], pivot: [0.9, 0.75], track: null } }];
  });
  await page.reload();
  await page.getByRole('button', { name: 'Lips', exact: false }).first().waitFor();
  await follow(2, (await cossel.api('GET', '/shots/2/recipe')).body.recipe.areas[0].id, 42);
  await page.reload();
  await page.getByText('path, less path').waitFor();
  await page.getByRole('button', { name: '200', exact: true }).click();
  await page.mouse.move(420, 300);
  await page.keyboard.down('Alt');
  await page.mouse.down();
  await page.mouse.move(420, 90, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await page.locator('[data-handle="point-2"]').click();
  await settled();
  await shoot('outline');
  await page.goto(`${cossel.url}/shots/5`);
  await page.getByText('Set the base grade first').waitFor();
  await settled();
  await shoot('untouched');
  await cossel.api('POST', '/shots/1/deliveries', { format: 'vp9', from: 0, to: 23 });
  const { body } = await cossel.api('POST', '/shots/1/deliveries', { format: 'ffv1', from: 0, to: 83 });
  await page.goto(`${cossel.url}/deliveries`);
  await until(async () => (await cossel.deliveries()).find((d) => d.id === body.id).done > 4, 120);
  await page.waitForTimeout(600);
  await shoot('deliveries');
} finally {
  await cossel.stop();
}
