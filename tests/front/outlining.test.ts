import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import type { Area, DrawnShape, Path, PathPoint } from '../../resources/app/api/types';
import { inverse, apply, type Matrix } from '../../resources/app/bench/outline/geometry';
import { useFollowing } from '../../resources/app/bench/follow/useFollowing';
import { useOutlines } from '../../resources/app/bench/outline/useOutlines';
import { area, bench, ellipse } from './bench';

const said: string[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: (words: string) => said.push(words), fail: (words: string, why: Error) => said.push(`${words}: ${why.message}`) }) }));


beforeEach(() => {
  said.length = 0;
  localStorage.clear();
});

const MOVED: Matrix = [1.25, 0, 0.1, 0, 1.25, -0.05, 0, 0, 1];

function outlining(areas: Area[], chosen = 'a', matrix?: Matrix) {
  const b = bench(areas, chosen, matrix);
  const outlines = useOutlines(1, b.store, b.motions, b.playhead, b.areas);
  const following = useFollowing(b.store, b.motions, b.playhead, b.areas, outlines);
  return { ...b, outlines, following };
}

const points = (): PathPoint[] => [{ at: [0.4, 0.4], in: [0, 0], out: [0.1, 0] }, { at: [0.9, 0.4], in: [0, 0], out: [0, 0] }, { at: [0.6, 0.8], in: [0, 0], out: [0, 0] }];

describe('drawing', () => {
  it('states the first shape of a still area on the frame it was drawn on', () => {
    const { outlines, frame, the, labels } = outlining([area('a')]);
    frame.value = 33;
    outlines.draw('box');
    outlines.drawn({ kind: 'box', centre: [0.7, 0.5], radii: [0.2, 0.1] });
    expect(the('a').outline.at).toBe(33);
    expect(the('a').outline.shapes).toMatchObject([{ id: 's1', kind: 'box', join: 'add', centre: [0.7, 0.5], radii: [0.2, 0.1], turn: 0 }]);
    expect(the('a').motion.pivot).toEqual([0.7, 0.5]);
    expect(outlines.tool.value).toBeNull();
    expect(labels).toEqual(['A: draw box']);
  });

  it('is of the frame that the picture shows, however late that is', () => {
    const keyed = { ...ellipse('s1'), keys: [{ frame: 20, ease: 'linear' }, { frame: 40, ease: 'linear' }].map((k, i) => ({ ...ellipse('s1'), ...k, centre: [0.5 + 0.2 * i, 0.5] })) } as never;
    const { outlines, frame, shown, the } = outlining([area('a', [keyed])]);
    frame.value = 40;
    shown.value = 20;
    expect(outlines.staged(the('a'))[0]?.shape).toMatchObject({ centre: [0.5, 0.5] });
    // A handle that is dragged changes the frame seen; a slider the frame it stands for.
    outlines.change('s1', { featherOut: 0.2 });
    outlines.change('s1', { featherOut: 0.3 }, frame.value);
    expect(the('a').outline.shapes[0]?.keys).toMatchObject([{ frame: 20, featherOut: 0.2 }, { frame: 40, featherOut: 0.3 }]);
    shown.value = 40;
    expect(outlines.staged(the('a'))[0]?.shape).toMatchObject({ centre: [0.7, 0.5] });
  });

  it('brings later shapes to where the outline is stated and joins them as chosen', () => {
    const { outlines, the, frame } = outlining([area('a', [ellipse('s1')], { by: 'follow' })], 'a', MOVED);
    frame.value = 60;
    outlines.joinNext('cut');
    outlines.drawn({ kind: 'path', points: points() });
    outlines.drawn({ kind: 'ellipse', centre: [0.85, 0.45], radii: [0.25, 0.125] });
    const [, path, round] = the('a').outline.shapes as [DrawnShape, Path, DrawnShape];
    expect(the('a').outline.at).toBe(10);
    expect([path.join, round.join]).toEqual(['cut', 'cut']);
    const [x, y] = apply(inverse(MOVED), [0.4, 0.4]);
    expect(path.points[0]?.at[0]).toBeCloseTo(x, 5);
    expect(path.points[0]?.at[1]).toBeCloseTo(y, 5);
    expect(path.points[0]?.out[0]).toBeCloseTo(0.08, 5);
    expect(round.kind === 'ellipse' && round.radii).toEqual([0.2, 0.1]);
    expect(new Set(the('a').outline.shapes.map((s) => s.id)).size).toBe(3);
  });

  it('a drag holds the picture to its reduced size until it is let go', () => {
    const { outlines, held, the, labels } = outlining([area('a', [ellipse('s1')])]);
    outlines.change('s1', { featherOut: 0.1 });
    expect(held.value).toBe(true);
    expect(labels).toEqual([]);
    void outlines.commit('Outer feather');
    expect(held.value).toBeNull();
    expect(the('a').outline.shapes[0]).toMatchObject({ featherOut: 0.1 });
    expect(labels).toEqual(['A: outer feather']);
  });

  it('points that were followed on their own are shown shifted and stated without the shift', () => {
    const path = { ...ellipse('s1'), kind: 'path', points: points() } as unknown as Path;
    const { outlines, shifts, the } = outlining([area('a', [path])]);
    shifts.value = points().map(() => [0.05, 0, 0, 0, 0, 0]);
    const shown = outlines.staged(the('a'))[0]?.shape as Path;
    expect(shown.points[0]?.at[0]).toBeCloseTo(0.45, 9);
    outlines.change('s1', { points: shown.points.map((p, i) => (i === 1 ? { ...p, at: [1, 0.5] } : p)) });
    const stated = (the('a').outline.shapes[0] as Path).points;
    expect(stated[0]?.at).toEqual([0.4, 0.4]);
    expect(stated[1]?.at).toEqual([0.95, 0.5]);
  });
});

describe('outlines as a whole', () => {
  it('are copied into another area with ids of their own; a matte of an area that is not there stays behind', async () => {
    const first = outlining([area('a', [ellipse('s1'), { id: 's2', kind: 'area', join: 'keep', of: 'lids', opacity: 1, keys: [] }]), area('lids')]);
    first.outlines.paste();
    expect(said).toContain('Nothing to paste');
    first.outlines.copy();
    await nextTick();
    const { outlines, the } = outlining([area('b', [ellipse('s1')])], 'b');
    outlines.paste();
    expect(the('b').outline.shapes.map((s) => [s.id, s.kind])).toEqual([['s1', 'ellipse'], ['s2', 'ellipse']]);
  });

  it('mirror about their own middle, become paths, change places and lose shapes', async () => {
    const { outlines, the } = outlining([area('a', [{ ...ellipse('s1'), turn: 30 } as DrawnShape, { ...ellipse('s2'), centre: [1.0, 0.5] } as DrawnShape])]);
    outlines.mirror();
    expect(the('a').outline.shapes).toMatchObject([{ centre: [1.0, 0.5], turn: -30 }, { centre: [0.8, 0.5] }]);
    outlines.toPath('s1');
    expect(the('a').outline.shapes.map((s) => s.kind)).toEqual(['path', 'ellipse']);
    outlines.earlier(1);
    expect(the('a').outline.shapes.map((s) => s.id)).toEqual(['s2', 's1']);
    outlines.work('s2');
    outlines.remove('s2');
    await nextTick();
    expect(outlines.activeShape.value?.id).toBe('s1');
  });

  it('are people too: everybody, or the one whose face is clicked, with edges but nowhere to go', () => {
    const { outlines, the, labels, following } = outlining([area('a', [ellipse('s1')])]);
    outlines.joinNext('keep');
    outlines.draw('box');
    outlines.addPeople();
    expect(outlines.tool.value).toBeNull();
    expect(the('a').outline.shapes[1]).toEqual({ id: outlines.active.value, kind: 'people', join: 'keep', place: null, featherIn: 0, featherOut: 0, grow: 0, opacity: 1, keys: [] });
    const id = outlines.active.value ?? '';
    outlines.meanPerson(id, [0.51234567, 0.4]);
    expect(the('a').outline.shapes[1]).toMatchObject({ place: [0.512346, 0.4] });
    outlines.change(id, { featherOut: 0.02 }, 10);
    expect(the('a').outline.shapes[1]).toMatchObject({ featherOut: 0.02 });
    expect(following.shapeId.value).toBeNull();
    // No handles of it are drawn, and its first shape is still where hands take hold.
    expect(outlines.staged(the('a')).map((s) => s.shape.id)).toEqual(['s1']);
    outlines.meanPerson(id, null);
    expect(the('a').outline.shapes[1]).toMatchObject({ place: null });
    expect(labels).toEqual(['A: people', 'A: one person', 'A: everybody']);
    outlines.meanPerson('s1', [0.5, 0.5]);
    expect(the('a').outline.shapes[0]).not.toHaveProperty('place');
  });

  it('keep the values of a last keyframe that is taken away', () => {
    const { outlines, the, frame } = outlining([area('a', [ellipse('s1')])]);
    outlines.addKey('s1');
    frame.value = 20;
    outlines.change('s1', { turn: 40 });
    outlines.ease('s1', 10, 'hold');
    expect(the('a').outline.shapes[0]?.keys.map((k) => [k.frame, k.turn, k.ease])).toEqual([[10, 0, 'hold'], [20, 40, 'smooth']]);
    outlines.removeKey('s1', 10);
    outlines.removeKey('s1', 20);
    expect(the('a').outline.shapes[0]).toMatchObject({ turn: 40, keys: [] });
  });

  it('give a shape a motion of its own and take it away', () => {
    const { outlines, following, the } = outlining([area('a', [ellipse('s1')])]);
    outlines.ownMotion('s1');
    expect((the('a').outline.shapes[0] as DrawnShape).motion).toMatchObject({ by: 'none', pivot: [0.8, 0.5] });
    expect(following.shapeId.value).toBe('s1');
    following.setModel('affine');
    expect((the('a').outline.shapes[0] as DrawnShape).motion).toMatchObject({ by: 'follow', model: 'affine' });
    expect(the('a').motion.by).toBe('none');
    outlines.ownMotion('s1');
    expect(following.shapeId.value).toBeNull();
  });
});

describe('following', () => {
  it('begins on the frame one is on, over the frames that are asked for', async () => {
    const { following, the, followed, frame } = outlining([area('a', [ellipse('s1')])]);
    frame.value = 42;
    await following.follow(30, 60);
    expect(the('a').motion).toMatchObject({ by: 'follow', start: 42, model: 'similarity', pivot: [0.8, 0.5], track: null });
    expect(followed).toEqual([['a', null, 42, 30, 60]]);
  });

  it('following again leaves model, keyframes and pivot alone and is no edit of its own', async () => {
    const keys = [{ frame: 5, move: [0.1, 0] as [number, number], turn: 0, scale: 1, shear: 0 }];
    const { following, the, labels } = outlining([area('a', [ellipse('s1')], { by: 'follow', model: 'affine', track: { sha256: 'x' }, keys, pivot: [0.3, 0.3] })]);
    await following.follow(0, 83);
    expect(the('a').motion).toMatchObject({ model: 'affine', keys, pivot: [0.3, 0.3], track: { sha256: 'x' } });
    expect(labels).toEqual([]);
  });

  it('a first correction stays on its frame: where the follow began, nothing moves', () => {
    const { following, the, frame, labels, held } = outlining([area('a', [ellipse('s1')], { by: 'follow', start: 40, track: { sha256: 'x' } })]);
    frame.value = 60;
    following.correctHere();
    following.correct({ move: [0.02, 0], turn: 0, scale: 1 });
    following.correct({ move: [0.05, -0.01], turn: 4, scale: 1.1 });
    following.corrected();
    expect(the('a').motion.keys).toMatchObject([{ frame: 40, move: [0, 0], turn: 0, scale: 1 }, { frame: 60, move: [0.05, -0.01], turn: 4, scale: 1.1 }]);
    expect(the('a').motion.pivot).toEqual([0.8, 0.5]);
    expect(labels).toEqual(['A: correct frame 60']);
    expect(held.value).toBeNull();
    // A second drag goes on from the first; another frame begins from what is blended there.
    following.correct({ move: [0.01, 0], turn: 0, scale: 2 });
    following.corrected();
    expect(the('a').motion.keys[1]).toMatchObject({ frame: 60, move: [0.06, -0.01], turn: 4, scale: 2.2 });
    frame.value = 50;
    following.correct({ move: [0, 0], turn: 1, scale: 1 });
    following.corrected();
    expect(the('a').motion.keys.map((k) => k.frame)).toEqual([40, 50, 60]);
    expect(the('a').motion.keys[1]?.turn).toBeCloseTo(3, 6);
    following.removeKey(50);
    expect(following.keys.value.map((k) => k.frame)).toEqual([40, 60]);
  });

  it('while a correction is dragged the handles go with it', () => {
    const { following, frame } = outlining([area('a', [ellipse('s1')], { by: 'follow', start: 10 })], 'a', MOVED);
    frame.value = 20;
    following.correct({ move: [0.1, 0.02], turn: 90, scale: 2 });
    const live = following.withLive(MOVED, [0.8, 0.5]);
    const [cx, cy] = apply(MOVED, [0.8, 0.5]);
    const [x, y] = apply(live, [0.8, 0.5]);
    expect([x, y]).toEqual([expect.closeTo(cx + 0.1, 6), expect.closeTo(cy + 0.02, 6)]);
    const [u, v] = apply(live, [0.9, 0.5]);
    expect([u - x, v - y]).toEqual([expect.closeTo(0, 6), expect.closeTo(0.25, 6)]);
  });

  it('rides, stays and copies', () => {
    const host = area('host', [ellipse('h')], { by: 'follow', start: 3, track: { sha256: 'x' }, model: 'affine' });
    const { following, the } = outlining([area('a', [ellipse('s1')]), host]);
    following.by('ride', 'host');
    expect(the('a').motion).toMatchObject({ by: 'ride', on: 'host', pivot: [0.8, 0.5] });
    expect(the('a').motion).not.toHaveProperty('track');
    following.copyFrom('host');
    expect(the('a').motion).toMatchObject({ by: 'follow', model: 'affine', track: { sha256: 'x' } });
    expect(the('a').motion).not.toBe(the('host').motion);
    following.by('none');
    expect(the('a').motion).toMatchObject({ by: 'none' });
    expect(the('a').motion).not.toHaveProperty('on');
  });

  it('keeps the last two spots, stated where the outline is, and switches channels in their order', () => {
    const { following, the } = outlining([area('a', [ellipse('s1')])], 'a', MOVED);
    for (const x of [0.6, 0.85, 1.1]) following.addSpot([x, 0.5]);
    const look = the('a').motion.look;
    expect(look?.by === 'spots' && look.spots.map((p) => p.map((v) => Math.round(v * 1000) / 1000))).toEqual([[0.6, 0.44], [0.8, 0.44]]);
    following.toggleChannel('rotation');
    expect(the('a').motion.use).toEqual(['position', 'scale', 'shear', 'perspective']);
    following.toggleChannel('rotation');
    expect(the('a').motion.use).toEqual(['position', 'rotation', 'scale', 'shear', 'perspective']);
  });

  it('knows the next keyframe ahead', () => {
    const keys = [5, 20, 44].map((frame) => ({ frame, move: [0, 0] as [number, number], turn: 0, scale: 1, shear: 0 }));
    const { following, frame } = outlining([area('a', [ellipse('s1')], { keys })]);
    expect(following.nextKey.value).toBe(20);
    frame.value = 44;
    expect(following.nextKey.value).toBeNull();
  });
});
