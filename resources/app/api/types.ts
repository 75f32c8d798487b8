/** The shapes that go over the wire. Those of the recipe are generated from its schema; docs/recipe.md describes it. */
import type { Area, AreaShape, Box, Ellipse, OutlineLook, Path, PathPoint, People, Recipe, SpotsLook, Touch } from './recipe';

export type { Area, AreaShape, Box, Channel, Ease, Ellipse, Join, Keyed, MaybeKeyed, Model, Motion, MotionKey, NumberKey, Path, PathPoint, People, Pick as ColourPick, Recipe, Sample, ShapeKey, Touch } from './recipe';

export type Pair = [number, number];
export type Triple = [number, number, number];

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
export type DrawnShape = Ellipse | Box | Path;
export type Shape = DrawnShape | AreaShape | People;
export type Look = OutlineLook | SpotsLook;

/** Somebody seen on a frame: round what (left, top, width, height in picture heights), the areas proposed, and why some should not be taken unseen. */
export interface FoundPerson {
  /** Whom of the job it may be. */
  alike: { person: string; by: 'face' | 'colours' } | null;
  /** A face; false where only eyes are seen. */
  whole: boolean;
  box: [number, number, number, number];
  areas: Area[];
  /** Those of them that are parts of the skin by name, taken when somebody asks for them. */
  more: string[];
  doubts: Partial<Record<string, string>>;
  /** Frames of the shot that show teeth, and open eyes, best; null where none does, or none was looked at yet. */
  best: { teeth: number | null; eyes: number | null };
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

/** The recipe of a shot and where it stands in its history; `judged` are the areas somebody has ticked as such. */
export interface RecipeState { revision: number; parent: number | null; undo: string | null; redo: string | null; judged: string[]; recipe: Recipe }

/** A line of a shot's history. */
export interface Revision { revision: number; parent: number | null; label: string; createdAt: string }

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
  /** What is missing of it or torn, in sentences. */
  damage: string[];
}

export interface AreaProgress {
  id: string;
  name: string;
  person: string | null;
  part: string;
  on: boolean;
  outline: boolean;
  follow: boolean;
  pick: boolean;
  treat: boolean;
  judge: boolean;
}
export interface Progress { base: number; finish: number; areas: AreaProgress[]; telltales: { telltale: string; area: string | null; frame: number }[]; left: string; done: boolean }

export interface Shot {
  id: number;
  jobId: number;
  job: string;
  name: string;
  notes: string;
  archived: boolean;
  openNotes: number;
  /** Missing is what the cut asks for and is not here. */
  state: 'reading' | 'ready' | 'doubtful' | 'failed' | 'missing';
  error: string | null;
  /** Reading its file broke off, and the file is still there. */
  canBeReadAgain: boolean;
  from: number;
  to: number;
  revision: number;
  footage: Footage | null;
  cut: CutPlace | null;
  progress: Progress | null;
  following: number;
}

export interface Person { slug: string; name: string }
export interface Job { id: number; name: string; people: Person[]; shots: Shot[] }
/** A job in the list of all: how many shots it has, how many are left to do, and some that stand for it. */
export interface JobRow { id: number; name: string; people: Person[]; shots: number; left: number; posters: Pick<Shot, 'id' | 'revision'>[] }

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
  /** Common to all follows of a person that were begun at once. */
  person: string | null;
}

/** A format; there is whether this machine's ffmpeg can write it. */
export interface Format { name: string; label: string; purpose: string; there: boolean }
/** What is wished of a delivery besides its frames. */
export interface Wishes {
  format: string;
  /** Rows of the pictures; null for the footage's own. */
  height: number | null;
  /** What mattes are written as; null for none. */
  mattes: string | null;
  /** Areas whose mattes are written; null for all. */
  areas: string[] | null;
  beside: string[];
  burn: boolean;
}
export interface ManyWishes extends Wishes { handles: boolean; name: string }
/** A way of delivering that a job keeps. */
export interface Preset { id: number; title: string; order: ManyWishes }
/** A treatment that a job keeps. */
export interface KeptTreatment { id: number; title: string; areas: string[]; base: boolean; finish: boolean }
/** Something asked for on a frame. */
export interface FrameNote { id: number; shotId: number; frame: number; text: string; resolved: boolean; createdAt: string | null }
/** What an area looks like: Oklab and how far its lights are from its shadows, and the counts of a vectorscope of 96 x 96, enlarged twice. */
export interface AreaLook { mean: Triple; contrast: number; cloud: number[] }
/** An area and its like in another shot; apart is CIEDE2000. */
export interface Alike { area: string; name: string; other: string; here: AreaLook; there: AreaLook; apart: number }
/** What lies in a folder of the server. */
export interface ServerFile { name: string; path: string; kind: 'folder' | 'film' | 'sequence'; bytes: number }
/** A file on its way in; told is what has become of a bundle. */
export interface Upload { id: string; received: number; size: number; told: { state: 'reading' | 'done' | 'failed'; message?: string; job?: number; told?: string[]; done?: number; of?: number } | null }

export interface Delivery {
  id: number;
  shotId: number;
  shot: string;
  jobId: number;
  job: string;
  format: string;
  formatLabel: string;
  state: 'rendering' | 'paused' | 'finishing' | 'done' | 'cancelled' | 'failed';
  from: number;
  to: number;
  revision: number;
  frames: number;
  done: number;
  file: string | null;
  /** A zip of what else was wished, once it is done. */
  beside: string | null;
  bytes: number | null;
  /** Of the file, once it is done. */
  sha256: string | null;
  error: string | null;
  createdAt: string | null;
}

export type View = 'result' | 'original' | 'base' | 'matte' | 'tint' | 'picked' | 'difference' | 'without';

export interface PictureRequest {
  /** Left out for the recipe as it is saved. */
  recipe?: Recipe;
  frame: number;
  view: View;
  area?: string | null;
  height: number;
  window?: [number, number, number, number];
  /** The revision whose picture stands already: only where this one differs from it is made. */
  standing?: number;
  /** Rows of a picture that is sent instead, where it is kept already. */
  full?: number;
  /** An earlier revision instead of the present one. */
  revision?: number;
  /** How strongly a difference is shown, 1 to 16. */
  gain?: number;
}

/** A kept state of a shot's treatment. */
export interface Version { id: number; name: string; revision: number; createdAt: string }

/** What one tell-tale says of an area, or of the whole frame, over the shot. */
export interface Finding {
  telltale: string;
  sentence: string;
  /** What the footage has of it untreated. */
  before: string | null;
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
  measures: Pair[];
}
/** Another shot that something can be carried to; apart is how far its light is from this one's, CIEDE2000. */
export interface CarryTarget { id: number; name: string; knows: boolean; likely: boolean; apart: number }
/** A shot that probably shows somebody, and the frame they are seen on first. */
export interface LikelyShot { shot: number; frame: number }
/** What is done in one shot carried to another. */
export interface Carry {
  id: number;
  batch: string;
  shot: { id: number; name: string };
  state: 'waiting' | 'working' | 'proposed' | 'taken' | 'left' | 'failed';
  message: string | null;
  /** What was done only so, or not: sentences without their stops. */
  words: string[];
  /** How far parts were off what they are to look like, and are: CIEDE2000. */
  misses: { name: string; before: number; after: number }[];
  frame: number | null;
}
/** Touches are ids of those that are carried; null for all. */
export interface CarryOrder { areas: string[]; touches: string[] | null; base: boolean; finish: boolean; replace: boolean; match: boolean; shots: number[] }
/** The event of the cut that a shot is: first and last frame in its footage. */
export interface CutPlace { number: number; in: number; out: number; retired: boolean; told: string[] }
export interface Telltales { revision: number; begun: boolean; done: number; total: number; message: string | null; findings: Finding[] | null }
/** With the measure it comes to where it was tried; over the limit it is the best that can be done. */
export interface Cure { words: string; recipe: Recipe | null; followFrom: number | null; measure: number | null }

/** What the picture is compared with; a number is a kept version. */
export type Against = 'original' | 'base' | 'without' | `shot ${number}` | number;

export type ScopeName = 'waveform' | 'parade' | 'vectorscope' | 'histogram';
export interface Scope { scope: ScopeName; columns: number; rows: number; from: number; to: number; counts: number[][] }
export interface ScopeRequest extends PictureRequest { scope: ScopeName; limited: boolean; zoom: number }

/** Background work that was given up. */
export interface Failure { id: number; what: string; shot: { id: number; name: string } | null; reason: string; at: string | null }

/** How the system stands. */
export interface Upkeep {
  /** What takes room; what is spare may be thrown away at any time. */
  disk: { name: string; bytes: number; spare: boolean }[];
  free: number;
  queues: { name: string; waiting: number; doing: number }[];
  programs: { name: string; runs: boolean; since: number; said: string }[];
  troubles: string[];
  jail: string;
  versions: Record<string, string>;
  backup: { place: string; made: string; files: number; bytes: number } | null;
  failures: Failure[];
}
