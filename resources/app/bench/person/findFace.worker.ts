/**
 * Finds the landmarks of a face in a picture, off the main thread. The detector and its weights come with the package
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
export type FindAnswer = { landmarks: [number, number][] | null } | { failure: string };

/** Sizes the detector looks at, one after the other until a face is found. */
const SIZES = [416, 608, 320, 224];
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

async function find(pixels: ImageData): Promise<[number, number][] | null> {
  const [detector, net] = await (nets ??= load());
  const whole = tensor(pixels);
  try {
    for (const inputSize of SIZES) {
      const found = await detector.locateFaces(whole, { inputSize, scoreThreshold: 0.3 });
      const best = found.sort((a, b) => b.box.area - a.box.area)[0];
      if (!best) continue;
      const { x, y, width, height } = best.box;
      const left = Math.max(0, Math.floor(x - ROOM * width));
      const top = Math.max(0, Math.floor(y - ROOM * height));
      const right = Math.min(pixels.width, Math.ceil(x + (1 + ROOM) * width));
      const low = Math.min(pixels.height, Math.ceil(y + (1 + ROOM) * height));
      const crop = faceapi.tf.slice3d(whole, [top, left, 0], [low - top, right - left, 3]) as Tensor3D;
      const marks = await net.detectLandmarks(crop);
      crop.dispose();
      const one = Array.isArray(marks) ? marks[0] : marks;
      if (one) return one.positions.map((p) => [left + p.x, top + p.y]);
    }
    return null;
  } finally {
    whole.dispose();
  }
}

self.onmessage = (e: MessageEvent<FindRequest>): void => {
  find(e.data.pixels).then(
    (landmarks) => self.postMessage({ landmarks } satisfies FindAnswer),
    (reason: unknown) => self.postMessage({ failure: reason instanceof Error ? reason.message : String(reason) } satisfies FindAnswer),
  );
};
