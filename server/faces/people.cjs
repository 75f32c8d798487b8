/** How much of a person each place of a picture shows. */
'use strict';

const { window } = require('./pictures.cjs');

/** How far windows beside each other are apart, of their side: each place lies well inside one of them. */
const APART = 0.4;
/** Share of a window in which it fades towards its edges, and what it counts for at the edge itself. */
const FADES = 0.125;
const LEAST = 0.02;

/** Square windows along the longer side of a picture. */
function windows({ width, height }) {
  const side = Math.min(width, height);
  const more = Math.max(width, height) - side;
  const count = 1 + Math.ceil(more / (APART * side) - 1e-9);
  return Array.from({ length: count }, (_, k) => {
    const middle = side / 2 + (count > 1 ? (k * more) / (count - 1) : 0);
    return width > height ? { x: middle, y: side / 2, side } : { x: side / 2, y: middle, side };
  });
}

/** What a cell counts for in a window, by how far along it is, 0 to 1. */
const weight = (t) => Math.min(1, (LEAST + Math.min(t, 1 - t)) / FADES);

/**
 * The matte of all people: as many cells along the shorter side as the net's windows have pixels, 0 to 255, row by row.
 *
 * The net is shown square windows, not the whole picture pressed into a square: it knows people as wide as they are.
 */
async function people(net, picture) {
  const { size } = net;
  const cell = Math.min(picture.width, picture.height) / size;
  const [across, down] = [Math.round(picture.width / cell), Math.round(picture.height / cell)];
  const sum = new Float32Array(across * down);
  const all = new Float32Array(across * down);
  for (const at of windows(picture)) {
    const [found] = Object.values(await net.run(window(picture, at, size)));
    const [left, top] = [at.x / cell - size / 2, at.y / cell - size / 2];
    for (let j = Math.max(0, Math.ceil(top)); j < Math.min(down, top + size); j++) {
      for (let i = Math.max(0, Math.ceil(left)); i < Math.min(across, left + size); i++) {
        const [u, v] = [Math.min(size - 1, Math.round(i - left)), Math.min(size - 1, Math.round(j - top))];
        const counts = weight((u + 0.5) / size) * weight((v + 0.5) / size);
        sum[j * across + i] += counts * found[v * size + u];
        all[j * across + i] += counts;
      }
    }
  }
  const cells = Buffer.alloc(across * down);
  for (let k = 0; k < cells.length; k++) cells[k] = Math.round((255 * sum[k]) / Math.max(LEAST * LEAST, all[k]));
  return { across, down, cells };
}

module.exports = { people };
