import type { Pair } from '../../../api/types';

/**
 * The monotone cubic that the server's curves are, for drawing their line: Hermite pieces with slopes after Fritsch and
 * Butland (see docs/formulas.md). Nothing is computed with it but what is drawn over a histogram.
 */
export function monotone(points: Pair[]): (x: number) => number {
  const n = points.length;
  const at = (i: number): Pair => points[i] as Pair;
  if (n === 0) return (x) => x;
  if (n === 1) return () => at(0)[1];
  const step = (i: number): number => at(i + 1)[0] - at(i)[0];
  const side = (i: number): number => (at(i + 1)[1] - at(i)[1]) / step(i);
  const end = (near: number, far: number, s: number, next: number): number => {
    if (n === 2) return s;
    const slope = ((2 * near + far) * s - near * next) / (near + far);
    if (slope * s <= 0) return 0;
    return s * next <= 0 && Math.abs(slope) > 3 * Math.abs(s) ? 3 * s : slope;
  };
  const slopes = points.map((_, i) => {
    if (i === 0) return end(step(0), n > 2 ? step(1) : 0, side(0), n > 2 ? side(1) : side(0));
    if (i === n - 1) return end(step(n - 2), n > 2 ? step(n - 3) : 0, side(n - 2), n > 2 ? side(n - 3) : side(n - 2));
    const [l, r] = [side(i - 1), side(i)];
    if (l * r <= 0) return 0;
    const [a, b] = [2 * step(i) + step(i - 1), step(i) + 2 * step(i - 1)];
    return (a + b) / (a / l + b / r);
  });
  return (x) => {
    if (x <= at(0)[0]) return at(0)[1] + (x - at(0)[0]) * (slopes[0] as number);
    if (x >= at(n - 1)[0]) return at(n - 1)[1] + (x - at(n - 1)[0]) * (slopes[n - 1] as number);
    let i = 0;
    while (at(i + 1)[0] < x) ++i;
    const h = step(i);
    const t = (x - at(i)[0]) / h;
    const u = 1 - t;
    return at(i)[1] * u * u * (1 + 2 * t) + at(i + 1)[1] * t * t * (1 + 2 * u) + h * t * u * ((slopes[i] as number) * u - (slopes[i + 1] as number) * t);
  };
}

/** The same round and round, over a period. */
export function round(points: Pair[], period: number): (x: number) => number {
  if (points.length < 2) return () => points[0]?.[1] ?? 0;
  const first = points[0] as Pair;
  const second = points[1] as Pair;
  const last = points[points.length - 1] as Pair;
  const before = points[points.length - 2] as Pair;
  const curve = monotone([[before[0] - period, before[1]], [last[0] - period, last[1]], ...points, [first[0] + period, first[1]], [second[0] + period, second[1]]]);
  return (x) => curve(first[0] + ((((x - first[0]) % period) + period) % period));
}
