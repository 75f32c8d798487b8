/** What a hand does on the bench, for tests that draw and drag. */

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
  async function goTo(frame) {
    const ruler = await page().locator('[data-ruler]').boundingBox();
    await page().mouse.click(ruler.x + 76 + ((frame + 0.5) * (ruler.width - 92)) / 84, ruler.y + 8);
    await page().getByText(new RegExp(`^${frame} of 0–83$`)).waitFor();
  }
  /** Begins an area and leaves it ready to be drawn. */
  async function addArea(name) {
    await page().getByRole('button', { name: 'Add an area' }).click();
    await page().getByLabel('Name', { exact: true }).fill(name);
    await page().getByRole('button', { name: 'Add and draw it' }).click();
    await page().getByRole('dialog').waitFor({ state: 'hidden' });
  }
  return { onPage, drag, goTo, addArea };
}
