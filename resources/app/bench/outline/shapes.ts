import type { DrawnShape, Pair, PathPoint, Shape, ShapeKey, ShapeValues } from '../../api/types';
import { copied } from '../recipe/ids';
import { between, mixed } from '../recipe/keyframes';
import { about, apply, minus, plus, type Matrix } from './geometry';

/** Shapes as they are on a frame: their values, and their edge to draw handles on. */

/** Whether a shape has an edge of its own, stated on the outline's frame, and goes where its motion takes it. */
export const isDrawn = (shape: Shape): shape is DrawnShape => shape.kind !== 'area' && shape.kind !== 'people';

/** Whether all of an outline is found on every frame by itself, so that there is nothing to follow. */
export const isFound = (shapes: Shape[]): boolean => shapes.length > 0 && shapes.every((s) => s.kind === 'people');

export const EDGE = ['featherIn', 'featherOut', 'grow', 'opacity'] as const;
const OWN: Record<Shape['kind'], (keyof ShapeValues)[]> = { ellipse: ['centre', 'radii', 'turn'], box: ['centre', 'radii', 'turn', 'round'], path: ['points'], people: [], area: [] };
const fieldsOf = (shape: Shape): (keyof ShapeValues)[] => (shape.kind === 'area' ? ['opacity'] : [...OWN[shape.kind], ...EDGE]);

// --- keyframes --------------------------------------------------------------------------------------------------
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
  Object.assign(keyOn(shape, frame), copied(Object.fromEntries(fieldsOf(shape).map((f) => [f, (now as unknown as Record<string, unknown>)[f]]))));
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
