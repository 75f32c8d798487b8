/**
 * A mesh of 478 points laid over a face, with its eyes and lips looked at closely: which point of a closer look is which of the mesh is
 * as the nets' makers give it (MediaPipe Face Mesh with attention; I. Grishchenko et al., “Attention Mesh”, 2020, and Iris; A. Ablavatski
 * et al., “Real-time Pupil Tracking from Monocular Video”, 2020).
 */
'use strict';

const { window, back } = require('./pictures.cjs');

const LIPS = [
  61, 146, 91, 181, 84, 17, 314, 405, 321, 375, 291, 185, 40, 39, 37, 0, 267, 269, 270, 409,
  78, 95, 88, 178, 87, 14, 317, 402, 318, 324, 308, 191, 80, 81, 82, 13, 312, 311, 310, 415,
  76, 77, 90, 180, 85, 16, 315, 404, 320, 307, 306, 184, 74, 73, 72, 11, 302, 303, 304, 408,
  62, 96, 89, 179, 86, 15, 316, 403, 319, 325, 292, 183, 42, 41, 38, 12, 268, 271, 272, 407,
];
/** The eye on the left of the picture, which is the person's right one, and the other: corners and lids first. */
const EYES = [
  [
    33, 7, 163, 144, 145, 153, 154, 155, 133, 246, 161, 160, 159, 158, 157, 173,
    130, 25, 110, 24, 23, 22, 26, 112, 243, 247, 30, 29, 27, 28, 56, 190,
    226, 31, 228, 229, 230, 231, 232, 233, 244, 113, 225, 224, 223, 222, 221, 189, 35, 124, 46, 53, 52, 65,
    143, 111, 117, 118, 119, 120, 121, 128, 245, 156, 70, 63, 105, 66, 107, 55, 193,
  ],
  [
    263, 249, 390, 373, 374, 380, 381, 382, 362, 466, 388, 387, 386, 385, 384, 398,
    359, 255, 339, 254, 253, 252, 256, 341, 463, 467, 260, 259, 257, 258, 286, 414,
    446, 261, 448, 449, 450, 451, 452, 453, 464, 342, 445, 444, 443, 442, 441, 413, 265, 353, 276, 283, 282, 295,
    372, 340, 346, 347, 348, 349, 350, 357, 465, 383, 300, 293, 334, 296, 336, 285, 417,
  ],
];
/** The closer look tells lips so much too high, in pixels of its window: corners by 1.6 to 3.8 on six faces, the line between the lips by 1.2. */
const LIPS_HIGH = 1.2;
/** Points of the lids alone, at the head of those of an eye. */
const LIDS = 16;
/** Points of the mesh before those of the irises, and of an iris: its middle and four round it. */
const MESH = 468;
const IRIS = 5;
/** Corners of the eyes. */
const CORNERS = [[33, 133], [362, 263]];
/** Room round a mesh to look at it again, and round an eye, in their own sizes. */
const ROOM = 1.4;
const EYE_ROOM = 2.3;

const grouped = (numbers, size) => Array.from({ length: numbers.length / size }, (_, i) => Array.from(numbers.subarray(i * size, (i + 1) * size)));

/** Where a face is looked at, by a mesh that lay on it before: upright by its own eyes. */
function round(mesh) {
  const [a, b] = [mesh[33], mesh[263]];
  const turn = Math.atan2(b[1] - a[1], b[0] - a[0]);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  let [left, right, top, low] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const [x, y] of mesh.slice(0, MESH)) {
    const [u, v] = [c * x + s * y, c * y - s * x];
    [left, right, top, low] = [Math.min(left, u), Math.max(right, u), Math.min(top, v), Math.max(low, v)];
  }
  const [u, v] = [(left + right) / 2, (top + low) / 2];
  return { x: c * u - s * v, y: s * u + c * v, side: ROOM * Math.max(right - left, low - top), turn };
}

/** The middle of an iris and four places round it, by a net that sees the eye alone. */
async function iris(net, picture, mesh, which) {
  const [a, b] = CORNERS[which].map((i) => mesh[i]);
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  // The net knows eyes of one side.
  const at = { x: (a[0] + b[0]) / 2, y: (a[1] + b[1]) / 2, side: EYE_ROOM * Math.hypot(dx, dy), turn: Math.atan2(dy, dx), mirrored: which === 1 };
  const [found] = Object.values(await net.run(window(picture, at, net.size)));
  const depth = EYES[which].slice(0, LIDS).reduce((sum, i) => sum + mesh[i][2], 0) / LIDS;
  return back(grouped(found, 3).slice(-IRIS), at, net.size).map(([x, y]) => [x, y, depth]);
}

/** The mesh over the face that is somewhere, still without its irises, and how much it is one. */
async function mesh({ whole }, picture, at) {
  const found = await whole.run(window(picture, at, whole.size));
  const points = grouped(found.output_mesh_identity, 3);
  const closer = [[LIPS, found.output_lips, LIPS_HIGH], [EYES[0], found.output_left_eye, 0], [EYES[1], found.output_right_eye, 0]];
  for (const [which, places, high] of closer) grouped(places, 2).forEach(([x, y], k) => { points[which[k]] = [x, y + high, points[which[k]][2]]; });
  return { score: found.conv_faceflag[0], points: back(points, at, whole.size) };
}

async function withIrises({ eye }, picture, { score, points }) {
  return { score, points: [...points, ...(await iris(eye, picture, points, 0)), ...(await iris(eye, picture, points, 1))] };
}

module.exports = { mesh, withIrises, round };
