/** The nets that are run: their weights lie in models/ (see scripts/models.mjs), they run on one thread of WebAssembly. */
'use strict';

const { readFileSync } = require('node:fs');
const { dirname, join } = require('node:path');
const tf = require('@tensorflow/tfjs-core');
const { GraphModel } = require('@tensorflow/tfjs-converter');
const wasm = require('@tensorflow/tfjs-backend-wasm');

async function begin() {
  wasm.setWasmPaths(`${dirname(require.resolve('@tensorflow/tfjs-backend-wasm'))}/`);
  wasm.setThreadsCount(1);
  await tf.setBackend('wasm');
  await tf.ready();
}

/**
 * A net as a function: from a window of floats to what it answers, each by its name in the net.
 */
async function net(name) {
  const file = join(__dirname, 'models', name);
  const { modelTopology, weightsManifest } = JSON.parse(readFileSync(`${file}.json`, 'utf8'));
  const bytes = readFileSync(`${file}.bin`);
  const weightData = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
  const model = new GraphModel(tf.io.fromMemory({ modelTopology, weightSpecs: weightsManifest.flatMap((group) => group.weights), weightData }));
  await model.load();
  const size = model.inputs[0].shape[1];
  const names = model.outputs.map((output) => output.name.replace(/:\d+$/, ''));
  const run = (window) => {
    const input = tf.tensor4d(window, [1, size, size, 3]);
    const found = [model.execute(input, names)].flat();
    const answers = {};
    names.forEach((output, k) => {
      answers[output] = found[k].dataSync();
      found[k].dispose();
    });
    input.dispose();
    return answers;
  };
  return { size, run };
}

module.exports = { begin, net };
