import type { Box, Ellipse, Join, Pair, Path, PathPoint, Shape, ShapeValues } from '../../api/types';
import { mixed } from '../recipe/keyframes';
import { about, minus, plus, rounded, roundedPair, type Matrix } from './geometry';
import { isDrawn, along, edgeOf, shapeAt } from './shapes';

/** Edits of shapes, and what is wrong with one. */

export const roundedPoint = (p: PathPoint): PathPoint => ({ at: roundedPair(p.at), in: roundedPair(p.in), out: roundedPair(p.out) });

export function movedPoint(p: PathPoint, how: (q: Pair) => Pair): PathPoint {
  const at = how(p.at);
  return roundedPoint({ at, in: minus(how(plus(p.at, p.in)), at), out: minus(how(plus(p.at, p.out)), at) });
}

/** A path's values with a point put on one of its pieces, the curve unchanged (De Casteljau). */
export function withPoint(points: PathPoint[], piece: number, t: number): PathPoint[] {
  const a = points[piece] as PathPoint;
  const next = (piece + 1) % points.length;
  const b = points[next] as PathPoint;
  const [p0, p1, p2, p3] = [a.at, plus(a.at, a.out), plus(b.at, b.in), b.at];
  const [q0, q1, q2] = [mixed(p0, p1, t), mixed(p1, p2, t), mixed(p2, p3, t)];
  const [r0, r1] = [mixed(q0, q1, t), mixed(q1, q2, t)];
  const at = mixed(r0, r1, t);
  const copy = points.map((p) => ({ ...p }));
  copy[piece] = roundedPoint({ ...a, out: minus(q0, p0) });
  copy[next] = roundedPoint({ ...(copy[next] as PathPoint), in: minus(q2, p3) });
  copy.splice(piece + 1, 0, roundedPoint({ at, in: minus(r0, at), out: minus(r1, at) }));
  return copy;
}

/** Adds a point to a path and to each of its keyframes, so that all keep as many. */
export function addPoint(path: Path, piece: number, t: number): void {
  path.points = withPoint(path.points, piece, t);
  for (const key of path.keys) if (key.points) key.points = withPoint(key.points, piece, t);
}

export function removePoints(path: Path, gone: ReadonlySet<number>): void {
  const left = (points: PathPoint[]): PathPoint[] => points.filter((_, i) => !gone.has(i));
  path.points = left(path.points);
  for (const key of path.keys) if (key.points) key.points = left(key.points);
}

/** A corner made smooth, its handles along its neighbours; a smooth point made a corner. */
export function toggled(points: PathPoint[], i: number): PathPoint {
  const p = points[i] as PathPoint;
  if (p.in.some((v) => v !== 0) || p.out.some((v) => v !== 0)) return { at: p.at, in: [0, 0], out: [0, 0] };
  const before = (points[(i - 1 + points.length) % points.length] as PathPoint).at;
  const after = (points[(i + 1) % points.length] as PathPoint).at;
  const along_ = minus(after, before);
  return roundedPoint({ at: p.at, in: [-along_[0] / 6, -along_[1] / 6], out: [along_[0] / 6, along_[1] / 6] });
}

const QUARTER = 0.5522847498;

/** An ellipse or box as the path that draws the same edge. */
function pointsOf(shape: Ellipse | Box, values: Pick<ShapeValues, 'centre' | 'radii' | 'turn'> & { round?: number }): PathPoint[] {
  const [w, h] = values.radii;
  const corner: Pair = shape.kind === 'ellipse' ? [w, h] : [(values.round ?? 0) * Math.min(w, h), (values.round ?? 0) * Math.min(w, h)];
  const [kx, ky] = [QUARTER * corner[0], QUARTER * corner[1]];
  const points: PathPoint[] = [];
  const add = (at: Pair, into: Pair, out: Pair): void => {
    const last = points[points.length - 1];
    if (last && Math.hypot(...minus(last.at, at)) < 1e-9) last.out = out;
    else points.push({ at, in: into, out });
  };
  const none: Pair = [0, 0];
  add([w, h - corner[1]], none, [0, ky]);
  add([w - corner[0], h], [kx, 0], none);
  add([-w + corner[0], h], none, [-kx, 0]);
  add([-w, h - corner[1]], [0, ky], none);
  add([-w, -h + corner[1]], none, [0, -ky]);
  add([-w + corner[0], -h], [-kx, 0], none);
  add([w - corner[0], -h], none, [kx, 0]);
  add([w, -h + corner[1]], [0, -ky], none);
  const [first, last] = [points[0] as PathPoint, points[points.length - 1] as PathPoint];
  if (Math.hypot(...minus(first.at, last.at)) < 1e-9) {
    first.in = last.in;
    points.pop();
  }
  return points.map((p) => movedPoint(p, (q) => about(values.centre, plus(values.centre, q), values.turn, 1)));
}

export function toPath(shape: Ellipse | Box): Path {
  const keyed = shape.keys.some((k) => k.centre ?? k.radii ?? k.turn !== undefined);
  return {
    id: shape.id,
    kind: 'path',
    join: shape.join,
    points: pointsOf(shape, shape),
    featherIn: shape.featherIn,
    featherOut: shape.featherOut,
    grow: shape.grow,
    opacity: shape.opacity,
    keys: shape.keys.map((key) => {
      const { centre: _c, radii: _r, turn: _t, round: _o, ...rest } = key;
      return keyed ? { ...rest, points: pointsOf(shape, shapeAt(shape, key.frame)) } : rest;
    }),
    motion: shape.motion,
  };
}

/** The same shape seen in a mirror, left for right, about an upright line. */
export function mirrored<S extends Shape>(shape: S, x: number): S {
  const flip = (p: Pair): Pair => [rounded(2 * x - p[0]), p[1]];
  const side = (p: Pair): Pair => [-p[0], p[1]];
  const values = <V extends Partial<ShapeValues>>(v: V): V => ({
    ...v,
    ...(v.centre ? { centre: flip(v.centre) } : {}),
    ...(v.turn !== undefined ? { turn: -v.turn } : {}),
    // The way round turns over, so handles change places and points their order.
    ...(v.points ? { points: [...v.points].reverse().map((p) => ({ at: flip(p.at), in: side(p.out), out: side(p.in) })) } : {}),
  });
  return { ...values(shape as S & Partial<ShapeValues>), keys: shape.keys.map(values) };
}

/** Whether a path crosses itself, which leaves holes. */
export function crosses(points: PathPoint[]): boolean {
  const line = along(points);
  const n = line.length;
  const turn = (a: Pair, b: Pair, c: Pair): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  for (let i = 0; i < n; ++i) {
    const [a, b] = [line[i] as Pair, line[(i + 1) % n] as Pair];
    for (let k = i + 2; k < n; ++k) {
      if (i === 0 && k === n - 1) continue;
      const [c, d] = [line[k] as Pair, line[(k + 1) % n] as Pair];
      if (turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0) return true;
    }
  }
  return false;
}

/** What is wrong with a shape that a person should know, in words. */
export function trouble(shape: Shape, aspect: number, m: Matrix): string | null {
  if (!isDrawn(shape)) return null;
  if (shape.kind === 'path') {
    if (shape.points.length < 3 && shape.points.every((p) => p.in.every((v) => v === 0) && p.out.every((v) => v === 0))) return 'Two points with a straight line between them hold no area. Add a point, or pull out their handles.';
    if (crosses(shape.points)) return 'The path crosses itself; what lies inside twice counts as outside.';
  }
  const edge = edgeOf(shape, m, 0);
  if (edge.every((p) => p.at[0] < 0) || edge.every((p) => p.at[0] > aspect) || edge.every((p) => p.at[1] < 0) || edge.every((p) => p.at[1] > 1)) return 'It lies wholly outside the picture on this frame.';
  return null;
}

export const JOINS: { label: string; value: Join }[] = [
  { label: 'Add', value: 'add' },
  { label: 'Cut', value: 'cut' },
  { label: 'Keep', value: 'keep' },
];
