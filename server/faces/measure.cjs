/**
 * Lays a mesh over every face of pictures, and a matte over their people. Pictures come in on standard input (see pictures.cjs); for each a
 * line of JSON goes out: its faces, each with its score and points (x, y, depth; pixels) and, where new ones are looked for, its
 * descriptor (see describe.cjs; base64), and the matte (see people.cjs), its cells packed (zlib, base64). The word of a picture is
 *
 *   anew     nothing is known of where faces are: they are looked for, small ones too
 *   search   faces are where they were in the picture before, more or less; new ones are looked for as well, small ones too
 *   look     as search, but small ones are not looked for
 *   follow   only where they were, unless one is missing
 */
'use strict';

const { deflateSync } = require('node:zlib');
const { incoming } = require('./pictures.cjs');
const { net } = require('./nets.cjs');
const { boxes } = require('./boxes.cjs');
const { mesh, withIrises, round } = require('./mesh.cjs');
const { people } = require('./people.cjs');
const { describe } = require('./describe.cjs');

/** The score from which a mesh lies on a face. */
const FACE = 8;
/** A mesh laid over a find is laid again by itself until it rests, so often at the most; it rests when its place changes by less, of its side. */
const AGAIN = 3;
const RESTS = 0.015;
/** Two meshes are on one face, or one is on a part of it, when their middles are nearer than this, of the larger one's side. */
const SAME = 0.33;
const MOST = 12;
/** Share of a mesh that must lie in the picture, and its most height, of the picture's: close-ups of eyes alone are taken for faces far larger than it. */
const INSIDE = 0.6;
const LARGEST = 1.6;
/** Share of a mesh that must lie in the picture for its face to be described. */
const WHOLE = 0.9;
/** What is lower than this is not looked at, pixels: anything may look like a face there. */
const SMALLEST = 24;

/** Points of a mesh that lie in the picture. */
const insideOf = ({ width, height }, points) => points.filter(([x, y]) => x >= 0 && y >= 0 && x < width && y < height).length;
/** Eyes alone tell nobody from others. */
const isWhole = (picture, points) => insideOf(picture, points) >= WHOLE * points.length;

function isFace(picture, { score, points }) {
  const inside = insideOf(picture, points);
  const ys = points.map(([, y]) => y);
  const high = Math.max(...ys) - Math.min(...ys);
  return score >= FACE && inside >= INSIDE * points.length && high >= SMALLEST && high < LARGEST * picture.height;
}

/** The mesh that lies on a face somewhere about; null where there is none. */
async function settled(nets, picture, at) {
  let found = await mesh(nets, picture, at);
  for (let k = 0; k < AGAIN && found.score >= FACE; k++) {
    const now = round(found.points);
    const moved = Math.hypot(now.x - at.x, now.y - at.y) + Math.abs(now.side - at.side);
    if (moved < RESTS * at.side) break;
    at = now;
    found = await mesh(nets, picture, at);
  }
  return isFace(picture, found) ? found : null;
}

/** The mesh on a face that lay elsewhere in the picture before. One step of a quick head is followed by laying the mesh once more. */
async function followed(nets, picture, { points }) {
  const found = await mesh(nets, picture, round(points));
  return isFace(picture, found) ? settled(nets, picture, round(found.points)) : null;
}

const isSame = (a, b) => Math.hypot(a.x - b.x, a.y - b.y) < SAME * Math.max(a.side, b.side);

async function measure(nets, picture, known) {
  const faces = [];
  const add = (found) => {
    const at = found && round(found.points);
    if (found && faces.length < MOST && faces.every((face) => !isSame(at, face.at))) faces.push({ ...found, at });
  };
  for (const face of picture.word === 'anew' ? [] : known) add(await followed(nets, picture, face));
  const isMissing = faces.length < known.length;
  if (picture.word !== 'follow' || isMissing) {
    for (const box of await boxes(nets.detector, picture, picture.word)) if (faces.every((face) => !isSame(box, face.at))) add(await settled(nets, picture, box));
  }
  return faces;
}

async function main() {
  const nets = { detector: await net('blazeface-back'), whole: await net('facemesh-attention-pinto'), eye: await net('iris'), people: await net('selfie'), descriptor: await net('faceres') };
  let known = [];
  for await (const picture of incoming(process.stdin)) {
    // Irises are looked at once, when the mesh rests.
    const faces = await measure(nets, picture, known);
    known = [];
    for (const face of faces) known.push(await withIrises(nets, picture, face));
    const told = known.map(({ score, points }) => ({ score: Number(score.toFixed(2)), points: points.map((p) => p.map((v) => Number(v.toFixed(2)))) }));
    // What somebody looks like does not change from frame to frame.
    if (picture.word !== 'follow') for (const face of told.filter(({ points }) => isWhole(picture, points))) face.descriptor = (await describe(nets.descriptor, picture, round(face.points))).toString('base64');
    const { across, down, cells } = await people(nets.people, picture);
    process.stdout.write(`${JSON.stringify({ faces: told, people: { across, down, cells: deflateSync(cells).toString('base64') } })}\n`);
  }
}

main().catch((reason) => {
  process.stderr.write(`${reason.message}\n`);
  process.exitCode = 1;
});
