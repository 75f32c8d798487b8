import type { Area, Finding } from '../../api/types';
import { LEFT } from './useLanes';
import { isDrawn } from '../outline/shapes';

/** A tick of a lane's comb: the taller, the surer. */
export interface Tick { x: number; w: number; c: number; weak: boolean }

/** Under this a follow wants a look. */
const WEAK = 0.4;
/** The least width of a column. */
const COLUMN = 3;

/** Where frames are narrower than ticks, a column shows the worst frame it covers. */
export function combOf(confidence: (number | null)[], count: number, step: number): Tick[] {
  const columns = Math.min(count, Math.max(1, Math.floor((count * step) / COLUMN)));
  const ticks: Tick[] = [];
  for (let i = 0; i < columns; ++i) {
    const first = Math.floor((i * count) / columns);
    const last = Math.max(first, Math.floor(((i + 1) * count) / columns) - 1);
    const known = confidence.slice(first, last + 1).filter((v): v is number => v !== null && v !== undefined);
    if (known.length === 0) continue;
    const worst = Math.min(...known);
    ticks.push({ x: LEFT + ((first + last + 1) / 2) * step, w: Math.min(5, Math.max(1.5, (last - first + 1) * step * 0.5)), c: worst, weak: worst < WEAK });
  }
  return ticks;
}

/** Frames on which somebody set something by hand. */
export function keyframesOf(area: Area): number[] {
  const shapes = area.outline.shapes.flatMap((s) => [...s.keys, ...(isDrawn(s) ? (s.motion?.keys ?? []) : [])]);
  const strength = typeof area.strength === 'number' ? [] : area.strength.keys;
  return [...new Set([...area.motion.keys, ...shapes, ...area.blinkGuard.keys, ...strength].map((k) => k.frame))].sort((a, b) => a - b);
}

/** Where a tell-tale of an area rings: the frames over its limit, and the worst. */
export const bellsOf = (area: Area, open: Finding[]): { key: string; first: number; last: number; worst: number; word: string }[] =>
  open.filter((f) => f.area === area.id).flatMap((f) => f.spans.map(([first, last]) => ({ key: `${f.telltale} ${first}`, first, last, worst: f.worst, word: f.telltale })));
