import type { ManyWishes } from '../api/types';

/** What is asked for where nobody says otherwise: a lossless master of every frame. */
export const usual = (): ManyWishes => ({ format: 'ffv1', height: null, mattes: null, areas: null, beside: [], burn: false, handles: true, name: '{shot}_r{version}' });

/** Stands for nothing chosen: lists do not show an empty value. */
export const NONE = 'none';
export const HEIGHTS = [{ label: 'As the footage', value: NONE }, ...[360, 540, 720, 1080, 2160].map((rows) => ({ label: `${rows} rows`, value: rows }))];
export const MATTES = [{ label: 'None', value: NONE }, { label: 'PNG 16 bit', value: 'png' }, { label: 'TIFF 16 bit', value: 'tiff' }, { label: 'OpenEXR half', value: 'exr' }];
export const BESIDE = [
  { label: 'Report', value: 'report' },
  { label: 'Recipe', value: 'recipe' },
  { label: 'Tracks, JSON and CSV', value: 'tracks' },
  { label: 'Outlines, SVG', value: 'outlines' },
  { label: 'Base as decision list', value: 'cdl' },
  { label: 'Look as .cube, 33', value: 'cube33' },
  { label: 'Look as .cube, 65', value: 'cube65' },
];
/** Written as it is rendered: neither smaller nor with anything burnt in. */
export const isPlain = (format: string): boolean => format === 'exr';
