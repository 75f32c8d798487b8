import type { Ellipse, Pair } from '../api/types';

/** Nine numbers, row by row, acting on (x, y, 1); lengths in picture heights. */
export type Matrix = readonly number[];

export const IDENTITY: Matrix = [1, 0, 0, 0, 1, 0, 0, 0, 1];

export function apply(m: Matrix, [x, y]: Pair): Pair {
  const [a = 1, b = 0, c = 0, d = 0, e = 1, f = 0, g = 0, h = 0, i = 1] = m;
  const w = g * x + h * y + i;
  return [(a * x + b * y + c) / w, (d * x + e * y + f) / w];
}

export function inverse(m: Matrix): Matrix {
  const [a = 1, b = 0, c = 0, d = 0, e = 1, f = 0, g = 0, h = 0, i = 1] = m;
  const n = 1 / (a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g));
  return [(e * i - f * h) * n, (c * h - b * i) * n, (b * f - c * e) * n, (f * g - d * i) * n, (a * i - c * g) * n, (c * d - a * f) * n, (d * h - e * g) * n, (b * g - a * h) * n, (a * e - b * d) * n];
}

export const scaleOf = (m: Matrix): number => Math.sqrt(Math.abs((m[0] ?? 1) * (m[4] ?? 1) - (m[1] ?? 0) * (m[3] ?? 0)));
export const turnOf = (m: Matrix): number => (Math.atan2((m[3] ?? 0) - (m[1] ?? 0), (m[0] ?? 1) + (m[4] ?? 1)) * 180) / Math.PI;

/** An ellipse where its motion has taken it. Exact for moving, turning and scaling. */
export function placed(ellipse: Ellipse, m: Matrix): { centre: Pair; radii: Pair; turn: number; scale: number } {
  const scale = scaleOf(m);
  return { centre: apply(m, ellipse.centre), radii: [ellipse.radii[0] * scale, ellipse.radii[1] * scale], turn: ellipse.turn + turnOf(m), scale };
}

/** Point on the edge of an ellipse at a parameter angle, and the outward normal there. */
export function edge(radii: Pair, degrees: number, t: number): { at: Pair; normal: Pair } {
  const r = (degrees * Math.PI) / 180;
  const turned = (x: number, y: number): Pair => [x * Math.cos(r) - y * Math.sin(r), x * Math.sin(r) + y * Math.cos(r)];
  const nx = Math.cos(t) / radii[0];
  const ny = Math.sin(t) / radii[1];
  const n = Math.hypot(nx, ny);
  return { at: turned(radii[0] * Math.cos(t), radii[1] * Math.sin(t)), normal: turned(nx / n, ny / n) };
}

export const rounded = (v: number): number => Math.round(v * 1e6) / 1e6;
