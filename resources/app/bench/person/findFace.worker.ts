/**
 * Finds the landmarks of all faces in a picture, off the main thread. The detector and its weights come with the package
 * and are only loaded when somebody asks.
 */
import plain from '@tensorflow/tfjs-backend-wasm/wasm-out/tfjs-backend-wasm.wasm?url';
import simd from '@tensorflow/tfjs-backend-wasm/wasm-out/tfjs-backend-wasm-simd.wasm?url';
import * as faceapi from '@vladmandic/face-api';
import detectorWeights from '@vladmandic/face-api/model/tiny_face_detector_model.bin?url';
import detectorManifest from '@vladmandic/face-api/model/tiny_face_detector_model-weights_manifest.json';
import landmarkWeights from '@vladmandic/face-api/model/face_landmark_68_model.bin?url';
import landmarkManifest from '@vladmandic/face-api/model/face_landmark_68_model-weights_manifest.json';

type NamedTensorMap = Parameters<faceapi.TinyFaceDetector['loadFromWeightMap']>[0];
type Tensor3D = ReturnType<typeof faceapi.tf.tensor3d>;

export interface FindRequest { pixels: ImageData }
export type FindAnswer = { faces: [number, number][][] } | { failure: string };

/** Sizes the detector looks at: the first two always, far faces being found in the one and near ones in the other; the others where these find none. */
const SIZES = [[416, 608], [320], [224]];
/** Turns of the picture, degrees, that are tried where nobody is found upright. */
const TURNS = [35, -35, 80, -80];
/** Two finds that share more of what they cover together are one face. */
const SAME = 0.3;
const MOST = 8;
/** A face tilted by less than this counts as upright, radians. */
const UPRIGHT = 0.09;
/** Room round a detected face, as the landmark net was taught with. */
const ROOM = 0.08;

type Manifest = { weights: { name: string; shape: number[]; dtype: string; quantization?: object }[] }[];

async function weights(url: string, manifest: unknown): Promise<NamedTensorMap> {
  const bytes = await (await fetch(url)).arrayBuffer();
  const io = faceapi.tf.io as unknown as { decodeWeights: (bytes: ArrayBuffer, specs: unknown) => NamedTensorMap };
  return io.decodeWeights(bytes, (manifest as Manifest).flatMap((group) => group.weights));
}

let nets: Promise<[faceapi.TinyFaceDetector, faceapi.FaceLandmark68Net]> | null = null;

/** The package asks for the classes of a page, which a worker has under other names. */
function settle(): void {
  // Nothing a worker is given is an image or a video element.
  const None = OffscreenCanvas.bind(null, 1, 1);
  faceapi.env.setEnv({
    Canvas: OffscreenCanvas,
    CanvasRenderingContext2D: OffscreenCanvasRenderingContext2D,
    Image: None,
    ImageData,
    Video: None,
    createCanvasElement: () => new OffscreenCanvas(1, 1),
    createImageElement: () => new None(),
    createVideoElement: () => new None(),
    fetch: (url: string) => fetch(url),
    readFile: () => Promise.reject(new Error('No files here.')),
  } as unknown as Parameters<typeof faceapi.env.setEnv>[0]);
}

async function load(): Promise<[faceapi.TinyFaceDetector, faceapi.FaceLandmark68Net]> {
  settle();
  const tf = faceapi.tf as unknown as { setBackend: (name: string) => Promise<boolean>; setWasmPaths: (paths: Record<string, string>) => void; ready: () => Promise<void> };
  // One thread: several need pages that share memory, which ours does not.
  tf.setWasmPaths({ 'tfjs-backend-wasm.wasm': plain, 'tfjs-backend-wasm-simd.wasm': simd, 'tfjs-backend-wasm-threaded-simd.wasm': simd });
  if (!(await tf.setBackend('wasm').catch(() => false))) await tf.setBackend('cpu');
  await tf.ready();
  const detector = new faceapi.TinyFaceDetector();
  const net = new faceapi.FaceLandmark68Net();
  detector.loadFromWeightMap(await weights(detectorWeights, detectorManifest));
  net.loadFromWeightMap(await weights(landmarkWeights, landmarkManifest));
  return [detector, net];
}

function tensor({ data, width, height }: ImageData): Tensor3D {
  const rgb = new Float32Array(width * height * 3);
  for (let i = 0, k = 0; i < data.length; i += 4) {
    rgb[k++] = data[i] as number;
    rgb[k++] = data[i + 1] as number;
    rgb[k++] = data[i + 2] as number;
  }
  return faceapi.tf.tensor3d(rgb, [height, width, 3]) as Tensor3D;
}

type Mark = [number, number];
type Box = { x: number; y: number; width: number; height: number };

function shared(a: Box, b: Box): number {
  const across = Math.max(0, Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x));
  const along = Math.max(0, Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y));
  return (across * along) / (a.width * a.height + b.width * b.height - across * along);
}

/** Where faces are in the picture, the surest of those that lie on each other. */
async function boxes(detector: faceapi.TinyFaceDetector, whole: Tensor3D): Promise<Box[]> {
  for (const sizes of SIZES) {
    const found = [];
    for (const inputSize of sizes) found.push(...(await detector.locateFaces(whole, { inputSize, scoreThreshold: 0.3 })));
    const kept: Box[] = [];
    for (const { box } of found.sort((a, b) => b.score - a.score)) if (kept.every((other) => shared(box, other) < SAME)) kept.push(box);
    if (kept.length) return kept.slice(0, MOST);
  }
  return [];
}

async function landmarks(net: faceapi.FaceLandmark68Net, crop: Tensor3D): Promise<Mark[] | null> {
  const found = await net.detectLandmarks(crop);
  crop.dispose();
  const one = Array.isArray(found) ? found[0] : found;
  return one ? one.positions.map((p): Mark => [p.x, p.y]) : null;
}

/** The net knows upright faces best: a tilted one is turned upright, by its own eyes, and looked at again. */
async function righted(net: faceapi.FaceLandmark68Net, pixels: ImageData, found: Mark[]): Promise<Mark[]> {
  const middle = (from: number, to: number): Mark => [0, 1].map((i) => found.slice(from, to).reduce((sum, p) => sum + (p[i] as number), 0) / (to - from)) as Mark;
  const [right, left] = [middle(36, 42), middle(42, 48)];
  const tilt = Math.atan2(left[1] - right[1], left[0] - right[0]);
  if (Math.abs(tilt) < UPRIGHT) return found;
  const [cx, cy] = middle(0, 68);
  const size = Math.ceil(1.7 * Math.max(...found.map(([x, y]) => Math.hypot(x - cx, y - cy))));
  const [c, s] = [Math.cos(tilt), Math.sin(tilt)];
  const flat = new OffscreenCanvas(pixels.width, pixels.height);
  (flat.getContext('2d') as OffscreenCanvasRenderingContext2D).putImageData(pixels, 0, 0);
  const g = new OffscreenCanvas(size, size).getContext('2d') as OffscreenCanvasRenderingContext2D;
  g.setTransform(c, -s, s, c, size / 2 - c * cx - s * cy, size / 2 + s * cx - c * cy);
  g.drawImage(flat, 0, 0);
  const again = await landmarks(net, tensor(g.getImageData(0, 0, size, size)));
  return again?.map(([x, y]): Mark => [cx + c * (x - size / 2) - s * (y - size / 2), cy + s * (x - size / 2) + c * (y - size / 2)]) ?? found;
}

async function marks(pixels: ImageData): Promise<Mark[][]> {
  const [detector, net] = await (nets ??= load());
  const whole = tensor(pixels);
  const faces: Mark[][] = [];
  try {
    for (const { x, y, width, height } of await boxes(detector, whole)) {
      const left = Math.max(0, Math.floor(x - ROOM * width));
      const top = Math.max(0, Math.floor(y - ROOM * height));
      const right = Math.min(pixels.width, Math.ceil(x + (1 + ROOM) * width));
      const low = Math.min(pixels.height, Math.ceil(y + (1 + ROOM) * height));
      if (right - left < 16 || low - top < 16) continue;
      const crop = faceapi.tf.slice3d(whole, [top, left, 0], [low - top, right - left, 3]) as Tensor3D;
      const found = await landmarks(net, crop);
      if (found) faces.push(await righted(net, pixels, found.map(([u, v]) => [left + u, top + v])));
    }
    return faces;
  } finally {
    whole.dispose();
  }
}

/** The picture turned about its middle, within a square that holds it at every angle. */
function turned(pixels: ImageData, degrees: number): { pixels: ImageData; back: (p: Mark) => Mark } {
  const { width, height } = pixels;
  const side = Math.ceil(Math.hypot(width, height));
  const flat = new OffscreenCanvas(width, height);
  (flat.getContext('2d') as OffscreenCanvasRenderingContext2D).putImageData(pixels, 0, 0);
  const g = new OffscreenCanvas(side, side).getContext('2d') as OffscreenCanvasRenderingContext2D;
  const angle = (degrees * Math.PI) / 180;
  g.translate(side / 2, side / 2);
  g.rotate(angle);
  g.drawImage(flat, -width / 2, -height / 2);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return {
    pixels: g.getImageData(0, 0, side, side),
    back: ([x, y]) => [c * (x - side / 2) + s * (y - side / 2) + width / 2, c * (y - side / 2) - s * (x - side / 2) + height / 2],
  };
}

async function find(pixels: ImageData): Promise<Mark[][]> {
  const upright = await marks(pixels);
  if (upright.length) return upright;
  for (const degrees of TURNS) {
    const one = turned(pixels, degrees);
    const faces = await marks(one.pixels);
    if (faces.length) return faces.map((face) => face.map(one.back));
  }
  return [];
}

self.onmessage = (e: MessageEvent<FindRequest>): void => {
  find(e.data.pixels).then(
    (faces) => self.postMessage({ faces } satisfies FindAnswer),
    (reason: unknown) => self.postMessage({ failure: reason instanceof Error ? reason.message : String(reason) } satisfies FindAnswer),
  );
};
