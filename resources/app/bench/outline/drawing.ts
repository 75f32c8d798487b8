import type { Pair, PathPoint } from '../../api/types';

/** What can be drawn on the picture, and what it comes to; positions are those of the frame, in picture heights. */
export type Tool = 'ellipse' | 'box' | 'path' | 'edges' | 'spot' | 'take' | 'leave' | 'place';
export type Drawing =
  | { kind: 'ellipse' | 'box'; centre: Pair; radii: Pair }
  | { kind: 'path'; points: PathPoint[] }
  | { kind: 'spot'; at: Pair }
  | { kind: 'place'; at: Pair }
  | { kind: 'sample'; taken: boolean; from: Pair; to: Pair };
