import type { Kind, MaybeKeyed, Touch } from '../api/types';

/** How each kind of touch is shown: its words and how its numbers are written. What they may be comes from the server. */
export interface Control { name: string; label: string; digits: number; sign?: boolean; scale?: number; unit?: string; more?: boolean }

const stops = { digits: 2, sign: true, unit: 'st' };
const plain = { digits: 2 };

export const TOUCHES: Record<string, { label: string; controls: Control[] }> = {
  exposure: { label: 'Exposure', controls: [{ name: 'stops', label: 'Light', ...stops }] },
  tone: {
    label: 'Tone',
    controls: [
      { name: 'lift', label: 'Lift', digits: 3, sign: true },
      { name: 'gamma', label: 'Gamma', ...plain },
      { name: 'gain', label: 'Gain', ...plain },
      { name: 'contrast', label: 'Contrast', ...plain },
      { name: 'pivot', label: 'Pivot', ...plain, more: true },
      { name: 'blacks', label: 'Blacks', ...stops, more: true },
      { name: 'shadows', label: 'Shadows', ...stops, more: true },
      { name: 'highlights', label: 'Highlights', ...stops, more: true },
      { name: 'whites', label: 'Whites', ...stops, more: true },
    ],
  },
  colour: {
    label: 'Colour',
    controls: [
      { name: 'temperature', label: 'Temperature', digits: 0, sign: true, unit: 'mired' },
      { name: 'tint', label: 'Tint', digits: 1, sign: true },
      { name: 'saturation', label: 'Saturation', digits: 0, scale: 100, unit: '%' },
    ],
  },
};

export const labelOf = (kind: string): string => TOUCHES[kind]?.label ?? kind;

export const valueOf = (v: MaybeKeyed): number => (typeof v === 'number' ? v : v.value);

/** A touch that changes nothing yet. */
export function neutral(kind: Kind, id: string, side?: 'inside' | 'outside'): Touch {
  return { id, kind: kind.name, ...(side ? { side } : {}), on: true, amount: 1, ...Object.fromEntries(kind.parameters.map((p) => [p.name, p.neutral])) };
}
