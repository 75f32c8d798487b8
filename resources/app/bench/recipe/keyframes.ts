import type { Ease } from '../../api/types';

const EASES: Record<Ease, (t: number) => number> = { smooth: (t) => t * t * (3 - 2 * t), linear: (t) => t, hold: () => 0 };

/** The keyframes before and after a frame, and how far it is on the way from one to the other, eased. */
export function between<K extends { frame: number; ease?: Ease }>(keys: K[], frame: number): [K, K, number] | null {
  let before = keys[0];
  if (!before) return null;
  for (const key of keys) {
    if (key.frame > frame) return [before, key, before === key ? 0 : EASES[before.ease ?? 'smooth']((frame - before.frame) / (key.frame - before.frame))];
    before = key;
  }
  return [before, before, 0];
}

/** A value on its way from one to another: numbers, lists and objects of them. */
export function mixed<T>(a: T, b: T, t: number): T {
  if (typeof a === 'number') return (a + ((b as number) - a) * t) as T;
  if (Array.isArray(a)) return a.map((v, i) => mixed(v as unknown, (b as unknown[])[i], t)) as T;
  return Object.fromEntries(Object.entries(a as object).map(([k, v]) => [k, mixed(v as unknown, (b as Record<string, unknown>)[k], t)])) as T;
}
