import type { MaybeKeyed, NumberKey } from '../../api/types';
import { between } from './keyframes';

/** A number as it is on a frame. */
export function valueAt(v: MaybeKeyed, frame: number): number {
  if (typeof v === 'number') return v;
  const found = between(v.keys, frame);
  if (!found) return v.value;
  const [a, b, t] = found;
  return a.value + (b.value - a.value) * t;
}

/** A number set on a frame: where it is keyed, by a keyframe there. */
export function withValue(v: MaybeKeyed, frame: number, value: number): MaybeKeyed {
  return typeof v === 'number' ? value : { ...v, keys: sorted([...v.keys.filter((k) => k.frame !== frame), { frame, value, ease: v.keys.find((k) => k.frame === frame)?.ease ?? 'smooth' }]) };
}

/** With a keyframe on a frame, or without the one there; a number without any is plain again. */
export function toggledKey(v: MaybeKeyed, frame: number): MaybeKeyed {
  const value = valueAt(v, frame);
  if (typeof v === 'number') return { value: v, keys: [{ frame, value, ease: 'smooth' }] };
  const keys = v.keys.some((k) => k.frame === frame) ? v.keys.filter((k) => k.frame !== frame) : sorted([...v.keys, { frame, value, ease: 'smooth' }]);
  return keys.length === 0 ? value : { ...v, keys };
}

export type KeyMark = 'none' | 'here' | 'elsewhere';
export function markOf(v: MaybeKeyed, frame: number): KeyMark {
  if (typeof v === 'number') return 'none';
  return v.keys.some((k) => k.frame === frame) ? 'here' : 'elsewhere';
}

export const sorted = (keys: NumberKey[]): NumberKey[] => keys.sort((a, b) => a.frame - b.frame);
