// @vitest-environment node
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { InferenceSession, Tensor } from 'onnxruntime-node';
import { afterAll, expect, it } from 'vitest';
import { written } from '../../scripts/onnx.mjs';

const require = createRequire(import.meta.url);
const { window, incoming } = require('../../server/faces/pictures.cjs');
const { people } = require('../../server/faces/people.cjs');
const { describe: described } = require('../../server/faces/describe.cjs');
const folder = mkdtempSync(join(tmpdir(), 'cossel-onnx-'));
afterAll(() => rmSync(folder, { recursive: true }));

const some = (n, k = 1) => Float32Array.from({ length: n }, (_, i) => Math.sin(1 + k + i * (0.7 + k)));
const whole = (values) => ({ type: 'DT_INT32', values, dtype: 'int32' });
const ints = (...i) => ({ list: { i: i.map(String) } });
const said = (s) => ({ s: Buffer.from(s).toString('base64') });

/** A net of one node after the other on an input, its constants beside. */
function model(shape, constants, nodes) {
  const weights = Object.entries(constants).map(([name, { values, shape: dims, dtype = 'float32' }]) => ({ name, dtype, shape: dims ?? [values.length], values }));
  const bytes = Buffer.concat(weights.map(({ values, dtype }) => Buffer.from((dtype === 'int32' ? Int32Array : Float32Array).from(values).buffer)));
  const dim = shape.map((size) => ({ size: String(size) }));
  const node = [...weights.map(({ name }) => ({ name, op: 'Const' })), ...nodes, { name: 'x', op: 'Placeholder', attr: { shape: { shape: { dim } } } }];
  return [{ modelTopology: { node }, weightsManifest: [{ weights: weights.map(({ values: _, ...spec }) => spec) }] }, bytes];
}

async function run(shape, values, constants, nodes) {
  const file = join(folder, 'net.onnx');
  writeFileSync(file, written(...model(shape, constants, nodes)));
  const session = await InferenceSession.create(file);
  const [found] = Object.values(await session.run({ x: new Tensor('float32', values, shape) }));
  return found;
}

/** A convolution of rows of pixels with zeros outside, of so many columns and rows more at the right and below than at the left and above. */
function convolved(x, [rows, columns, inside], w, [high, wide, , outside], stride, isDepthwise) {
  const out = [];
  const before = (length, size) => Math.floor(Math.max(0, (Math.ceil(length / stride) - 1) * stride + size - length) / 2);
  const [top, left] = [before(rows, high), before(columns, wide)];
  for (let r = 0; r < Math.ceil(rows / stride); r++) {
    for (let c = 0; c < Math.ceil(columns / stride); c++) {
      for (let o = 0; o < (isDepthwise ? inside * outside : outside); o++) {
        let sum = 0;
        for (let i = 0; i < high; i++) {
          for (let j = 0; j < wide; j++) {
            const [y, z] = [r * stride + i - top, c * stride + j - left];
            if (y < 0 || z < 0 || y >= rows || z >= columns) continue;
            for (let d = 0; d < inside; d++) {
              if (isDepthwise && d !== Math.floor(o / outside)) continue;
              sum += x[(y * columns + z) * inside + d] * w[((i * wide + j) * inside + d) * outside + (isDepthwise ? o % outside : o)];
            }
          }
        }
        out.push(sum);
      }
    }
  }
  return out;
}

const near = (found, wanted) => {
  expect(found.length).toBe(wanted.length);
  wanted.forEach((value, k) => expect(found[k]).toBeCloseTo(value, 4));
};

it('convolutions are those of the net they came from, with what is added and what becomes of values under nothing', async () => {
  const [x, w, bias, slope] = [some(6 * 8 * 3), some(3 * 3 * 3 * 4, 2), some(4, 3), some(4, 4)];
  const attr = { strides: ints(1, 2, 2, 1), padding: said('SAME'), fused_ops: { list: { s: [said('BiasAdd').s, said('Prelu').s] } } };
  const found = await run([1, 6, 8, 3], x, { w: { values: w, shape: [3, 3, 3, 4] }, b: { values: bias }, a: { values: slope, shape: [1, 1, 4] } }, [{ name: 'y', op: '_FusedConv2D', input: ['x', 'w', 'b', 'a'], attr }]);
  const plain = convolved(x, [6, 8, 3], w, [3, 3, 3, 4], 2, false).map((v, k) => v + bias[k % 4]);
  near(found.data, plain.map((v, k) => (v < 0 ? v * slope[k % 4] : v)));
});

it('each channel is convolved by itself, into two', async () => {
  const [x, w] = [some(5 * 5 * 3), some(3 * 3 * 3 * 2, 2)];
  const found = await run([1, 5, 5, 3], x, { w: { values: w, shape: [3, 3, 3, 2] } }, [{ name: 'y', op: 'DepthwiseConv2dNative', input: ['x', 'w'], attr: { strides: ints(1, 1, 1, 1), padding: said('SAME') } }]);
  near(found.data, convolved(x, [5, 5, 3], w, [3, 3, 3, 2], 1, true));
});

it('slices, turns, reductions and gathered places are as in the net they came from', async () => {
  const x = some(2 * 3 * 4);
  const at = (i, j, k) => x[(i * 3 + j) * 4 + k];
  const cut = await run([2, 3, 4], x, { b: whole([5, 1, 1]), e: whole([5, 3, 4]), s: whole([1, 1, 2]) }, [{ name: 'y', op: 'StridedSlice', input: ['x', 'b', 'e', 's'], attr: { begin_mask: { i: '1' }, end_mask: { i: '1' } } }]);
  expect(cut.dims).toEqual([2, 2, 2]);
  near(cut.data, [0, 1].flatMap((i) => [1, 2].flatMap((j) => [1, 3].map((k) => at(i, j, k)))));
  const product = await run([2, 3, 4], x, {}, [{ name: 'y', op: 'BatchMatMulV2', input: ['x', 'x'], attr: { adj_y: { b: true } } }]);
  near(product.data, [0, 1].flatMap((i) => [0, 1, 2].flatMap((j) => [0, 1, 2].map((l) => [0, 1, 2, 3].reduce((sum, k) => sum + at(i, j, k) * at(i, l, k), 0)))));
  const most = await run([2, 3, 4], x, { a: whole([1]) }, [{ name: 'y', op: 'Max', input: ['x', 'a'], attr: { keep_dims: { b: false } } }]);
  near(most.data, [0, 1].flatMap((i) => [0, 1, 2, 3].map((k) => Math.max(at(i, 0, k), at(i, 1, k), at(i, 2, k)))));
  const places = await run([2, 3, 4], x, { p: { ...whole([1, 2, 0, 1]), shape: [2, 2] } }, [{ name: 'y', op: 'GatherNd', input: ['x', 'p'] }]);
  near(places.data, [...[0, 1, 2, 3].map((k) => at(1, 2, k)), ...[0, 1, 2, 3].map((k) => at(0, 1, k))]);
  // Outside lies what is nearest inside.
  const outside = await run([2, 3, 4], x, { p: { ...whole([1, 3, 0, -1]), shape: [2, 2] } }, [{ name: 'y', op: 'GatherNd', input: ['x', 'p'] }]);
  near(outside.data, [...[0, 1, 2, 3].map((k) => at(1, 2, k)), ...[0, 1, 2, 3].map((k) => at(0, 0, k))]);
  const mean = await run([2, 3, 4], x, { a: whole([0, 1]) }, [{ name: 'y', op: 'Mean', input: ['x', 'a'], attr: { keep_dims: { b: false } } }]);
  near(mean.data, [0, 1, 2, 3].map((k) => [0, 1].flatMap((i) => [0, 1, 2].map((j) => at(i, j, k))).reduce((a, b) => a + b) / 6));
});

it('of a net only what leads to the answers that are wanted is written', async () => {
  const nodes = [{ name: 'twice', op: 'AddN', input: ['x', 'x'] }, { name: 'unknown', op: 'Erfc', input: ['twice'] }, { name: 'all', op: 'Sum', input: ['unknown', 'unknown'] }];
  writeFileSync(join(folder, 'net.onnx'), written(...model([3], {}, nodes), ['twice']));
  const session = await InferenceSession.create(join(folder, 'net.onnx'));
  const found = await session.run({ x: new Tensor('float32', Float32Array.of(1, -2, 4), [3]) });
  expect(Object.keys(found)).toEqual(['twice']);
  near(found.twice.data, [2, -4, 8]);
});

it('a face is described by the proportions of what a net tells of its window', async () => {
  const codes = Uint16Array.from({ length: 3 * 64 }, (_, k) => (k < 64 ? 51 : 102));
  const picture = { width: 8, height: 8, codes, rgb: [[1, 0, 0, 0], [0, 1, 0, 0], [0, 0, 1, 0]] };
  const shown = [];
  const net = { size: 4, run: (pixels) => (shown.push(...pixels.slice(0, 3)), { pooled: Float32Array.of(0.5, 2, 0, 1) }) };
  expect([...(await described(net, picture, { x: 4, y: 4, side: 4 }))]).toEqual([64, 255, 0, 128]);
  near(shown, [51, 102, 102]);
});

it('pools, sizes and convolutions to more pixels are as in the net they came from', async () => {
  const x = some(3 * 5 * 2);
  const at = (y, z, c) => x[(y * 5 + z) * 2 + c];
  const each = (rows, columns, channels, value) => Array.from({ length: rows * columns * channels }, (_, k) => value(Math.floor(k / channels / columns), Math.floor(k / channels) % columns, k % channels));
  // Of a square that reaches over the edge only what is inside counts.
  const pooled = await run([1, 3, 5, 2], x, {}, [{ name: 'y', op: 'AvgPool', input: ['x'], attr: { ksize: ints(1, 2, 2, 1), strides: ints(1, 2, 2, 1), padding: said('SAME') } }]);
  near(pooled.data, each(2, 3, 2, (y, z, c) => {
    const inside = [[0, 0], [0, 1], [1, 0], [1, 1]].map(([i, j]) => [2 * y + i, 2 * z + j]).filter(([r, q]) => r < 3 && q < 5);
    return inside.reduce((sum, [r, q]) => sum + at(r, q, c), 0) / inside.length;
  }));
  const resized = await run([1, 3, 5, 2], x, { s: whole([6, 8]) }, [{ name: 'y', op: 'ResizeBilinear', input: ['x', 's'], attr: { half_pixel_centers: { b: true } } }]);
  const along = (k, from, to) => {
    const place = Math.max(0, Math.min(from - 1, ((k + 0.5) * from) / to - 0.5));
    const low = Math.min(Math.floor(place), from - 2);
    return [[low, 1 - (place - low)], [low + 1, place - low]];
  };
  near(resized.data, each(6, 8, 2, (y, z, c) => along(y, 3, 6).reduce((sum, [r, u]) => sum + along(z, 5, 8).reduce((inner, [q, v]) => inner + u * v * at(r, q, c), 0), 0)));
  // The convolution the other way: each value goes where the convolution would have it from.
  const w = some(3 * 3 * 4 * 2, 2);
  const wide = await run([1, 3, 5, 2], x, { o: whole([1, 6, 10, 4]), w: { values: w, shape: [3, 3, 4, 2] } }, [{ name: 'y', op: 'Conv2DBackpropInput', input: ['o', 'w', 'x'], attr: { strides: ints(1, 2, 2, 1), padding: said('SAME') } }]);
  near(wide.data, each(6, 10, 4, (y, z, o) => {
    let sum = 0;
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) for (let c = 0; c < 2; c++) if ((y - i) % 2 === 0 && (z - j) % 2 === 0 && y >= i && z >= j) sum += at((y - i) / 2, (z - j) / 2, c) * w[((i * 3 + j) * 4 + o) * 2 + c];
    return sum;
  }));
  near((await run([4], Float32Array.of(-9, 0.5, 5, 9), {}, [{ name: 'y', op: 'Relu6', input: ['x'] }])).data, [0, 0.5, 5, 6]);
  near((await run([2], Float32Array.of(0, 2), {}, [{ name: 'y', op: 'Sigmoid', input: ['x'] }])).data, [0.5, 1 / (1 + Math.exp(-2))]);
});

it.each([[40, 16], [16, 40], [16, 16]])('people of a picture of %i by %i are seen in square windows that blend', async (width, height) => {
  // A net that takes for people what is red, in a picture whose red rises along its longer side.
  const codes = Uint16Array.from({ length: 3 * width * height }, (_, k) => (k < width * height ? (width > height ? k % width : Math.floor(k / width)) * 6 : 0));
  const sent = Buffer.concat([Buffer.from(`${JSON.stringify({ width, height, word: 'anew', rgb: [[1, 0, 0, 0], [0, 1, 0, 0], [0, 0, 1, 0]] })}\n`), Buffer.from(codes.buffer)]);
  const shown = [];
  const red = { size: 16, run: (pixels) => (shown.push(pixels.length), { people: Float32Array.from({ length: 256 }, (_, k) => pixels[3 * k]) }) };
  for await (const picture of incoming([sent])) {
    const { across, down, cells } = await people(red, picture);
    expect([across, down, cells.length]).toEqual([width, height, width * height]);
    cells.forEach((value, k) => expect(Math.abs(value - codes[k])).toBeLessThanOrEqual(3));
  }
  expect(shown).toHaveLength(width === height ? 1 : 5);
});

it('what is not known is said, not left out', () => {
  expect(() => written(...model([1, 2], {}, [{ name: 'y', op: 'Erfc', input: ['x'] }]))).toThrow('y is a Erfc');
});

it('pictures come in as codes, piece by piece, and are seen as light where they are', async () => {
  // A ramp of codes across, in the third plane only; twice its code is red, none is green, blue is all and more.
  const [width, height] = [8, 4];
  const codes = Uint16Array.from({ length: 3 * width * height }, (_, k) => (k < 2 * width * height ? 0 : 10 * (k % width)));
  const rgb = [[0, 0, 2, 0], [0, 0, 0, -5], [0, 0, 0, 300]];
  const sent = Buffer.concat([Buffer.from(`${JSON.stringify({ width, height, word: 'anew', rgb })}\n`), Buffer.from(codes.buffer)]);
  const pictures = [];
  for await (const picture of incoming([sent.subarray(0, 5), sent.subarray(5, 90), Buffer.concat([sent.subarray(90), sent.subarray(0, 60)]), sent.subarray(60)])) pictures.push(picture);
  expect(pictures.map(({ word }) => word)).toEqual(['anew', 'anew']);
  const seen = window(pictures[1], { x: 4, y: 2, side: 4 }, 4);
  near(seen.subarray(0, 12), [40, 60, 80, 100].flatMap((v) => [v / 255, 0, 1]));
  const turned = window(pictures[1], { x: 4, y: 2, side: 4, turn: Math.PI / 2 }, 4);
  near([turned[0], turned[3], turned[12]], [100, 100, 80].map((v) => v / 255));
  const mirrored = window(pictures[1], { x: 4, y: 2, side: 4, mirrored: true }, 4);
  near([mirrored[0], mirrored[9]], [100 / 255, 40 / 255]);
  const small = window(pictures[1], { x: 4, y: 2, side: 8 }, 4);
  near([small[12], small[15]], [10 / 255, 50 / 255]);
});
