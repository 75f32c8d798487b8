/** What is done to a person in one shot is carried to another, in four clicks and without a line drawn. */
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { Cossel, until } from './cossel.mjs';

const cossel = new Cossel(8698);
let page;
let shots;

before(async () => {
  await cossel.start();
  await cossel.cli('load-demo');
  page = await cossel.page();
  page.setDefaultTimeout(20000);
  shots = Object.fromEntries((await cossel.api('GET', '/jobs/1')).body.shots.map((s) => [s.name, s.id]));
});
after(async () => {
  assert.deepEqual(page.problems, []);
  await cossel.stop();
});

const recipe = async (shot) => (await cossel.api('GET', `/shots/${shots[shot]}/recipe`)).body.recipe;
const steps = async (shot) => (await cossel.api('GET', `/shots/${shots[shot]}/history`)).body.length;

test('a relit face is proposed for another shot, looked at, taken in one step and taken back', async () => {
  const had = await steps('gh050_leaf');
  await page.goto(`${cossel.url}/shots/${shots.gh010_backlit}`);
  await page.getByRole('button', { name: 'Carry', exact: true }).click();
  const panel = page.getByRole('region', { name: 'Carry to other shots' });
  assert.ok(await panel.getByRole('checkbox', { name: 'Face' }).isChecked());
  await panel.getByRole('checkbox', { name: /gh050_leaf/ }).check();
  await panel.getByRole('button', { name: 'Propose' }).click();
  const proposal = panel.getByRole('listitem', { name: 'gh050_leaf' });
  await proposal.getByRole('button', { name: 'Take', exact: true }).waitFor({ timeout: 120000 });
  // Nothing is done before it is taken; both pictures are there to judge by.
  assert.deepEqual((await recipe('gh050_leaf')).areas, []);
  await until(() => proposal.locator('img').evaluateAll((all) => all.length === 2 && all.every((i) => i.naturalWidth > 300)));
  const [carry] = (await cossel.api('GET', `/shots/${shots.gh010_backlit}/carries`)).body;
  assert.ok(carry.misses[0].before > 10 && carry.misses[0].after < 2, JSON.stringify(carry.misses));
  await panel.getByRole('button', { name: 'Take it' }).click();
  await proposal.getByText('taken', { exact: true }).waitFor();
  const [face] = (await recipe('gh050_leaf')).areas;
  assert.deepEqual([face.name, face.person, face.motion.by, face.motion.model], ['Face', 'dario', 'follow', 'relief']);
  assert.deepEqual(face.touches.map((t) => t.kind), ['trim', 'exposure', 'tone', 'colour', 'sidelight']);
  assert.equal(await steps('gh050_leaf'), had + 1);
  // The trim is a card like any other there.
  await proposal.getByRole('link', { name: 'Open it' }).click();
  await page.getByRole('tab', { name: /Face$/ }).click();
  if (!(await page.getByText('Trim', { exact: true }).first().isVisible())) await page.locator('.line').filter({ hasText: 'Treat' }).click();
  await page.getByText('Trim', { exact: true }).first().waitFor();
  // Through the cut his skin is alike now.
  await page.goto(`${cossel.url}/jobs/1`);
  await page.getByRole('button', { name: 'People', exact: true }).click();
  const dario = page.getByRole('region', { name: 'Dario' });
  await dario.getByText(/^\d\.\d from gh010_backlit$/).waitFor();
  assert.equal(await dario.getByRole('listitem').count(), 2);
  await page.getByRole('region', { name: 'Wren' }).getByText(/^▲ 1\d\.\d from gh030_gaze$/).waitFor();
  await cossel.api('POST', `/carries/${carry.id}/back`);
  assert.deepEqual((await recipe('gh050_leaf')).areas, []);
});

test('what cannot be carried says why, and leaves the shot alone', async () => {
  await page.goto(`${cossel.url}/shots/${shots.gh010_backlit}`);
  await page.getByRole('button', { name: 'Carry', exact: true }).click();
  const panel = page.getByRole('region', { name: 'Carry to other shots' });
  await panel.getByRole('button', { name: 'Choose anew' }).click();
  // A close-up of two eyes: nothing that was done to a face belongs there.
  await panel.getByRole('checkbox', { name: /gh030_gaze/ }).check();
  await panel.getByRole('button', { name: 'Propose' }).click();
  await panel.getByText(/Face: left out, the face is not seen whole/).waitFor({ timeout: 120000 });
  assert.equal(await panel.getByRole('button', { name: 'Take it' }).isDisabled(), true);
});
