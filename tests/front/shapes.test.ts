import { describe, expect, it } from 'vitest';
import type { Box, Ellipse, Pair, Path, PathPoint, Shape } from '../../resources/app/api/types';
import { IDENTITY, about, apply, degrees, inverse, scaleAt, turnAt, type Matrix } from '../../resources/app/bench/outline/geometry';
import { addPoint, crosses, mirrored, movedPoint, removePoints, toPath, toggled, trouble, withPoint } from '../../resources/app/bench/outline/edits';
import { addKey, along, bezier, edgeOf, put, shapeAt, spread } from '../../resources/app/bench/outline/shapes';
import { between } from '../../resources/app/bench/recipe/keyframes';

const edge = { join: 'add' as const, featherIn: 0, featherOut: 0.02, grow: 0, opacity: 1, keys: [], motion: null };
const ellipse = (more: Partial<Ellipse> = {}): Ellipse => ({ id: 's1', kind: 'ellipse', centre: [0.8, 0.5], radii: [0.3, 0.2], turn: 20, ...structuredClone(edge), ...more });
const box = (more: Partial<Box> = {}): Box => ({ id: 's2', kind: 'box', centre: [0.8, 0.5], radii: [0.3, 0.2], turn: -15, round: 0.4, ...structuredClone(edge), ...more });
const point = (x: number, y: number, ox = 0, oy = 0): PathPoint => ({ at: [x, y], in: [-ox, -oy], out: [ox, oy] });
const path = (points: PathPoint[], more: Partial<Path> = {}): Path => ({ id: 's3', kind: 'path', points, ...structuredClone(edge), ...more });
const leaf = (): PathPoint[] => [point(0.4, 0.5, 0, -0.1), point(0.8, 0.3, 0.1, 0), point(1.2, 0.5, 0, 0.1), point(0.8, 0.7, -0.1, 0)];

/** Furthest of some points from a dense run of others. */
function furthest(points: Pair[], line: Pair[]): number {
  return Math.max(...points.map(([x, y]) => Math.min(...line.map(([u, v]) => Math.hypot(x - u, y - v)))));
}
const dense = (points: PathPoint[]): Pair[] => points.flatMap((a, i) => Array.from({ length: 400 }, (_, k) => bezier(a, points[(i + 1) % points.length] as PathPoint, k / 400)));

describe('keyframes', () => {
  const keys = [{ frame: 10, ease: 'smooth' as const }, { frame: 20, ease: 'hold' as const }, { frame: 30 }];

  it('stand still before the first and after the last, and ease in between', () => {
    expect(between(keys, 3)).toEqual([keys[0], keys[0], 0]);
    expect(between(keys, 15)?.[2]).toBeCloseTo(0.5, 12);
    expect(between(keys, 12.5)?.[2]).toBeCloseTo(0.15625, 12);
    expect(between(keys, 29)).toEqual([keys[1], keys[2], 0]);
    expect(between(keys, 44)).toEqual([keys[2], keys[2], 0]);
    expect(between([], 3)).toBeNull();
  });

  it('set only the values they name; a path blends point by point', () => {
    const shape = path(leaf(), { keys: [{ frame: 0, points: leaf(), ease: 'linear' }, { frame: 10, points: leaf().map((p) => movedPoint(p, ([x, y]) => [x + 0.2, y])), opacity: 0.5 }] });
    const half = shapeAt(shape, 5);
    expect(half.points[0]?.at).toEqual([0.5, 0.5]);
    expect(half.points[1]?.out).toEqual([0.1, 0]);
    expect(half.opacity).toBe(0.5);
    expect(half.featherOut).toBe(0.02);
  });

  it('a change goes to the keyframe of the frame where the value is keyed, and for good where it is not', () => {
    const shape: Shape = ellipse();
    put(shape, 4, { turn: 30 });
    expect([shape.turn, shape.keys]).toEqual([30, []]);
    addKey(shape, 4);
    put(shape, 9, { turn: 50, centre: [0.9, 0.5] });
    expect(shape.keys.map((k) => [k.frame, k.turn])).toEqual([[4, 30], [9, 50]]);
    expect(shape.turn).toBe(30);
    expect(shapeAt(shape, 9).centre).toEqual([0.9, 0.5]);
    expect(shapeAt(shape, 4).centre).toEqual([0.8, 0.5]);
  });
});

describe('edges', () => {
  it('a point put on a path leaves its curve as it was, in every keyframe too', () => {
    for (const t of [0.1, 0.5, 0.83]) expect(furthest(dense(withPoint(leaf(), 3, t)), dense(leaf()))).toBeLessThan(1e-3);
    const shape = path(leaf(), { keys: [{ frame: 3, points: leaf() }, { frame: 5, opacity: 0 }] });
    addPoint(shape, 1, 0.4);
    expect([shape.points.length, shape.keys[0]?.points?.length, shape.keys[1]?.points]).toEqual([5, 5, undefined]);
    removePoints(shape, new Set([0, 2]));
    expect([shape.points.length, shape.keys[0]?.points?.length]).toEqual([3, 3]);
    expect(shape.points[0]?.at).toEqual([0.8, 0.3]);
  });

  it('an ellipse and a box become paths along the same edge, keyframes too', () => {
    for (const shape of [ellipse(), box(), box({ round: 0 }), box({ round: 1 })]) {
      const as = toPath(shape);
      expect(furthest(along(as.points), edgeOf(shape, IDENTITY, 0).flatMap((p, i, all) => {
        const q = all[(i + 1) % all.length] as typeof p;
        return Array.from({ length: 60 }, (_, k): Pair => [p.at[0] + ((q.at[0] - p.at[0]) * k) / 60, p.at[1] + ((q.at[1] - p.at[1]) * k) / 60]);
      }))).toBeLessThan(2e-3);
      expect([as.id, as.featherOut]).toEqual([shape.id, shape.featherOut]);
    }
    const keyed = toPath(ellipse({ keys: [{ frame: 2, turn: 0, opacity: 0.3 }, { frame: 6, turn: 90 }] }));
    expect(keyed.keys.map((k) => [k.frame, k.points?.length, k.opacity])).toEqual([[2, 4, 0.3], [6, 4, undefined]]);
  });

  it('normals point outwards whichever way round the path was drawn, and grow moves the edge along them', () => {
    for (const points of [leaf(), [...leaf()].reverse().map((p) => ({ at: p.at, in: p.out, out: p.in }))]) {
      for (const p of edgeOf(path(points), IDENTITY, 0.05)) {
        expect(Math.hypot(...p.normal)).toBeCloseTo(1, 9);
        expect(p.normal[0] * (p.at[0] - 0.8) + p.normal[1] * (p.at[1] - 0.5)).toBeGreaterThan(0);
      }
    }
    const grown = edgeOf(ellipse({ radii: [0.2, 0.2] }), IDENTITY, 0.1).map((p) => Math.hypot(p.at[0] - 0.8, p.at[1] - 0.5));
    for (const r of grown) expect(r).toBeCloseTo(0.3, 3);
  });

  it('goes with its motion, perspective too', () => {
    const m: Matrix = [1.1, 0.1, -0.1, -0.05, 0.95, 0.05, 0.2, -0.1, 1];
    edgeOf(path(leaf()), m, 0).forEach((p, i) => {
      const [x, y] = apply(m, along(leaf())[i] as Pair);
      expect(p.at[0]).toBeCloseTo(x, 12);
      expect(p.at[1]).toBeCloseTo(y, 12);
    });
  });

  it('is spread evenly for hairs', () => {
    const hairs = spread(edgeOf(box({ radii: [0.4, 0.1], round: 0, turn: 0 }), IDENTITY, 0), 20).map((h) => h.at);
    const gaps = hairs.map((p, i) => Math.hypot(p[0] - (hairs[(i + 1) % 20] as Pair)[0], p[1] - (hairs[(i + 1) % 20] as Pair)[1]));
    for (const gap of gaps) expect(gap).toBeLessThan(2 / 20 + 1e-9);
    expect(hairs).toHaveLength(20);
  });
});

describe('edits', () => {
  it('a mirror twice is no mirror, and turns and handles are mirrored once', () => {
    for (const shape of [ellipse(), box(), path(leaf(), { keys: [{ frame: 1, points: leaf() }] })]) expect(mirrored(mirrored(shape, 0.7), 0.7)).toEqual(shape);
    expect(mirrored(ellipse(), 1).centre).toEqual([1.2, 0.5]);
    expect(mirrored(ellipse(), 1).turn).toBe(-20);
    expect(furthest(dense(mirrored(path(leaf()), 1).points), dense(leaf()).map(([x, y]): Pair => [2 - x, y]))).toBeLessThan(1e-3);
  });

  it('a corner becomes smooth along its neighbours and back', () => {
    const corners = leaf().map((p) => ({ at: p.at, in: [0, 0] as Pair, out: [0, 0] as Pair }));
    const smooth = toggled(corners, 1);
    expect(smooth.out[0]).toBeCloseTo(0.8 / 6, 6);
    expect([smooth.in[0] + smooth.out[0], smooth.in[1] + smooth.out[1]]).toEqual([0, 0]);
    expect(toggled([corners[0] as PathPoint, smooth, ...corners.slice(2)], 1).out).toEqual([0, 0]);
  });

  it('tells of paths that cross themselves, hold no area or lie outside the picture', () => {
    expect(crosses(leaf())).toBe(false);
    expect(crosses([point(0, 0), point(1, 1), point(1, 0), point(0, 1)])).toBe(true);
    expect(trouble(path([point(0.2, 0.2), point(0.8, 0.8)]), 16 / 9, IDENTITY)).toMatch(/hold no area/);
    expect(trouble(path([point(0.2, 0.2, 0.1, 0), point(0.8, 0.8)]), 16 / 9, IDENTITY)).toBeNull();
    expect(trouble(ellipse({ centre: [3, 0.5] }), 16 / 9, IDENTITY)).toMatch(/outside the picture/);
    expect(trouble(ellipse({ centre: [3, 0.5] }), 16 / 9, [1, 0, -2, 0, 1, 0, 0, 0, 1])).toBeNull();
  });
});

describe('motions of the plane', () => {
  it('are undone by their inverse', () => {
    const m: Matrix = [1.2, 0.1, -0.3, -0.2, 0.9, 0.1, 0.1, 0.05, 1];
    const [x, y] = apply(inverse(m), apply(m, [0.7, 0.3]));
    expect(x).toBeCloseTo(0.7, 12);
    expect(y).toBeCloseTo(0.3, 12);
  });

  it('tell their scale and turn near a point', () => {
    const r = (25 * Math.PI) / 180;
    const m: Matrix = [1.5 * Math.cos(r), -1.5 * Math.sin(r), 0.2, 1.5 * Math.sin(r), 1.5 * Math.cos(r), -0.1, 0, 0, 1];
    expect(scaleAt(m, [0.4, 0.6])).toBeCloseTo(1.5, 6);
    expect(turnAt(m, [0.4, 0.6])).toBeCloseTo(25, 5);
    expect(degrees(340)).toBe(-20);
    expect(about([1, 1], [2, 1], 90, 2).map((v) => Math.round(v * 1e9) / 1e9)).toEqual([1, 3]);
  });
});
