import { useLocalStorage } from '@vueuse/core';
import type { Kind, Touch } from '../../api/types';

/** How each kind of touch is shown: its words and controls. What its settings may be comes from the server. */
export interface RulerControl { type: 'ruler'; name: string; label: string; digits: number; sign?: boolean; scale?: number; unit?: string; more?: boolean }
export interface ChoiceControl { type: 'choice'; name: string; label: string; words: Record<string, string>; more?: boolean }
export interface EditorControl { type: 'curves' | 'hues' | 'balance' | 'hue' | 'cube' | 'footage' | 'cdl' | 'grey' | 'target' | 'whites' | 'cover'; name: string; more?: boolean }
export type Control = RulerControl | ChoiceControl | EditorControl;

type Look = Omit<RulerControl, 'type' | 'name' | 'label'>;
const ruler = (name: string, label: string, look: Look): RulerControl => ({ type: 'ruler', name, label, ...look });
const further = (control: RulerControl): RulerControl => ({ ...control, more: true });
const stops: Look = { digits: 2, sign: true, unit: 'st' };
const plain: Look = { digits: 2 };
const share: Look = { digits: 0, scale: 100, unit: '%' };
const signed: Look = { ...share, sign: true };
/** Shares of the picture's height. */
const heights: Look = { digits: 2, scale: 100, unit: '%' };

export interface TouchWords { label: string; controls: Control[]; more?: string }

export const TOUCHES: Record<string, TouchWords> = {
  exposure: { label: 'Exposure', controls: [ruler('stops', 'Light', stops)] },
  tone: {
    label: 'Tone',
    more: 'Zones and pivot',
    controls: [
      ruler('lift', 'Lift', { digits: 3, sign: true }),
      ruler('gamma', 'Gamma', plain),
      ruler('gain', 'Gain', plain),
      ruler('contrast', 'Contrast', plain),
      further(ruler('pivot', 'Pivot', plain)),
      further(ruler('blacks', 'Blacks', stops)),
      further(ruler('shadows', 'Shadows', stops)),
      further(ruler('highlights', 'Highlights', stops)),
      further(ruler('whites', 'Whites', stops)),
      further(ruler('calm', 'Calm', heights)),
    ],
  },
  colour: {
    label: 'Colour',
    controls: [
      ruler('temperature', 'Temperature', { digits: 0, sign: true, unit: 'mired' }),
      ruler('tint', 'Tint', { digits: 1, sign: true }),
      ruler('saturation', 'Saturation', share),
      { type: 'grey', name: 'grey' },
    ],
  },
  trim: {
    label: 'Trim',
    controls: [
      ruler('stops', 'Light', stops),
      ruler('temperature', 'Temperature', { digits: 1, sign: true, unit: 'mired' }),
      ruler('tint', 'Tint', { digits: 1, sign: true }),
      ruler('saturation', 'Saturation', share),
    ],
  },
  cdl: { label: 'Decision list', controls: [{ type: 'cdl', name: 'cdl' }, ruler('saturation', 'Saturation', plain)] },
  balance: { label: 'Balance', controls: [{ type: 'balance', name: 'balance' }] },
  curves: { label: 'Curves', controls: [{ type: 'curves', name: 'curves' }] },
  hues: { label: 'Hues', controls: [{ type: 'hues', name: 'hues' }] },
  sidelight: {
    label: 'Sidelight',
    controls: [
      ruler('stops', 'Light', stops),
      ruler('direction', 'From', { digits: 0, sign: true, unit: '°' }),
      ruler('position', 'Place', signed),
      ruler('width', 'Width', share),
      ruler('softness', 'Softness', share),
    ],
  },
  even: {
    label: 'Even skin',
    more: 'Face width',
    controls: [
      ruler('tone', 'Tone', share),
      ruler('redness', 'Redness', share),
      ruler('shine', 'Shine', share),
      ruler('pores', 'Pores', signed),
      ruler('lines', 'Lines', signed),
      ruler('blotches', 'Blotches', signed),
      further(ruler('width', 'Face width', { ...heights, digits: 0 })),
    ],
  },
  whiten: {
    label: 'Whiten',
    more: 'What is a tooth',
    controls: [
      ruler('yellow', 'Yellow out', share),
      ruler('lift', 'Lighter', { digits: 1, scale: 100, unit: '%' }),
      ruler('ceiling', 'Ceiling', { digits: 0, scale: 100 }),
      { type: 'whites', name: 'whites' },
      further(ruler('clean', 'Clean', { digits: 3, sign: true })),
      further(ruler('gums', 'Gums from', { digits: 3, sign: true })),
      further(ruler('dark', 'Dark until', share)),
    ],
  },
  iris: {
    label: 'Iris',
    more: 'Blend and pupil',
    controls: [
      { type: 'hue', name: 'hue' },
      ruler('strength', 'Strength', share),
      ruler('chroma', 'Chroma', { digits: 3 }),
      ruler('light', 'Light', { digits: 1, scale: 100, sign: true, unit: '%' }),
      ruler('contrast', 'Contrast', signed),
      ruler('ring', 'Dark ring', share),
      { type: 'choice', name: 'blend', label: 'Blend', words: { tint: 'Tint', overlay: 'Overlay', 'soft-light': 'Soft light', colour: 'Colour' }, more: true },
      further(ruler('pupil', 'Pupil', share)),
    ],
  },
  conceal: {
    label: 'Conceal',
    more: 'Fit',
    controls: [
      ruler('offsetX', 'Across', { ...heights, sign: true }),
      ruler('offsetY', 'Down', { ...heights, sign: true }),
      { type: 'cover', name: 'cover' },
      ruler('limit', 'Spot only', share),
      further(ruler('fit', 'Fit', share)),
    ],
  },
  match: {
    label: 'Match',
    more: 'Target by number',
    controls: [
      ruler('colour', 'Colour', share),
      ruler('light', 'Lightness', share),
      { type: 'target', name: 'target' },
      further(ruler('targetL', 'Target L', { digits: 3 })),
      further(ruler('targetA', 'Target a', { digits: 3, sign: true })),
      further(ruler('targetB', 'Target b', { digits: 3, sign: true })),
    ],
  },
  grain: { label: 'Grain', controls: [ruler('level', 'Level', share)] },
  blur: { label: 'Blur', controls: [ruler('radius', 'Radius', heights)] },
  sharpen: { label: 'Sharpen', controls: [ruler('strength', 'Strength', share), ruler('radius', 'Radius', heights), ruler('threshold', 'Threshold', { digits: 3 })] },
  glow: { label: 'Glow', controls: [ruler('intensity', 'Intensity', share), ruler('radius', 'Radius', heights), ruler('threshold', 'Threshold', share)] },
  lut: { label: 'Look-up table', controls: [{ type: 'cube', name: 'file' }] },
  insert: {
    label: 'Insert',
    controls: [
      { type: 'footage', name: 'file' },
      ruler('first', 'Shifted', { digits: 0, sign: true, unit: 'frames' }),
      ruler('scale', 'Scale', share),
      ruler('moveX', 'Across', { ...heights, sign: true }),
      ruler('moveY', 'Down', { ...heights, sign: true }),
      { type: 'choice', name: 'ride', label: 'Goes with', words: { frame: 'the frame', area: 'the area' } },
    ],
  },
  legal: { label: 'Legal levels', controls: [ruler('knee', 'Knee', { digits: 1, scale: 100, unit: '%' })] },
};

export const labelOf = (kind: string): string => TOUCHES[kind]?.label ?? kind;

/** A touch that changes nothing yet. */
export function neutral(kind: Kind, id: string, side?: 'inside' | 'outside'): Touch {
  return { id, kind: kind.name, ...(side ? { side } : {}), on: true, amount: 1, ...Object.fromEntries(kind.parameters.map((p) => [p.name, structuredClone(p.neutral)])) };
}

/** Touches that were copied, to be pasted into another area, also in another shot. */
export const useCopiedTouches = () => useLocalStorage<Touch[]>('touches', []);
