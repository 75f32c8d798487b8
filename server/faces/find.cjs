/**
 * Finds the landmarks of all faces in pictures. Pictures come in on standard input, each as "WIDTH HEIGHT\n" and four bytes a pixel
 * (blue, green, red, nothing); for each a line of JSON goes out: the landmarks of its faces, in pixels.
 */
'use strict';

const { readFileSync } = require('node:fs');
const { dirname } = require('node:path');
const Module = require('node:module');

// The package asks for all of tfjs, of which it needs the core and one backend.
const resolve = Module._resolveFilename;
Module._resolveFilename = (name, ...rest) => resolve(name === '@tensorflow/tfjs' ? '@tensorflow/tfjs-core' : name, ...rest);
const faceapi = require('@vladmandic/face-api/dist/face-api.node-wasm.js');
const wasm = require('@tensorflow/tfjs-backend-wasm');
const { tf } = faceapi;

/** Operations that the package calls on tensors, which come with all of tfjs only. */
const CHAINED = ['add', 'sub', 'mul', 'div', 'clipByValue', 'concat', 'expandDims', 'max', 'mean', 'min', 'reshape', 'slice', 'softmax', 'stack', 'transpose', 'unstack', 'cast'];
for (const name of CHAINED) {
  tf.Tensor.prototype[name] ??= function (...rest) {
    return tf[name](this, ...rest);
  };
}
Object.assign(tf.Tensor.prototype, {
  as1D() { return tf.reshape(this, [this.size]); },
  as2D(...shape) { return tf.reshape(this, shape); },
  as3D(...shape) { return tf.reshape(this, shape); },
  as4D(...shape) { return tf.reshape(this, shape); },
  toInt() { return tf.cast(this, 'int32'); },
  toFloat() { return tf.cast(this, 'float32'); },
});

/** Sizes the detector looks at: the first two always, far faces being found in the one and near ones in the other; the others where these find none. */
const SIZES = [[416, 608], [320], [224]];
/** Turns of the picture, degrees, that are tried where nobody is found upright, and the size for these. */
const TURNS = [35, -35, 80, -80];
const LYING = [[416]];
/** Two finds that share more of what they cover together are one face. */
const SAME = 0.3;
const MOST = 8;
/** A face tilted by less than this counts as upright, radians. */
const UPRIGHT = 0.09;
/** Room round a detected face, as the landmark net was taught with, and round the landmarks of one. */
const ROOM = 0.08;
const CLOSE = 0.12;
/** How far two finds of a face may be apart, of its width: faces keep under .03, what is taken for one is over .04. */
const STEADY = 0.035;

const model = (name) => require.resolve(`@vladmandic/face-api/model/${name}`);

function weights(name) {
  const bytes = readFileSync(model(`${name}.bin`));
  const groups = JSON.parse(readFileSync(model(`${name}-weights_manifest.json`), 'utf8'));
  return tf.io.decodeWeights(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length), groups.flatMap((group) => group.weights));
}

async function load() {
  wasm.setWasmPaths(`${dirname(require.resolve('@tensorflow/tfjs-backend-wasm'))}/`);
  await tf.setBackend('wasm');
  await tf.ready();
  const detector = new faceapi.TinyFaceDetector();
  const net = new faceapi.FaceLandmark68Net();
  detector.loadFromWeightMap(weights('tiny_face_detector_model'));
  net.loadFromWeightMap(weights('face_landmark_68_model'));
  return { detector, net };
}

/** A picture at half its size. */
function halved({ rgb, width, height }) {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h * 3);
  for (let y = 0, k = 0; y < h; y++) {
    for (let i = 6 * y * width, end = i + 6 * w; i < end; i += 6) {
      for (let p = i; p < i + 3; p++, k++) out[k] = (rgb[p] + rgb[p + 3] + rgb[p + 3 * width] + rgb[p + 3 * width + 3]) / 4;
    }
  }
  return { rgb: out, width: w, height: h };
}

/** A picture as it is turned by an angle about a place, seen through a window: bilinear, black outside. */
function turned({ rgb, width, height }, cx, cy, angle, across, along) {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const out = new Float32Array(across * along * 3);
  for (let y = 0, k = 0; y < along; y++) {
    for (let x = 0; x < across; x++, k += 3) {
      const [dx, dy] = [x + 0.5 - across / 2, y + 0.5 - along / 2];
      const u = cx + c * dx - s * dy - 0.5;
      const v = cy + s * dx + c * dy - 0.5;
      const [i, j] = [Math.floor(u), Math.floor(v)];
      if (i < 0 || j < 0 || i >= width - 1 || j >= height - 1) continue;
      const [a, b] = [u - i, v - j];
      const at = 3 * (j * width + i);
      for (let p = 0; p < 3; p++) {
        const top = rgb[at + p] * (1 - a) + rgb[at + 3 + p] * a;
        const low = rgb[at + 3 * width + p] * (1 - a) + rgb[at + 3 * width + 3 + p] * a;
        out[k + p] = top * (1 - b) + low * b;
      }
    }
  }
  const back = ([x, y]) => [cx + c * (x - across / 2) - s * (y - along / 2), cy + s * (x - across / 2) + c * (y - along / 2)];
  return { picture: { rgb: out, width: across, height: along }, back };
}

function shared(a, b) {
  const across = Math.max(0, Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x));
  const along = Math.max(0, Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y));
  return (across * along) / (a.width * a.height + b.width * b.height - across * along);
}

/** Where faces are in the picture, the surest of those that lie on each other. */
async function boxes(detector, whole, all) {
  for (const sizes of all) {
    const found = [];
    for (const inputSize of sizes) found.push(...(await detector.locateFaces(whole, { inputSize, scoreThreshold: 0.3 })));
    const kept = [];
    for (const { box } of found.sort((a, b) => b.score - a.score)) if (kept.every((other) => shared(box, other) < SAME)) kept.push(box);
    if (kept.length) return kept.slice(0, MOST);
  }
  return [];
}

async function landmarks(net, crop) {
  const found = await net.detectLandmarks(crop);
  crop.dispose();
  const one = Array.isArray(found) ? found[0] : found;
  return one ? one.positions.map((p) => [p.x, p.y]) : null;
}

/** How far two finds of a face are apart, of its width. */
function apart(one, other) {
  const x = one.map((p) => p[0]);
  const square = one.reduce((sum, [u, v], i) => sum + (u - other[i][0]) ** 2 + (v - other[i][1]) ** 2, 0);
  return Math.sqrt(square / one.length) / Math.max(1, Math.max(...x) - Math.min(...x));
}

/** A face looked at again, upright by its own eyes and close round what was found: the net knows such faces best. */
async function again(net, picture, found, tilt) {
  const [c, s] = [Math.cos(tilt), Math.sin(tilt)];
  const upright = found.map(([x, y]) => [c * x + s * y, c * y - s * x]);
  const [left, top] = [0, 1].map((i) => Math.min(...upright.map((p) => p[i])));
  const [across, along] = [0, 1].map((i) => Math.max(...upright.map((p) => p[i])) - [left, top][i]);
  const [u, v] = [left + across / 2, top + along / 2];
  const close = turned(picture, c * u - s * v, s * u + c * v, tilt, Math.ceil((1 + 2 * CLOSE) * across), Math.ceil((1 + 2 * CLOSE) * along));
  const { rgb, width, height } = close.picture;
  return (await landmarks(net, tf.tensor3d(rgb, [height, width, 3])))?.map(close.back) ?? found;
}

/** A face is found again where it was, when it is looked at a little differently; what is none is found somewhere else. */
async function settled(net, picture, found) {
  const middle = (from, to) => [0, 1].map((i) => found.slice(from, to).reduce((sum, p) => sum + p[i], 0) / (to - from));
  const [right, left] = [middle(36, 42), middle(42, 48)];
  const tilt = Math.atan2(left[1] - right[1], left[0] - right[0]);
  const first = Math.abs(tilt) < UPRIGHT ? found : await again(net, picture, found, tilt);
  const second = await again(net, picture, first, tilt);
  return apart(first, second) > STEADY ? null : first;
}

async function faces({ detector, net }, picture, sizes) {
  const { rgb, width, height } = picture;
  const whole = tf.tensor3d(rgb, [height, width, 3]);
  const all = [];
  for (const box of await boxes(detector, whole, sizes)) {
    const left = Math.max(0, Math.floor(box.x - ROOM * box.width));
    const top = Math.max(0, Math.floor(box.y - ROOM * box.height));
    const right = Math.min(width, Math.ceil(box.x + (1 + ROOM) * box.width));
    const low = Math.min(height, Math.ceil(box.y + (1 + ROOM) * box.height));
    if (right - left < 16 || low - top < 16) continue;
    const found = await landmarks(net, tf.slice3d(whole, [top, left, 0], [low - top, right - left, 3]));
    const face = found && (await settled(net, picture, found.map(([u, v]) => [left + u, top + v])));
    if (face) all.push(face);
  }
  whole.dispose();
  return all;
}

function lying(picture, degrees) {
  const { width, height } = picture;
  const side = Math.ceil(Math.hypot(width, height));
  return turned(picture, width / 2, height / 2, (-degrees * Math.PI) / 180, side, side);
}

async function isAnybody({ detector }, { rgb, width, height }) {
  const whole = tf.tensor3d(rgb, [height, width, 3]);
  const found = await boxes(detector, whole, LYING);
  whole.dispose();
  return found.length > 0;
}

async function find(nets, picture) {
  const upright = await faces(nets, picture, SIZES);
  if (upright.length) return upright;
  const small = halved(picture);
  for (const degrees of TURNS) {
    // As large as the detector looks at it is enough to tell whether anybody is there.
    if (!(await isAnybody(nets, lying(small, degrees).picture))) continue;
    const one = lying(picture, degrees);
    const found = await faces(nets, one.picture, LYING);
    if (found.length) return found.map((face) => face.map(one.back));
  }
  return [];
}

/** The pictures that come in, one after the other. */
function* pictures(bytes) {
  for (let at = 0; at < bytes.length; ) {
    const end = bytes.indexOf(10, at);
    const [width, height] = bytes.toString('latin1', at, end).split(' ').map(Number);
    const rgb = new Float32Array(width * height * 3);
    for (let i = end + 1, k = 0; k < rgb.length; i += 4, k += 3) [rgb[k], rgb[k + 1], rgb[k + 2]] = [bytes[i + 2], bytes[i + 1], bytes[i]];
    yield { rgb, width, height };
    at = end + 1 + width * height * 4;
  }
}

async function main() {
  const nets = await load();
  for (const picture of pictures(readFileSync(0))) process.stdout.write(`${JSON.stringify(await find(nets, picture))}\n`);
}

main().catch((reason) => {
  process.stderr.write(`${reason.message}\n`);
  process.exitCode = 1;
});
