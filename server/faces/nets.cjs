/** The nets that are run: they lie in models/ (see scripts/models.mjs), each runs on one thread. */
'use strict';

const { join } = require('node:path');
const { InferenceSession, Tensor } = require('onnxruntime-node');

/**
 * A net as a function: from a window of floats to what it answers, each by its name in the net.
 */
async function net(name) {
  const session = await InferenceSession.create(join(__dirname, 'models', `${name}.onnx`), { intraOpNumThreads: 1, interOpNumThreads: 1 });
  const [input] = session.inputNames;
  const { shape } = session.inputMetadata[0];
  const run = async (window) => {
    const found = await session.run({ [input]: new Tensor('float32', window, shape) });
    return Object.fromEntries(Object.entries(found).map(([output, { data }]) => [output, data]));
  };
  return { size: shape[1], run };
}

module.exports = { net };
