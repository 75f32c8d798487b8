/** Every screen, and everything that opens on the bench, is looked over by axe in three widths. */
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { after, before, test } from 'node:test';
import { Cossel } from './cossel.mjs';

const cossel = new Cossel(8681);
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

before(async () => {
  await cossel.start();
  await cossel.cli('load-demo');
});
after(() => cossel.stop());

for (const width of [1024, 1280, 1920]) {
  test(`nothing is found on any screen at ${width}`, async () => {
    const page = await cossel.page(width, Math.round(width * 0.625));
    page.setDefaultTimeout(15000);
    const found = [];
    async function look(where) {
      await page.waitForTimeout(400);
      if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe);
      // A tooltip belongs to what it stands beside, wherever it is in the page.
      const violations = await page.evaluate(async () => (await window.axe.run({ exclude: [['.p-tooltip']] }, { resultTypes: ['violations'] })).violations);
      for (const v of violations) found.push(`${where}: ${v.id}, ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`);
      const headings = await page.getByRole('heading', { level: 1 }).count();
      if (headings !== 1) found.push(`${where}: ${headings} headings of the first level`);
      if ((await page.getByRole('main').count()) !== 1) found.push(`${where}: no main landmark`);
    }
    await page.goto(cossel.url);
    await page.getByText('The Verrin Glasshouse').waitFor();
    await look('jobs');
    await page.getByRole('button', { name: 'New job' }).click();
    await look('new job');
    await page.goto(`${cossel.url}/jobs/1`);
    await page.getByText('gh050_leaf').waitFor();
    await look('job');
    await page.getByRole('button', { name: 'More for gh010_backlit' }).click();
    await look('what can be done with a shot');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Deliver', exact: true }).first().click();
    await look('deliver from the job');
    await page.keyboard.press('Escape');
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    if (width === 1280) {
      await page.getByRole('button', { name: 'Take out…' }).click();
      await look('what can be taken out');
      await page.keyboard.press('Escape');
      await page.getByRole('row').filter({ hasText: 'gh020_laugh' }).getByRole('checkbox').check();
      for (const [button, dialog] of [['Lay a treatment on', 'Lay a treatment on'], ['Deliver it', 'Deliver gh020_laugh'], ['Bring in footage', 'Bring in footage']]) {
        await page.getByRole('button', { name: button }).click();
        await page.getByRole('dialog', { name: dialog }).waitFor();
        await look(dialog);
        await page.keyboard.press('Escape');
        await page.getByRole('dialog').waitFor({ state: 'detached' });
      }
    }
    await page.goto(`${cossel.url}/deliveries`);
    await look('deliveries');
    await page.goto(`${cossel.url}/nowhere`);
    await look('not found');
    await page.goto(`${cossel.url}/shots/99`);
    await look('no such shot');
    await page.goto(`${cossel.url}/shots/1`);
    await page.getByRole('tab', { name: 'A Face' }).waitFor();
    for (const step of ['Outline', 'Follow', 'Pick', 'Treat', 'Judge']) {
      await page.locator('.line').filter({ hasText: step }).click();
      await look(step);
    }
    for (const tab of ['Base', 'Finish', 'A Face']) {
      await page.getByRole('tab', { name: tab }).click();
      await look(tab);
    }
    await page.getByRole('button', { name: 'More for this area' }).click();
    await look('what can be done with an area');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^live 0–83/ }).click();
    await look('about the area');
    await page.getByRole('button', { name: 'People…' }).click();
    await look('people');
    for (const panel of ['History', 'Keys', 'Deliver', 'Carry', 'Add an area']) {
      await page.getByRole('button', { name: panel, exact: true }).click();
      await look(panel);
    }
    await page.getByRole('button', { name: 'Leave it' }).click();
    await page.keyboard.press('s');
    await look('split');
    if (width === 1280) {
      await page.goto(`${cossel.url}/shots/1?area=face&frame=40`);
      const shots = page.getByRole('combobox', { name: 'Another shot' });
      await shots.waitFor();
      await shots.click();
      await page.getByRole('option', { name: 'gh050_leaf' }).click();
      await page.getByRole('region', { name: 'Beside gh050_leaf' }).waitFor();
      await look('beside another shot');
    }
    assert.deepEqual(found, []);
    await page.close();
  });
}
