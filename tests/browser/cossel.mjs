/** Starts a Cossel of its own (own data, own port) and a browser to use it with. */
import { execFile, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { chromium } from 'playwright-core';

export const root = join(dirname(fileURLToPath(import.meta.url)), '../..');
const run = promisify(execFile);

export class Cossel {
  constructor(port) {
    this.port = port;
    this.folder = mkdtempSync(join(tmpdir(), 'cossel-'));
    this.env = {
      ...process.env,
      COSSEL_FACES_AHEAD: 'no',
      PORT: String(port),
      COSSEL_DATA: join(this.folder, 'data'),
      COSSEL_CACHE: join(this.folder, 'cache'),
    };
    mkdirSync(this.env.COSSEL_DATA);
    this.url = `http://127.0.0.1:${port}`;
  }

  async start() {
    this.process = spawn('./cossel', ['start'], { cwd: root, env: this.env, detached: true, stdio: ['ignore', 'pipe', 'inherit'] });
    await new Promise((resolve, reject) => {
      let said = '';
      this.process.stdout.on('data', (text) => {
        said += text;
        if (said.includes('Cossel is at')) resolve();
      });
      this.process.on('exit', (code) => reject(new Error(`./cossel start ended with ${code}: ${said}`)));
    });
    return this;
  }

  /** As when the machine loses power: everything it started dies at once. */
  kill() {
    const gone = new Promise((resolve) => this.process.once('exit', resolve));
    process.kill(-this.process.pid, 'SIGKILL');
    return gone;
  }

  async stop() {
    await this.kill();
    await this.browser?.close();
    rmSync(this.folder, { recursive: true, force: true });
  }

  cli(...args) {
    return run('./cossel', args, { cwd: root, env: this.env, maxBuffer: 1 << 26 });
  }

  async api(method, path, body) {
    const response = await fetch(`${this.url}/api${path}`, {
      method,
      headers: { Accept: 'application/json', ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, body: text === '' ? null : JSON.parse(text) };
  }

  /** Waits until a delivery is over and gives it. */
  async delivered(id, seconds = 300) {
    return until(async () => {
      const delivery = (await this.deliveries()).find((d) => d.id === id);
      return delivery && !['rendering', 'finishing'].includes(delivery.state) ? delivery : null;
    }, seconds);
  }

  async deliveries() {
    const { body } = await this.api('GET', '/deliveries');
    return body.data ?? body;
  }

  async page(width = 1280, height = 800) {
    this.browser ??= await chromium.launch({
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    });
    const page = await (await this.browser.newContext({ viewport: { width, height }, acceptDownloads: true })).newPage();
    page.problems = [];
    page.on('pageerror', (error) => page.problems.push(error.message));
    return page;
  }
}

export async function until(check, seconds = 60) {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    const found = await check();
    if (found) return found;
    if (Date.now() > end) throw new Error(`not true after ${seconds} s: ${check}`);
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

/** A file's frames as Y'CbCr 4:4:4 of 16 bits, planes one after the other. */
export async function decoded(file, frame) {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-vf', `select=eq(n\\,${frame}),scale=flags=bicubic+accurate_rnd+full_chroma_int+full_chroma_inp:in_range=tv:out_range=tv,format=yuv444p16le`, '-frames:v', '1', '-f', 'rawvideo', '-'], { encoding: 'buffer', maxBuffer: 1 << 28 });
  return new Uint16Array(stdout.buffer, stdout.byteOffset, stdout.length / 2);
}

/** A 16-bit grey PNG as numbers. */
export async function grey16(file) {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-pix_fmt', 'gray16le', '-f', 'rawvideo', '-'], { encoding: 'buffer', maxBuffer: 1 << 28 });
  return new Uint16Array(stdout.buffer, stdout.byteOffset, stdout.length / 2);
}
