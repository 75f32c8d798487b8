import type { Scope } from '../../api/types';

/** Draws scopes: the counts come from the server, here they only get their brightness. */

/** The skin line: degrees from +Cb, anticlockwise. */
const SKIN = 123;
/** Faint tints, as data: which channel is which. */
const TINTS = [[1, 0.62, 0.58], [0.62, 0.95, 0.64], [0.6, 0.75, 1]] as const;
const GREY = [1, 1, 1] as const;
/** The part of the plane that the vectorscope shows: it holds nearly all of a picture, the corners are cut. */
const SHOWN = 0.62;

/** @param zoom how many times the middle of the vectorscope is enlarged, as it was asked for */
export function drawScope(c: HTMLCanvasElement, scope: Scope | null, ratio: number, zoom: number): void {
  const g = c.getContext('2d');
  if (!g) return;
  g.fillStyle = '#141414';
  g.fillRect(0, 0, c.width, c.height);
  if (!scope) return;
  g.font = `${10 * ratio}px 'Spline Sans Mono Variable', monospace`;
  if (scope.scope === 'histogram') histogram(g, c, scope.counts, ratio);
  else if (scope.scope === 'vectorscope') vectors(g, c, scope.counts[0] ?? [], scope.columns, ratio, zoom);
  else waveforms(g, c, scope, ratio);
}

function cells(counts: number[], columns: number, rows: number, full: number, tint: readonly number[]): OffscreenCanvas {
  const off = new OffscreenCanvas(columns, rows);
  const g = off.getContext('2d') as OffscreenCanvasRenderingContext2D;
  const image = g.createImageData(columns, rows);
  counts.forEach((n, i) => {
    const v = n === 0 ? 0 : 40 + Math.min(1, Math.sqrt(n / full)) * 160;
    image.data.set([v * (tint[0] ?? 1), v * (tint[1] ?? 1), v * (tint[2] ?? 1), n === 0 ? 0 : 255], i * 4);
  });
  g.putImageData(image, 0, 0);
  return off;
}

function waveforms(g: CanvasRenderingContext2D, c: HTMLCanvasElement, { columns, rows, from, to, counts }: Scope, ratio: number): void {
  const gap = counts.length > 1 ? 4 * ratio : 0;
  const w = (c.width - gap * (counts.length - 1)) / counts.length;
  counts.forEach((list, k) => {
    const full = Math.max(1, list.reduce((a, b) => a + b, 0) / columns / 14);
    g.imageSmoothingEnabled = true;
    g.drawImage(cells(list, columns, rows, full, counts.length > 1 ? (TINTS[k] ?? GREY) : GREY), k * (w + gap), 0, w, c.height);
  });
  g.fillStyle = '#9a9a9a';
  for (const level of [0, 0.5, 1]) {
    const y = c.height * (1 - (level - from) / (to - from));
    g.globalAlpha = 0.45;
    g.fillRect(0, Math.round(y), c.width, 1);
    g.globalAlpha = 1;
    g.fillText(String(level * 100), 4 * ratio, level === 1 ? y + 11 * ratio : y - 3 * ratio);
  }
}

function vectors(g: CanvasRenderingContext2D, c: HTMLCanvasElement, counts: number[], size: number, ratio: number, zoom: number): void {
  const side = c.height;
  const left = (c.width - side) / 2;
  const [mx, my] = [c.width / 2, c.height / 2];
  const unit = (side / SHOWN) * zoom;
  g.strokeStyle = '#444';
  g.lineWidth = ratio;
  for (const r of [0.1 / zoom, 0.2 / zoom, 0.3 / zoom]) {
    g.beginPath();
    g.arc(mx, my, r * unit, 0, 2 * Math.PI);
    g.stroke();
  }
  g.beginPath();
  g.moveTo(mx - side / 2, my);
  g.lineTo(mx + side / 2, my);
  g.moveTo(mx, 0);
  g.lineTo(mx, side);
  g.stroke();
  g.strokeStyle = '#9a9a9a';
  g.beginPath();
  g.moveTo(mx, my);
  const angle = (SKIN * Math.PI) / 180;
  g.lineTo(mx + Math.cos(angle) * (0.3 / zoom) * unit, my - Math.sin(angle) * (0.3 / zoom) * unit);
  g.stroke();
  const full = Math.max(1, counts.reduce((a, b) => a + b, 0) / 400);
  const cut = (size * (1 - SHOWN)) / 2;
  g.drawImage(cells(counts, size, size, full, GREY), cut, cut, size * SHOWN, size * SHOWN, left, 0, side, side);
  g.fillStyle = '#9a9a9a';
  g.fillText('skin', mx + Math.cos(angle) * (0.3 / zoom) * unit - 28 * ratio, my - Math.sin(angle) * (0.3 / zoom) * unit + 4 * ratio);
  if (zoom > 1) g.fillText(`×${zoom}`, left + 4 * ratio, side - 6 * ratio);
  const names: [string, number, number][] = [['R', -0.1146, 0.5], ['Mg', 0.3854, 0.4542], ['B', 0.5, -0.0458], ['Cy', 0.1146, -0.5], ['G', -0.3854, -0.4542], ['Yl', -0.5, 0.0458]];
  for (const [word, cb, cr] of names) {
    const r = Math.hypot(cb, cr);
    g.fillText(word, mx + (cb / r) * side * 0.47 - 5 * ratio, my - (cr / r) * side * 0.45 + 4 * ratio);
  }
}

/**
 * The clouds of one part in two shots over each other: here in grey, there in a faint tint; the middle of the plane, twice enlarged.
 *
 * @param here counts, row by row
 */
export function drawClouds(c: HTMLCanvasElement, here: number[], there: number[], ratio: number): void {
  const g = c.getContext('2d');
  if (!g) return;
  g.fillStyle = '#141414';
  g.fillRect(0, 0, c.width, c.height);
  g.font = `${10 * ratio}px 'Spline Sans Mono Variable', monospace`;
  const side = Math.sqrt(here.length);
  if (side === 0) return;
  vectors(g, c, [], side, ratio, 2);
  const left = (c.width - c.height) / 2;
  const cut = (side * (1 - SHOWN)) / 2;
  g.globalCompositeOperation = 'lighter';
  for (const [counts, tint] of [[there, TINTS[0]], [here, TINTS[2]]] as const) {
    const full = Math.max(1, counts.reduce((a, b) => a + b, 0) / 200);
    g.drawImage(cells(counts, side, side, full, tint), cut, cut, side * SHOWN, side * SHOWN, left, 0, c.height, c.height);
  }
  g.globalCompositeOperation = 'source-over';
  [['here', TINTS[2]], ['there', TINTS[0]]].forEach(([word, tint], i) => {
    const [r, gr, b] = tint as readonly [number, number, number];
    g.fillStyle = `rgb(${r * 220} ${gr * 220} ${b * 220})`;
    g.fillText(word as string, 6 * ratio, (14 + 14 * i) * ratio);
  });
}

function histogram(g: CanvasRenderingContext2D, c: HTMLCanvasElement, counts: number[][], ratio: number): void {
  const luma = counts[0] ?? [];
  const bins = luma.length;
  const peak = Math.max(1, ...counts.flatMap((list) => [...list].sort((a, b) => b - a).slice(2, 3)));
  const path = (list: number[]): void => {
    g.beginPath();
    list.forEach((n, i) => g.lineTo(((i + 0.5) / bins) * c.width, c.height - 1 - Math.min(1, n / peak) * (c.height - 8 * ratio)));
  };
  g.fillStyle = '#3a3a3a';
  path(luma);
  g.lineTo(c.width, c.height);
  g.lineTo(0, c.height);
  g.fill();
  g.lineWidth = ratio;
  counts.slice(1).forEach((list, k) => {
    const [r, gr, b] = TINTS[k] ?? GREY;
    g.strokeStyle = `rgb(${r * 190} ${gr * 190} ${b * 190})`;
    path(list);
    g.stroke();
  });
  g.fillStyle = '#9a9a9a';
  for (const level of [0, 0.5, 1]) {
    const x = c.width * ((level + 0.1) / 1.2);
    g.globalAlpha = 0.45;
    g.fillRect(Math.round(x), 0, 1, c.height);
    g.globalAlpha = 1;
    g.fillText(String(level * 100), x + 3 * ratio, 11 * ratio);
  }
}
