/** Where faces may be in a picture (V. Bazarevsky et al., “BlazeFace: Sub-millisecond Neural Face Detection on Mobile GPUs”, 2019). */
'use strict';

const { window } = require('./pictures.cjs');

/** The net tells so many places of cells of grids of so many to a side. */
const GRIDS = [[16, 2], [8, 6]];
const LEAST = 0.35;
/** Two finds that share more of what they cover together are one face. */
const SAME = 0.3;
/** Room round a face that was detected. */
const ROOM = 1.5;
/** The picture is looked at whole, and in squares of so much of its height for small faces; how far these lap over. */
const PART = 0.5;
const LAP = 0.3;
/** A face is large from this share of the picture's height. */
const LARGE = 0.2;
/** What a dark picture is lifted by, as an exponent. */
const LIFT = 0.5;

const CELLS = GRIDS.flatMap(([side, each]) => Array.from({ length: side * side * each }, (_, i) => {
  const cell = Math.floor(i / each);
  return [((cell % side) + 0.5) / side, (Math.floor(cell / side) + 0.5) / side];
}));

const plain = (v) => 2 * v - 1;
const lifted = (v) => 2 * v ** LIFT - 1;

function shared(a, b) {
  const across = Math.max(0, Math.min(a.x + a.width / 2, b.x + b.width / 2) - Math.max(a.x - a.width / 2, b.x - b.width / 2));
  const along = Math.max(0, Math.min(a.y + a.height / 2, b.y + b.height / 2) - Math.max(a.y - a.height / 2, b.y - b.height / 2));
  return (across * along) / (a.width * a.height + b.width * b.height - across * along);
}

/** Those of which none lies on a surer one. */
function apart(found) {
  const kept = [];
  for (const one of [...found].sort((a, b) => b.score - a.score)) if (kept.every((other) => shared(one, other) < SAME)) kept.push(one);
  return kept;
}

/** Finds in one square of the picture: where they are, how large, and how they are turned, by their eyes. */
async function inSquare(net, picture, { x, y, side }, tone) {
  const answers = Object.values(await net.run(window(picture, { x, y, side }, net.size).map(tone))).sort((a, b) => a.length - b.length);
  // Scores and places of the coarse grid, then of the fine one; the fine one comes first.
  const [coarse, fine, coarsePlaces, finePlaces] = answers;
  const found = [];
  CELLS.forEach(([u, v], i) => {
    const [scores, places, k] = i < fine.length ? [fine, finePlaces, i] : [coarse, coarsePlaces, i - fine.length];
    const score = 1 / (1 + Math.exp(-scores[k]));
    if (score < LEAST) return;
    const at = (n) => places[16 * k + n] / net.size;
    const place = (n) => [x + side * (u + at(n) - 0.5), y + side * (v + at(n + 1) - 0.5)];
    const [[cx, cy], a, b] = [place(0), place(4), place(6)];
    found.push({ score, x: cx, y: cy, width: at(2) * side, height: at(3) * side, turn: Math.atan2(b[1] - a[1], b[0] - a[0]) });
  });
  return apart(found);
}

function* squares({ width, height }) {
  const side = PART * height;
  const count = (length) => Math.max(1, Math.ceil((length - LAP * side) / ((1 - LAP) * side)));
  const [across, along] = [count(width), count(height)];
  const middle = (length, n, i) => (n === 1 ? length / 2 : side / 2 + (i * (length - side)) / (n - 1));
  for (let j = 0; j < along; j++) for (let i = 0; i < across; i++) yield { x: middle(width, across, i), y: middle(height, along, j), side };
}

/**
 * The faces of a picture, the largest first: what is found on a part of a face comes after the face.
 *
 * @param word of the picture; in a search small ones are looked for as well, anew only where no large one is found
 */
async function boxes(net, picture, word) {
  const whole = { x: picture.width / 2, y: picture.height / 2, side: Math.max(picture.width, picture.height) };
  let found = await inSquare(net, picture, whole, plain);
  const isWide = found.every(({ height }) => height < LARGE * picture.height);
  if (word === 'search' || (word === 'anew' && isWide)) for (const square of squares(picture)) found.push(...(await inSquare(net, picture, square, plain)));
  if (found.length === 0) found = await inSquare(net, picture, whole, lifted);
  const kept = apart(found).map(({ x, y, width, height, turn }) => ({ x, y, side: ROOM * Math.max(width, height), turn }));
  return kept.sort((a, b) => b.side - a.side);
}

module.exports = { boxes };
