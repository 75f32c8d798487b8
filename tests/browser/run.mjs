/** Runs the browser tests one after the other; each starts its own Cossel. */
import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const folder = dirname(fileURLToPath(import.meta.url));
const files = readdirSync(folder).filter((name) => name.endsWith('.test.mjs')).sort().map((name) => join(folder, name));
const { status } = spawnSync(process.execPath, ['--test', '--test-concurrency=1', '--test-reporter=spec', ...files], { stdio: 'inherit' });
process.exit(status ?? 1);
