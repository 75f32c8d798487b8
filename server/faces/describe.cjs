/** What tells a face from others: numbers that are much the same for one person, whatever the light and the way they look. */
'use strict';

const { window } = require('./pictures.cjs');

/**
 * @param at where the face is looked at, as for its mesh
 *
 * @returns {Promise<Buffer>} a number of 0 to 255 each, in parts of the largest: only their proportions tell anything
 */
async function describe(net, picture, at) {
  // The net wants pixels of 0 to 255.
  const [found] = Object.values(await net.run(window(picture, at, net.size).map((v) => 255 * v)));
  const most = found.reduce((a, b) => Math.max(a, b), 1e-6);
  return Buffer.from(found.map((v) => Math.round((255 * v) / most)));
}

module.exports = { describe };
