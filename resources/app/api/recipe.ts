/** Generated from docs/recipe.schema.json: npm run types */
export type Id = string;
export type MaybeKeyed = number | Keyed;
export type Ease = 'smooth' | 'linear' | 'hold';
export type Join = 'add' | 'cut' | 'keep';
export type Model = 'position' | 'similarity' | 'affine' | 'perspective' | 'relief' | 'outline' | 'iris';
export type Channel = 'position' | 'rotation' | 'scale' | 'shear' | 'perspective';

export interface Recipe {
  cossel: 'recipe/1';
  space: 'bt709';
  source: {
    sha256: string;
    span: [number, number];
    rate: string;
    size: [number, number];
  };
  assets: {
    [k: string]: {
      sha256: string;
      kind: Id;
    };
  };
  base: Touch[];
  areas: Area[];
  finish: Touch[];
}
export interface Touch {
  id: Id;
  /**
   * exposure, tone, cdl, colour, trim, balance, curves, hues, sidelight, even, whiten, iris, conceal, match, grain, blur, sharpen, glow, lut, insert, legal
   */
  kind: string;
  side?: 'inside' | 'outside';
  on: boolean;
  amount: MaybeKeyed;
  [k: string]: unknown;
}
export interface Keyed {
  value: number;
  keys: NumberKey[];
}
export interface NumberKey {
  frame: number;
  value: number;
  ease?: Ease;
}
export interface Area {
  id: Id;
  name: string;
  part: Id;
  person: null | Id;
  on: boolean;
  outline: {
    at: number;
    invert: boolean;
    shapes: (Ellipse | Box | Path | People | AreaShape)[];
  };
  motion: Motion;
  pick: null | Pick;
  live: {
    from: number;
    to: number;
    fadeIn: number;
    fadeOut: number;
  };
  strength: MaybeKeyed;
  blinkGuard: {
    on: boolean;
    keys: NumberKey[];
  };
  pair: null | {
    with: Id;
    linked: boolean;
  };
  touches: Touch[];
}
export interface Ellipse {
  id: Id;
  kind: 'ellipse';
  join: Join;
  motion: null | Motion;
  centre: [number, number];
  radii: [number, number];
  turn: number;
  featherIn: number;
  featherOut: number;
  grow: number;
  opacity: number;
  keys: ShapeKey[];
}
export interface Motion {
  by: 'none' | 'follow' | 'ride';
  start?: number;
  span?: [number, number];
  model?: Model;
  look?: OutlineLook | SpotsLook;
  use: Channel[];
  pivot: [number, number];
  track?: null | {
    sha256: string;
  };
  on?: Id;
  keys: MotionKey[];
}
export interface OutlineLook {
  by: 'outline';
  margin: number;
}
export interface SpotsLook {
  by: 'spots';
  spots: [number, number][];
  radius: number;
}
export interface MotionKey {
  frame: number;
  ease?: Ease;
  move: [number, number];
  turn: number;
  scale: number;
  shear: number;
}
export interface ShapeKey {
  frame: number;
  ease?: Ease;
  centre?: [number, number];
  radii?: [number, number];
  turn?: number;
  featherIn?: number;
  featherOut?: number;
  grow?: number;
  opacity?: number;
  round?: number;
  points?: PathPoint[];
}
export interface PathPoint {
  at: [number, number];
  in: [number, number];
  out: [number, number];
}
export interface Box {
  id: Id;
  kind: 'box';
  join: Join;
  motion: null | Motion;
  centre: [number, number];
  radii: [number, number];
  turn: number;
  round: number;
  featherIn: number;
  featherOut: number;
  grow: number;
  opacity: number;
  keys: ShapeKey[];
}
export interface Path {
  id: Id;
  kind: 'path';
  join: Join;
  motion: null | Motion;
  points: PathPoint[];
  featherIn: number;
  featherOut: number;
  grow: number;
  opacity: number;
  keys: ShapeKey[];
}
export interface People {
  id: Id;
  kind: 'people';
  join: Join;
  place: null | [number, number];
  featherIn: number;
  featherOut: number;
  grow: number;
  opacity: number;
  keys: ShapeKey[];
}
export interface AreaShape {
  id: Id;
  kind: 'area';
  join: Join;
  of: Id;
  opacity: number;
  keys: ShapeKey[];
}
export interface Pick {
  space: 'oklch';
  samples: Sample[];
  hue: [number, number, number];
  chroma: [number, number, number];
  light: [number, number, number];
  follow: null | number;
  clean: {
    specks: number;
    holes: number;
  };
  blur: number;
  invert: boolean;
}
export interface Sample {
  frame: number;
  at: [number, number];
  rgb: [number, number, number];
  sign: '+' | '-';
}
