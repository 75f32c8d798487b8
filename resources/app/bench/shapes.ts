import type { Box, DrawnShape, Ease, Ellipse, Join, Pair, Path, PathPoint, Shape, ShapeKey, ShapeValues } from '../api/types';
import { about, apply, minus, plus, rounded, roundedPair, type Matrix } from './geometry';

/** What the bench knows about shapes: their values on a frame, their edge to draw handles on, and edits of them. */

export const EDGE = ['featherIn', 'featherOut', 'grow', 'opacity'] as const;
const OWN: Record<Shape['kind'], (keyof ShapeValues)[]> = { ellipse: ['centre', 'radii', 'turn'], box: ['centre', 'radii', 'turn', 'round'], path: ['points'], area: [] };
const fieldsOf = (shape: Shape): (keyof ShapeValues)[] => (shape.kind === 'area' ? ['opacity'] : [...OWN[shape.kind], ...EDGE]);

// --- keyframes --------------------------------------------------------------------------------------------------
const EASES: Record<Ease, (t: number) => number> = { smooth: (t) => t * t * (3 - 2 * t), linear: (t) => t, hold: () => 0 };

export function between<K extends { frame: number; ease?: Ease }>(keys: K[], frame: number): [K, K, number] | null {
  let before = keys[0];
  if (!before) return null;
  for (const key of keys) {
    if (key.frame > frame) return [before, key, before === key ? 0 : EASES[before.ease ?? 'smooth']((frame - before.frame) / (key.frame - before.frame))];
    before = key;
  }
  return [before, before, 0];
}

function mixed<T>(a: T, b: T, t: number): T {
  if (typeof a === 'number') return (a + ((b as number) - a) * t) as T;
  if (Array.isArray(a)) return a.map((v, i) => mixed(v as unknown, (b as unknown[])[i], t)) as T;
  return Object.fromEntries(Object.entries(a as object).map(([k, v]) => [k, mixed(v as unknown, (b as Record<string, unknown>)[k], t)])) as T;
}

/** The shape as its keyframes make it on a frame. */
export function shapeAt<S extends Shape>(shape: S, frame: number): S {
  if (shape.keys.length === 0) return shape;
  const now = { ...shape } as S & Partial<ShapeValues>;
  for (const field of fieldsOf(shape)) {
    const found = between(shape.keys.filter((k) => k[field] !== undefined), frame);
    if (found) Object.assign(now, { [field]: mixed(found[0][field], found[1][field], found[2]) });
  }
  return now;
}

/** Puts values on a shape: on the keyframe of this frame where it has keyframes, else for good. */
export function put(shape: Shape, frame: number, change: Partial<ShapeValues>): void {
  for (const [name, value] of Object.entries(change)) {
    const field = name as keyof ShapeValues;
    if (!shape.keys.some((k) => k[field] !== undefined)) Object.assign(shape, { [field]: value });
    else Object.assign(keyOn(shape, frame), { [field]: value });
  }
}

function keyOn(shape: Shape, frame: number): ShapeKey {
  const found = shape.keys.find((k) => k.frame === frame);
  if (found) return found;
  const key: ShapeKey = { frame, ease: 'smooth' };
  shape.keys.push(key);
  shape.keys.sort((a, b) => a.frame - b.frame);
  return shape.keys.find((k) => k.frame === frame) ?? key;
}

/** Keeps all values of a shape on a frame as a keyframe. */
export function addKey(shape: Shape, frame: number): void {
  const now = shapeAt(shape, frame);
  // By way of JSON: what comes from the recipe on screen is reactive and cannot be cloned otherwise.
  Object.assign(keyOn(shape, frame), JSON.parse(JSON.stringify(Object.fromEntries(fieldsOf(shape).map((f) => [f, (now as unknown as Record<string, unknown>)[f]])))));
}

// --- edges ------------------------------------------------------------------------------------------------------
export interface EdgePoint { at: Pair; normal: Pair }

export function bezier(a: PathPoint, b: PathPoint, t: number): Pair {
  const s = 1 - t;
  const [p, q] = [plus(a.at, a.out), plus(b.at, b.in)];
  const w = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t] as const;
  return [w[0] * a.at[0] + w[1] * p[0] + w[2] * q[0] + w[3] * b.at[0], w[0] * a.at[1] + w[1] * p[1] + w[2] * q[1] + w[3] * b.at[1]];
}

const PIECES = 14;
const isStraight = (a: PathPoint, b: PathPoint): boolean => a.out[0] === 0 && a.out[1] === 0 && b.in[0] === 0 && b.in[1] === 0;

/** Points along a path, each piece's start first. */
export function along(points: PathPoint[], closed = true): Pair[] {
  const line: Pair[] = [];
  for (let i = 0; i < (closed ? points.length : points.length - 1); ++i) {
    const a = points[i] as PathPoint;
    const b = points[(i + 1) % points.length] as PathPoint;
    const n = isStraight(a, b) ? 1 : PIECES;
    for (let k = 0; k < n; ++k) line.push(bezier(a, b, k / n));
  }
  const last = points[points.length - 1];
  if (!closed && last) line.push(last.at);
  return line;
}

/** The edge of a shape as it is stated, grown or shrunk left aside. */
function stated(shape: DrawnShape): Pair[] {
  if (shape.kind === 'path') return along(shape.points);
  const line: Pair[] = [];
  const place = (x: number, y: number): Pair => about(shape.centre, [shape.centre[0] + x, shape.centre[1] + y], shape.turn, 1);
  const [w, h] = shape.radii;
  if (shape.kind === 'ellipse') {
    for (let k = 0; k < 72; ++k) line.push(place(w * Math.cos((k * Math.PI) / 36), h * Math.sin((k * Math.PI) / 36)));
    return line;
  }
  const corner = shape.round * Math.min(w, h);
  [[1, 1], [-1, 1], [-1, -1], [1, -1]].forEach(([sx = 1, sy = 1], quarter) => {
    for (let k = 0; k <= 9; ++k) {
      const angle = (Math.PI / 2) * (quarter + k / 9);
      line.push(place(sx * (w - corner) + corner * Math.cos(angle), sy * (h - corner) + corner * Math.sin(angle)));
    }
  });
  return line;
}

/** The edge of a shape where its motion has taken it, with outward normals; `grow` in the same lengths. */
export function edgeOf(shape: DrawnShape, m: Matrix, grow: number): EdgePoint[] {
  const line = stated(shape).map((p) => apply(m, p));
  let area = 0;
  line.forEach((p, i) => {
    const q = line[(i + 1) % line.length] as Pair;
    area += p[0] * q[1] - q[0] * p[1];
  });
  const side = area < 0 ? -1 : 1;
  return line.map((p, i) => {
    let [before, after] = [i, i];
    const n = line.length;
    for (let k = 1; k < n && Math.hypot(...minus(line[(i + k) % n] as Pair, p)) < 1e-9; ++k) after = i + k;
    for (let k = 1; k < n && Math.hypot(...minus(line[(i - k + n) % n] as Pair, p)) < 1e-9; ++k) before = i - k;
    const [tx, ty] = minus(line[(after + 1) % n] as Pair, line[(before - 1 + 2 * n) % n] as Pair);
    const length = Math.hypot(tx, ty) || 1;
    const normal: Pair = [(side * ty) / length, (-side * tx) / length];
    return { at: plus(p, [normal[0] * grow, normal[1] * grow]), normal };
  });
}

/** So many points evenly along an edge. */
export function spread(edge: EdgePoint[], count: number): EdgePoint[] {
  const lengths = edge.map((p, i) => Math.hypot(...minus((edge[(i + 1) % edge.length] as EdgePoint).at, p.at)));
  const all = lengths.reduce((a, b) => a + b, 0);
  const found: EdgePoint[] = [];
  let i = 0;
  let gone = 0;
  for (let k = 0; k < count; ++k) {
    const want = (k / count) * all;
    while (i < edge.length - 1 && gone + (lengths[i] as number) < want) gone += lengths[i++] as number;
    const a = edge[i] as EdgePoint;
    const b = edge[(i + 1) % edge.length] as EdgePoint;
    const t = (lengths[i] as number) > 0 ? (want - gone) / (lengths[i] as number) : 0;
    found.push({ at: mixed(a.at, b.at, t), normal: a.normal });
  }
  return found;
}

/** A picture point about which a shape turns and scales, as it is stated. */
export function middleOf(shape: DrawnShape): Pair {
  if (shape.kind !== 'path') return shape.centre;
  const xs = shape.points.map((p) => p.at[0]);
  const ys = shape.points.map((p) => p.at[1]);
  return [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
}

// --- edits ------------------------------------------------------------------------------------------------------
/** The upright box round a shape where it is stated, as the server has it for what depends on an area's size. */
export function extentOf(shape: DrawnShape): { centre: Pair; half: Pair } {
  if (shape.kind === 'path') {
    const [xs, ys] = [shape.points.map((p) => p.at[0]), shape.points.map((p) => p.at[1])];
    const [l, r, t, b] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    return { centre: [(l + r) / 2, (t + b) / 2], half: [Math.max(1e-4, (r - l) / 2), Math.max(1e-4, (b - t) / 2)] };
  }
  const [a, b] = shape.radii;
  const [c, s] = [Math.cos((shape.turn * Math.PI) / 180), Math.sin((shape.turn * Math.PI) / 180)];
  const half: Pair = shape.kind === 'ellipse' ? [Math.hypot(a * c, b * s), Math.hypot(a * s, b * c)] : [Math.abs(a * c) + Math.abs(b * s), Math.abs(a * s) + Math.abs(b * c)];
  return { centre: shape.centre, half: [Math.max(1e-4, half[0]), Math.max(1e-4, half[1])] };
}

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
  if (shape.kind === 'area') return null;
  if (shape.kind === 'path') {
    if (shape.points.length < 3 && shape.points.every((p) => p.in.every((v) => v === 0) && p.out.every((v) => v === 0))) return 'Two points with a straight line between them hold no area. Add a point, or pull out their handles.';
    if (crosses(shape.points)) return 'The path crosses itself; what lies inside twice counts as outside.';
  }
  const edge = edgeOf(shape, m, 0);
  if (edge.every((p) => p.at[0] < 0) || edge.every((p) => p.at[0] > aspect) || edge.every((p) => p.at[1] < 0) || edge.every((p) => p.at[1] > 1)) return 'It lies wholly outside the picture on this frame.';
  return null;
}

export const JOINS: { name: string; value: Join }[] = [
  { name: 'Add', value: 'add' },
  { name: 'Cut', value: 'cut' },
  { name: 'Keep', value: 'keep' },
];
