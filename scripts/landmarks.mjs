/**
 * Writes what the finder of faces sees on frames of footage, for ./cossel bench person and the tests:
 * node scripts/landmarks.mjs FILE.json FOOTAGE… (every 12th frame, at the size the bench looks at; picture heights).
 */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { basename, extname } from 'node:path';
import { chromium } from 'playwright-core';
import { createServer } from 'vite';

const [file, ...footage] = process.argv.slice(2);
const HEIGHT = 540;
const EVERY = Number(process.env.EVERY ?? 12);
const server = await createServer({ server: { port: 8699, strictPort: true }, logLevel: 'error' });
await server.listen();
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--headless=new', '--no-sandbox'] });
const shots = {};
try {
  const page = await browser.newPage();
  await page.goto('http://127.0.0.1:8699/app/');
  await page.evaluate(() => {
    const worker = new Worker('/app/bench/person/findFace.worker.ts', { type: 'module' });
    window.faces = async (png) => {
      const image = await createImageBitmap(await (await fetch(`data:image/png;base64,${png}`)).blob());
      const g = new OffscreenCanvas(image.width, image.height).getContext('2d');
      g.drawImage(image, 0, 0);
      const pixels = g.getImageData(0, 0, image.width, image.height);
      const began = performance.now();
      return new Promise((resolve) => {
        worker.onmessage = (e) => resolve({ ...e.data, ms: performance.now() - began });
        worker.onerror = (e) => resolve({ failure: e.message });
        worker.postMessage({ pixels });
      });
    };
  });
  for (const path of footage) {
    const name = basename(path, extname(path));
    const frames = {};
    for (let frame = 0; ; frame += EVERY) {
      const png = execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-vf', `select=eq(n\\,${frame}),scale=-2:${HEIGHT}:flags=area`, '-frames:v', '1', '-f', 'image2pipe', '-c:v', 'png', '-'], { maxBuffer: 1 << 26 });
      if (png.length === 0) break;
      const { faces, failure, ms } = await page.evaluate((bytes) => window.faces(bytes), png.toString('base64'));
      if (failure) throw new Error(failure);
      console.log(name, frame, `${faces.length} faces`, `${Math.round(ms)} ms`);
      frames[frame] = faces.map((face) => face.map((at) => at.map((v) => Number((v / HEIGHT).toFixed(5)))));
    }
    shots[name] = frames;
  }
} finally {
  await browser.close();
  await server.close();
}
writeFileSync(file, `${JSON.stringify(shots)}\n`);
