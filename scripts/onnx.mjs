/**
 * Writes a net of TensorFlow.js (model.json and its weights) in the open format of ONNX. Pictures stay as they are there, rows of pixels of
 * channels; where ONNX wants planes of channels they are turned to and fro, which its runtime takes out again.
 */
import proto from 'onnx-proto';

const { onnx } = proto;
const OPSET = 13;
const FORMAT = 7;
const TYPES = { float32: onnx.TensorProto.DataType.FLOAT, int32: onnx.TensorProto.DataType.INT32, int64: onnx.TensorProto.DataType.INT64 };
const CAST = { DT_FLOAT: TYPES.float32, DT_INT32: TYPES.int32 };
/** What is the same under another name. */
const ALIKE = { Add: 'Add', AddV2: 'Add', AddN: 'Sum', Sub: 'Sub', Mul: 'Mul', Prelu: 'PRelu', Relu: 'Relu', Floor: 'Floor', Maximum: 'Max', Minimum: 'Min', Identity: 'Identity', Sigmoid: 'Sigmoid' };
const REDUCED = { Max: 'ReduceMax', Min: 'ReduceMin', Mean: 'ReduceMean', Prod: 'ReduceProd' };
const TO_PLANES = [0, 3, 1, 2];
const TO_PIXELS = [0, 2, 3, 1];

const text = (attr) => Buffer.from(attr?.s ?? '', 'base64').toString();
const numbers = (attr) => (attr?.list?.i ?? []).map(Number);
const isSet = (mask, k) => ((Number(mask?.i ?? 0) >> k) & 1) === 1;

function attribute(name, value) {
  const { FLOAT: _, INT, INTS, STRING } = onnx.AttributeProto.AttributeType;
  if (Array.isArray(value)) return { name, type: INTS, ints: value };
  return typeof value === 'string' ? { name, type: STRING, s: Buffer.from(value) } : { name, type: INT, i: value };
}

class Net {
  nodes = [];
  initializers = [];
  #names = 0;

  constructor(weights) {
    this.weights = weights;
  }

  /** A new node and the name of what it answers. */
  add(opType, input, attributes = {}, output = `t${this.#names++}`) {
    this.nodes.push({ opType, input, output: [output], name: output, attribute: Object.entries(attributes).map(([name, value]) => attribute(name, value)) });
    return output;
  }

  constant(values, dims, type) {
    const name = `c${this.#names++}`;
    const data = type === 'int64' ? BigInt64Array.from(values, BigInt) : type === 'int32' ? Int32Array.from(values) : Float32Array.from(values);
    this.initializers.push({ name, dims, dataType: TYPES[type], rawData: Buffer.from(data.buffer) });
    return name;
  }

  whole(values) {
    return this.constant(values, [values.length], 'int64');
  }

  weight(name) {
    const weight = this.weights.get(name);
    if (!weight) throw new Error(`${name} is no constant.`);
    return weight;
  }

  /** What goes into a node, as a name; constants become initializers. */
  input(name) {
    const weight = this.weights.get(name);
    return weight ? this.constant(weight.values, weight.shape, weight.dtype) : name;
  }
}

/** Weights of convolutions, of rows, columns, channels in and out, as planes out of planes in; each channel by itself as one plane out of each. */
function filter(net, name, isDepthwise) {
  const { values, shape: [rows, columns, inside, outside] } = net.weight(name);
  const [planes, deep] = isDepthwise ? [inside * outside, 1] : [outside, inside];
  const turned = new Float32Array(values.length);
  for (let k = 0, at = 0; k < planes; k++) {
    for (let d = 0; d < deep; d++) {
      for (let i = 0; i < rows * columns; i++) turned[at++] = values[i * inside * outside + (isDepthwise ? k : d * outside + k)];
    }
  }
  return { name: net.constant(turned, [planes, deep, rows, columns], 'float32'), size: [rows, columns], group: isDepthwise ? inside : 1 };
}

/** Something done to planes instead of pixels. */
function onPlanes(net, node, opType, size, more, attributes) {
  const [, ...strides] = numbers(node.attr.strides);
  const planes = net.add('Transpose', [net.input(node.input[0])], { perm: TO_PLANES });
  const done = net.add(opType, [planes, ...more], { kernel_shape: size, strides: strides.slice(0, 2), auto_pad: text(node.attr.padding) === 'SAME' ? 'SAME_UPPER' : 'VALID', ...attributes });
  return { turned: (name) => net.add('Transpose', [done], { perm: TO_PIXELS }, name) };
}

function convolution(net, node) {
  const fused = (node.attr.fused_ops?.list?.s ?? []).map((s) => text({ s }));
  const weights = filter(net, node.input[1], node.op === 'DepthwiseConv2dNative');
  const more = [weights.name, ...(fused[0] === 'BiasAdd' ? [net.input(node.input[2])] : [])];
  const { turned } = onPlanes(net, node, 'Conv', weights.size, more, { group: weights.group });
  const last = fused.filter((name) => name !== 'BiasAdd');
  if (last.length === 0) return turned(node.name);
  if (last.length > 1 || !['Relu', 'Prelu', 'PRelu'].includes(last[0])) throw new Error(`${node.name} ends in ${last.join(', ')}, which is not known.`);
  return last[0] === 'Relu' ? net.add('Relu', [turned()], {}, node.name) : net.add('PRelu', [turned(), net.input(node.input[3])], {}, node.name);
}

/** Convolution the other way, to more pixels: its weights are of rows, columns, channels out and in. */
function widened(net, node) {
  const { values, shape: [rows, columns, outside, inside] } = net.weight(node.input[1]);
  const turned = new Float32Array(values.length);
  for (let c = 0, at = 0; c < inside; c++) {
    for (let o = 0; o < outside; o++) {
      for (let i = 0; i < rows * columns; i++) turned[at++] = values[(i * outside + o) * inside + c];
    }
  }
  const weights = net.constant(turned, [inside, outside, rows, columns], 'float32');
  return onPlanes(net, { ...node, input: [node.input[2]] }, 'ConvTranspose', [rows, columns], [weights], {}).turned(node.name);
}

function resized(net, node) {
  if (!node.attr.half_pixel_centers?.b || node.attr.align_corners?.b) throw new Error(`${node.name} counts pixels from another place, which is not known.`);
  const [height, width] = net.weight(node.input[1]).values;
  const planes = net.add('Transpose', [net.input(node.input[0])], { perm: TO_PLANES });
  const channels = net.add('Slice', [net.add('Shape', [planes]), net.whole([0]), net.whole([2])]);
  const size = net.add('Concat', [channels, net.whole([height, width])], { axis: 0 });
  const done = net.add('Resize', [planes, '', '', size], { mode: 'linear', coordinate_transformation_mode: 'half_pixel' });
  return net.add('Transpose', [done], { perm: TO_PIXELS }, node.name);
}

function slice(net, node) {
  const [, begin, end, strides] = node.input.map((name, k) => (k === 0 ? [] : [...net.weight(name).values]));
  for (const mask of ['ellipsis_mask', 'new_axis_mask', 'shrink_axis_mask']) if (Number(node.attr[mask]?.i ?? 0) !== 0) throw new Error(`${node.name} has a ${mask}, which is not known.`);
  const starts = begin.map((v, k) => (isSet(node.attr.begin_mask, k) ? 0 : v));
  const ends = end.map((v, k) => (isSet(node.attr.end_mask, k) ? 2 ** 31 - 1 : v));
  return net.add('Slice', [net.input(node.input[0]), net.whole(starts), net.whole(ends), net.whole(begin.map((_, k) => k)), net.whole(strides)], {}, node.name);
}

function multiplied(net, node) {
  const factors = node.input.map((name, k) => {
    const factor = net.input(name);
    return node.attr[k === 0 ? 'adj_x' : 'adj_y']?.b ? net.add('Einsum', [factor], { equation: '...ij->...ji' }) : factor;
  });
  return net.add('MatMul', factors, {}, node.name);
}

/** What lies at places counted in a net: those outside, which TensorFlow.js bears and ONNX does not, are the nearest inside. */
function gathered(net, node) {
  const from = net.input(node.input[0]);
  const places = net.add('Cast', [net.input(node.input[1])], { to: TYPES.int64 });
  const counts = net.add('Slice', [net.add('Shape', [from]), net.whole([0]), net.add('Slice', [net.add('Shape', [places]), net.whole([-1]), net.whole([2 ** 31 - 1])])]);
  const inside = net.add('Max', [net.add('Min', [places, net.add('Sub', [counts, net.whole([1])])]), net.whole([0])]);
  return net.add('GatherND', [from, inside], {}, node.name);
}

/** How each kind of node is written, by its name. */
const WRITTEN = {
  Conv2D: convolution,
  _FusedConv2D: convolution,
  DepthwiseConv2dNative: convolution,
  StridedSlice: slice,
  BatchMatMulV2: multiplied,
  Conv2DBackpropInput: widened,
  ResizeBilinear: resized,
  MaxPool: (net, node) => onPlanes(net, node, 'MaxPool', numbers(node.attr.ksize).slice(1, 3), [], {}).turned(node.name),
  AvgPool: (net, node) => onPlanes(net, node, 'AveragePool', numbers(node.attr.ksize).slice(1, 3), [], {}).turned(node.name),
  Relu6: (net, node) => net.add('Clip', [net.input(node.input[0]), net.constant([0], [], 'float32'), net.constant([6], [], 'float32')], {}, node.name),
  Pad: (net, node) => {
    const pads = [...net.weight(node.input[1]).values];
    return net.add('Pad', [net.input(node.input[0]), net.whole([...pads.filter((_, k) => k % 2 === 0), ...pads.filter((_, k) => k % 2 === 1)])], {}, node.name);
  },
  Reshape: (net, node) => net.add('Reshape', [net.input(node.input[0]), net.whole([...net.weight(node.input[1]).values])], {}, node.name),
  Transpose: (net, node) => net.add('Transpose', [net.input(node.input[0])], { perm: [...net.weight(node.input[1]).values] }, node.name),
  ConcatV2: (net, node) => net.add('Concat', node.input.slice(0, -1).map((name) => net.input(name)), { axis: net.weight(node.input.at(-1)).values[0] }, node.name),
  GatherV2: (net, node) => net.add('Gather', node.input.slice(0, 2).map((name) => net.input(name)), { axis: net.weight(node.input[2]).values[0] }, node.name),
  GatherNd: gathered,
  Square: (net, node) => net.add('Mul', [net.input(node.input[0]), net.input(node.input[0])], {}, node.name),
  Rsqrt: (net, node) => net.add('Reciprocal', [net.add('Sqrt', [net.input(node.input[0])])], {}, node.name),
  Cast: (net, node) => net.add('Cast', [net.input(node.input[0])], { to: CAST[node.attr.DstT.type] }, node.name),
  Sum: (net, node) => net.add('ReduceSum', [net.input(node.input[0]), net.whole([...net.weight(node.input[1]).values])], { keepdims: Number(node.attr.keep_dims.b) }, node.name),
};

function write(net, node) {
  if (ALIKE[node.op]) net.add(ALIKE[node.op], node.input.map((name) => net.input(name)), {}, node.name);
  else if (REDUCED[node.op]) net.add(REDUCED[node.op], [net.input(node.input[0])], { axes: [...net.weight(node.input[1]).values], keepdims: Number(node.attr.keep_dims.b) }, node.name);
  else if (WRITTEN[node.op]) WRITTEN[node.op](net, node);
  else throw new Error(`${node.name} is a ${node.op}, which is not known.`);
}

/** A half float (IEEE 754 binary16) from its bits. */
function half(bits) {
  const [sign, exponent, rest] = [bits >> 15 ? -1 : 1, (bits >> 10) & 31, bits & 1023];
  if (exponent === 0) return sign * rest * 2 ** -24;
  return exponent === 31 ? (rest ? NaN : sign * Infinity) : sign * (1 + rest / 1024) * 2 ** (exponent - 15);
}

/** Weights by their names. */
function weighed(specs, bytes) {
  const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  let at = 0;
  return new Map(specs.map(({ name, shape, dtype, quantization }) => {
    const stored = quantization?.dtype ?? dtype;
    const values = new (dtype === 'int32' ? Int32Array : Float32Array)(shape.reduce((a, b) => a * b, 1));
    if (!['float32', 'int32', 'float16'].includes(stored)) throw new Error(`${name} is stored as ${stored}, which is not known.`);
    for (let k = 0; k < values.length; k++) {
      values[k] = stored === 'float16' ? half(data.getUint16(at, true)) : stored === 'int32' ? data.getInt32(at, true) : data.getFloat32(at, true);
      at += stored === 'float16' ? 2 : 4;
    }
    return [name, { values, shape, dtype }];
  }));
}

/** So that each comes after what it needs; only what some of them need, if these are named. */
function inOrder(nodes, wanted = nodes.map(({ name }) => name)) {
  const byName = new Map(nodes.map((node) => [node.name, node]));
  const done = new Set();
  const order = [];
  const visit = (node) => {
    if (done.has(node.name)) return;
    done.add(node.name);
    for (const name of node.input) if (byName.has(name)) visit(byName.get(name));
    order.push(node);
  };
  for (const name of wanted) visit(byName.get(name));
  return order;
}

/**
 * @param model what stands in model.json
 * @param bytes its weights
 * @param wanted names of the nodes whose answers are wanted; all that nothing else needs, if none are named
 *
 * @returns {Buffer} the net as a file of ONNX
 */
export function written(model, bytes, wanted) {
  const weights = weighed(model.weightsManifest.flatMap((group) => group.weights), bytes);
  // An input is a name, and which of a node's answers is meant; each of these has one.
  const plain = (name) => name.replace(/^\^/, '').replace(/:\d+$/, '');
  const nodes = model.modelTopology.node.map((node) => ({ ...node, attr: node.attr ?? {}, input: (node.input ?? []).map(plain) }));
  const net = new Net(weights);
  const [input] = nodes.filter((node) => node.op === 'Placeholder');
  const inner = inOrder(nodes.filter((node) => !['Const', 'Placeholder'].includes(node.op)), wanted);
  for (const node of inner) write(net, node);
  const used = new Set(inner.flatMap((node) => node.input));
  const shape = input.attr.shape.shape.dim.map(({ size }) => ({ dimValue: Math.max(1, Number(size)) }));
  const value = (name, dims) => ({ name, type: { tensorType: { elemType: TYPES.float32, ...(dims ? { shape: { dim: dims } } : {}) } } });
  const outputs = inner.filter((node) => !used.has(node.name)).map((node) => value(node.name));
  return Buffer.from(onnx.ModelProto.encode({
    irVersion: FORMAT,
    opsetImport: [{ domain: '', version: OPSET }],
    graph: { name: 'net', initializer: net.initializers, input: [value(input.name, shape)], output: outputs, node: net.nodes },
  }).finish());
}
