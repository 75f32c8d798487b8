import type { Pair } from '../../api/types';

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

/** The linear part of a motion near a point, row by row. */
export function linearAt(m: Matrix, p: Pair): [number, number, number, number] {
  const h = 1e-4;
  const [x0, y0] = apply(m, [p[0] - h, p[1]]);
  const [x1, y1] = apply(m, [p[0] + h, p[1]]);
  const [x2, y2] = apply(m, [p[0], p[1] - h]);
  const [x3, y3] = apply(m, [p[0], p[1] + h]);
  return [(x1 - x0) / (2 * h), (x3 - x2) / (2 * h), (y1 - y0) / (2 * h), (y3 - y2) / (2 * h)];
}

/** By how much lengths grow under a motion near a point. */
export function scaleAt(m: Matrix, p: Pair): number {
  const [a, b, c, d] = linearAt(m, p);
  return Math.sqrt(Math.abs(a * d - b * c)) || 1e-6;
}

/** The turn of a motion near a point, degrees clockwise. */
export function turnAt(m: Matrix, p: Pair): number {
  const [a, b, c, d] = linearAt(m, p);
  return (Math.atan2(c - b, a + d) * 180) / Math.PI;
}

/** To a millionth of a picture height; zero has no sign. */
export const rounded = (v: number): number => Math.round(v * 1e6) / 1e6 + 0;
export const plus = (a: Pair, b: Pair): Pair => [a[0] + b[0], a[1] + b[1]];
export const minus = (a: Pair, b: Pair): Pair => [a[0] - b[0], a[1] - b[1]];
export const roundedPair = (p: Pair): Pair => [rounded(p[0]), rounded(p[1])];

/** Degrees brought to -180 … 180. */
export const degrees = (v: number): number => ((((v + 180) % 360) + 360) % 360) - 180;

export const angleOf = (from: Pair, to: Pair): number => (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;

/** A point turned and scaled about a centre. */
export function about(centre: Pair, p: Pair, turn: number, scale: number): Pair {
  const r = (turn * Math.PI) / 180;
  const [x, y] = minus(p, centre);
  return [centre[0] + scale * (x * Math.cos(r) - y * Math.sin(r)), centre[1] + scale * (x * Math.sin(r) + y * Math.cos(r))];
}
