import { describe, expect, it } from 'vitest';
import type { Ellipse, Kind, MaybeKeyed, Path } from '../../resources/app/api/types';
import { extentOf } from '../../resources/app/bench/outline/shapes';
import { monotone, round } from '../../resources/app/bench/treat/controls/spline';
import { markOf, toggledKey, valueAt, withValue } from '../../resources/app/bench/recipe/keyed';
import { TOUCHES, neutral } from '../../resources/app/bench/treat/touches';

describe('touches', () => {
  it('a new one changes nothing yet, whatever its settings are', () => {
    const kind: Kind = {
      name: 'curves', inArea: false, last: false,
      parameters: [
        { type: 'points', name: 'luma', x: [0, 1], y: [0, 1], neutral: [] },
        { type: 'number', name: 'stops', least: -6, most: 6, neutral: 0, unit: 'stops' },
        { type: 'choice', name: 'blend', words: ['tint', 'overlay'], neutral: 'tint' },
      ],
    };
    const touch = neutral(kind, 't1', 'inside');
    expect(touch).toEqual({ id: 't1', kind: 'curves', side: 'inside', on: true, amount: 1, luma: [], stops: 0, blend: 'tint' });
    (touch.luma as number[]).push(1);
    expect(kind.parameters[0]?.neutral).toEqual([]);
  });

  it('every control has a name of its own within its touch', () => {
    for (const { controls } of Object.values(TOUCHES)) {
      const names = controls.map((c) => `${c.type} ${c.name}`);
      expect(new Set(names).size).toBe(names.length);
    }
  });
});

describe('keyed numbers', () => {
  const keyed: MaybeKeyed = { value: 0.2, keys: [{ frame: 10, value: 0, ease: 'linear' }, { frame: 20, value: 1, ease: 'hold' }, { frame: 30, value: 0.5 }] };

  it('blend between keyframes by their ease', () => {
    expect([0, 10, 15, 20, 25, 30, 99].map((f) => valueAt(keyed, f))).toEqual([0, 0, 0.5, 1, 1, 0.5, 0.5]);
    expect([valueAt(0.5, 3), valueAt({ value: 2, keys: [] }, 3)]).toEqual([0.5, 2]);
  });

  it('a change on a frame is a keyframe there, or the value itself where none is', () => {
    expect(withValue(0.5, 7, 0.6)).toBe(0.6);
    const changed = withValue(keyed, 15, 0.9) as { keys: { frame: number; value: number }[] };
    expect(changed.keys.map((k) => [k.frame, k.value])).toEqual([[10, 0], [15, 0.9], [20, 1], [30, 0.5]]);
    expect(valueAt(withValue(keyed, 10, 0.4), 10)).toBe(0.4);
    expect(valueAt(keyed, 10)).toBe(0);
  });

  it('a keyframe set and taken away leaves the number as it looked', () => {
    const once = toggledKey(0.7, 12);
    expect(once).toEqual({ value: 0.7, keys: [{ frame: 12, value: 0.7, ease: 'smooth' }] });
    expect(toggledKey(once, 12)).toBe(0.7);
    expect([markOf(0.7, 12), markOf(once, 12), markOf(once, 13)]).toEqual(['none', 'here', 'elsewhere']);
    expect(valueAt(toggledKey(keyed, 15), 15)).toBe(0.5);
  });
});

describe('the line of a curve', () => {
  it('is that of the server', () => {
    // Values printed by the core's own spline.
    const curve = monotone([[0, 0.05], [0.3, 0.2], [0.5, 0.7], [1, 0.9]]);
    [-0.1, 0.1, 0.4, 0.62, 0.95, 1.1].forEach((x, i) => expect(curve(x)).toBeCloseTo([0.05, 0.069509, 0.452572, 0.782347, 0.897862, 0.9][i] as number, 5));
    const band = round([[20, 0.5], [100, -0.2], [300, 0.3]], 360);
    [0, 50, 200, 350].forEach((x, i) => expect(band(x)).toBeCloseTo([0.478125, 0.278516, -0.0125, 0.454297][i] as number, 5));
  });

  it('is straight where there are no points', () => {
    expect([monotone([])(0.3), round([], 360)(40)]).toEqual([0.3, 0]);
  });
});

describe('extents', () => {
  it('are upright boxes round shapes', () => {
    const ellipse = { kind: 'ellipse', centre: [0.5, 0.4], radii: [0.2, 0.1], turn: 90 } as Ellipse;
    const { centre, half } = extentOf(ellipse);
    expect(centre).toEqual([0.5, 0.4]);
    expect(half[0]).toBeCloseTo(0.1);
    expect(half[1]).toBeCloseTo(0.2);
    const path = { kind: 'path', points: [{ at: [0.1, 0.2] }, { at: [0.5, 0.3] }, { at: [0.2, 0.8] }] } as Path;
    expect(extentOf(path).centre).toEqual([0.3, 0.5]);
  });
});
