/** What a hand does, for tests that draw and drag. */

/** Drags a row of a list by its handle to above another one's middle, or below it. */
export async function dragRow(page, row, onto, below = false) {
  const [from, to] = [await row.locator('.grip').boundingBox(), await onto.boundingBox()];
  const [x, y] = [from.x + from.width / 2, to.y + to.height * (below ? 0.75 : 0.25)];
  await page.mouse.move(x, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(x + 2, (from.y + y) / 2, { steps: 6 });
  await page.mouse.move(x, y, { steps: 6 });
  await page.mouse.move(x, y + 1);
  await page.mouse.up();
}

/** @param {() => import('playwright-core').Page} page */
export function hands(page) {
  /** Where a picture point (picture heights) is on the page. */
  async function onPage([x, y]) {
    const box = await page().locator('[data-stage]').boundingBox();
    const unit = Math.min(box.height - 40, (box.width - 40) / (16 / 9));
    return [box.x + Math.round(box.width / 2 - (8 / 9) * unit) + x * unit, box.y + Math.round(box.height / 2 - unit / 2) + y * unit];
  }
  async function drag(from, to) {
    await page().mouse.move(...from);
    await page().mouse.down();
    await page().mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 3 });
    await page().mouse.move(...to, { steps: 3 });
    await page().mouse.up();
  }
  /** How far from its left a frame of a demo shot stands on the ruler and its lanes. */
  async function onRuler(frame) {
    const ruler = page().locator('[data-ruler]');
    const left = Number(await ruler.getAttribute('data-left'));
    return left + ((frame + 0.5) * ((await ruler.boundingBox()).width - left - 16)) / 84;
  }
  async function goTo(frame) {
    const ruler = await page().locator('[data-ruler]').boundingBox();
    await page().mouse.click(ruler.x + (await onRuler(frame)), ruler.y + 8);
    await page().getByText(new RegExp(`^${frame} of 0–83$`)).waitFor();
    // Handles can be taken hold of when the picture is there.
    await page().getByRole('img', { name: new RegExp(`^Frame ${frame}, `) }).waitFor();
  }
  /** Begins an area and leaves it ready to be drawn. */
  async function addArea(name) {
    await page().getByRole('button', { name: 'Add an area' }).click();
    await page().getByLabel('Name', { exact: true }).fill(name);
    await page().getByRole('button', { name: 'Add and draw it' }).click();
    await page().getByRole('region', { name: 'Add an area' }).waitFor({ state: 'hidden' });
  }
  /** Takes a file where a button asks for one. */
  async function choose(button, file) {
    const [chooser] = await Promise.all([page().waitForEvent('filechooser'), button.click()]);
    await chooser.setFiles(file);
  }
  return { onPage, drag, onRuler, goTo, addArea, choose };
}
