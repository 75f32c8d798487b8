/** The shapes that go over the wire; docs/recipe.md describes the recipe. */

export type Pair = [number, number];
export type Ease = 'smooth' | 'linear' | 'hold';
export interface NumberKey { frame: number; value: number; ease?: Ease }
export interface Keyed { value: number; keys: NumberKey[] }
export type MaybeKeyed = number | Keyed;

export interface Touch {
  id: string;
  kind: string;
  side?: 'inside' | 'outside';
  on: boolean;
  amount: MaybeKeyed;
  [parameter: string]: unknown;
}

export type Join = 'add' | 'cut' | 'keep';
export interface PathPoint { at: Pair; in: Pair; out: Pair }

/** The values of a shape that keyframes may set; which of them a shape has depends on its kind. */
export interface ShapeValues {
  centre: Pair;
  radii: Pair;
  turn: number;
  round: number;
  points: PathPoint[];
  featherIn: number;
  featherOut: number;
  grow: number;
  opacity: number;
}
export type ShapeKey = { frame: number; ease?: Ease } & Partial<ShapeValues>;

interface Drawn extends Pick<ShapeValues, 'featherIn' | 'featherOut' | 'grow' | 'opacity'> {
  id: string;
  join: Join;
  keys: ShapeKey[];
  motion: Motion | null;
}
export interface Ellipse extends Drawn, Pick<ShapeValues, 'centre' | 'radii' | 'turn'> { kind: 'ellipse' }
export interface Box extends Drawn, Pick<ShapeValues, 'centre' | 'radii' | 'turn' | 'round'> { kind: 'box' }
export interface Path extends Drawn, Pick<ShapeValues, 'points'> { kind: 'path' }
export interface AreaShape { id: string; kind: 'area'; join: Join; of: string; opacity: number; keys: ShapeKey[] }
export type DrawnShape = Ellipse | Box | Path;
export type Shape = DrawnShape | AreaShape;

export type Model = 'position' | 'similarity' | 'affine' | 'perspective' | 'outline' | 'iris';
export type Channel = 'position' | 'rotation' | 'scale' | 'shear' | 'perspective';
export type Look = { by: 'outline'; margin: number } | { by: 'spots'; spots: Pair[]; radius: number };
export interface MotionKey { frame: number; move: Pair; turn: number; scale: number; shear: number; ease?: Ease }

export interface Motion {
  by: 'none' | 'follow' | 'ride';
  start?: number;
  span?: Pair;
  model?: Model;
  look?: Look;
  use: Channel[];
  pivot: Pair;
  track?: { sha256: string } | null;
  on?: string;
  keys: MotionKey[];
}

export type Triple = [number, number, number];
export interface Sample { frame: number; at: Pair; rgb: Triple; sign: '+' | '-' }

export interface ColourPick {
  space: 'oklch';
  samples: Sample[];
  hue: Triple;
  chroma: Triple;
  light: Triple;
  follow: number | null;
  clean: { specks: number; holes: number };
  blur: number;
  invert: boolean;
}

/** Where an area's colours lie: shares of the peak over hue (0..360), chroma (0..0.3) and lightness (0..1); counts of levels 0..1. */
export interface AreaColours {
  mean: Triple;
  middle: Triple;
  shares: Record<'hue' | 'chroma' | 'light', number[]>;
  levels: Record<'luma' | 'red' | 'green' | 'blue', number[]>;
  balance: { temperature: number; tint: number };
}

export interface StartingPoint { name: string; hint: string; where: 'area' | 'frame'; parts: string[]; touches: (Partial<Touch> & { kind: string })[] }

export interface Outline { at: number; invert: boolean; shapes: Shape[] }

export interface Area {
  id: string;
  name: string;
  part: string;
  person: string | null;
  on: boolean;
  outline: Outline;
  motion: Motion;
  pick: ColourPick | null;
  live: { from: number; to: number; fadeIn: number; fadeOut: number };
  strength: MaybeKeyed;
  blinkGuard: { on: boolean; keys: NumberKey[] };
  pair: { with: string; linked: boolean } | null;
  touches: Touch[];
}

export interface Recipe {
  cossel: 'recipe/1';
  space: string;
  source: { sha256: string; span: Pair; rate: string; size: Pair };
  assets: Record<string, { sha256: string; kind: string }>;
  base: Touch[];
  areas: Area[];
  finish: Touch[];
}

export interface RecipeState { revision: number; parent: number | null; undo: string | null; redo: string | null; recipe: Recipe }

export interface NumberParameter { type: 'number'; name: string; least: number; most: number; neutral: number; unit: string }
export interface ChoiceParameter { type: 'choice'; name: string; words: string[]; neutral: string }
export interface PointsParameter { type: 'points'; name: string; x: Pair; y: Pair; neutral: [] }
export interface AssetParameter { type: 'asset'; name: string; kind: 'cube' | 'footage'; neutral: null }
export type Parameter = NumberParameter | ChoiceParameter | PointsParameter | AssetParameter;
/** What a touch may be; `inArea` acts inside areas only, `last` stands only at the end of the finish. */
export interface Kind { name: string; inArea: boolean; last: boolean; parameters: Parameter[] }

export interface Footage {
  name: string;
  sha256: string;
  width: number;
  height: number;
  rate: string;
  fps: number;
  variable: boolean;
  frames: number;
  codec: string;
  pixelFormat: string;
  bits: number;
  tags: Record<string, string>;
  timecode: string | null;
  audio: { codec: string; channels: number; rate: number } | null;
  notes: string[];
}

export interface AreaProgress {
  id: string;
  name: string;
  person: string | null;
  on: boolean;
  outline: boolean;
  follow: boolean;
  pick: boolean;
  treat: boolean;
  judge: boolean;
}

export interface Shot {
  id: number;
  jobId: number;
  job: string;
  name: string;
  notes: string;
  state: 'reading' | 'ready' | 'failed';
  error: string | null;
  from: number;
  to: number;
  revision: number;
  footage: Footage | null;
  progress: { base: number; finish: number; areas: AreaProgress[]; telltales: { telltale: string; area: string | null; frame: number }[]; left: string } | null;
  following: number;
}

export interface Job { id: number; name: string; people: { slug: string; name: string }[]; shots: Shot[] }

/** Where an area's shapes are on each frame: a matrix of their own, and the shifts of path points followed on their own. */
export interface ShapeMotions { matrices?: number[][]; shifts?: Record<number, number[][]> }

export interface Motions {
  from: number;
  areas: Record<string, { matrices: number[][]; confidence: (number | null)[]; states: (string | null)[]; open: (number | null)[]; shapes: Record<string, ShapeMotions> }>;
}

export interface Follow {
  id: number;
  area: string;
  shape: string | null;
  state: 'waiting' | 'following' | 'done' | 'stopped' | 'failed';
  start: number;
  from: number;
  to: number;
  steps: [number, number, string][];
  message: string | null;
}

export interface Format { name: string; label: string; purpose: string }

export interface Delivery {
  id: number;
  shotId: number;
  shot: string;
  jobId: number;
  job: string;
  format: string;
  formatLabel: string;
  state: 'rendering' | 'finishing' | 'done' | 'cancelled' | 'failed';
  from: number;
  to: number;
  revision: number;
  frames: number;
  done: number;
  file: string | null;
  bytes: number | null;
  error: string | null;
  createdAt: string | null;
}

export type View = 'result' | 'original' | 'base' | 'matte' | 'tint' | 'picked' | 'difference' | 'without';

export interface PictureRequest {
  /** Left out for the saved revision. */
  recipe?: Recipe;
  frame: number;
  view: View;
  area?: string | null;
  height: number;
  window?: [number, number, number, number];
  reach?: boolean;
  /** A kept version instead of the present recipe. */
  version?: number;
  /** How strongly a difference is shown, 1 to 16. */
  gain?: number;
}

/** A kept state of a shot's treatment. */
export interface Version { id: number; name: string; revision: number; createdAt: string }

/** What one tell-tale says of an area, or of the whole frame, over the shot. */
export interface Finding {
  telltale: string;
  sentence: string;
  unit: string;
  /** null is the whole frame. */
  area: string | null;
  limit: number;
  /** The limit unless somebody sets another. */
  usual: number;
  most: number;
  measure: number;
  /** The frame with the greatest measure. */
  worst: number;
  rings: boolean;
  /** Frames over the limit. */
  spans: Pair[];
  measures: [number, number][];
}
export interface Telltales { revision: number; begun: boolean; done: number; total: number; message: string | null; findings: Finding[] | null }
export interface Cure { words: string; recipe: Recipe | null; followFrom: number | null }

/** What the picture is compared with; a number is a kept version. */
export type Against = 'original' | 'base' | 'without' | `shot ${number}` | number;

export type ScopeName = 'waveform' | 'parade' | 'vectorscope' | 'histogram';
export interface Scope { scope: ScopeName; columns: number; rows: number; from: number; to: number; counts: number[][] }
export interface ScopeRequest extends PictureRequest { scope: ScopeName; limited: boolean }
