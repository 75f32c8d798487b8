import type { Alike, Area, AreaColours, Carry, CarryOrder, CarryTarget, ColourPick, Cure, Delivery, Follow, Format, FoundPerson, FrameNote, Job, JobRow, KeptTreatment, Kind, LikelyShot, ManyWishes, Motions, Pair, PathPoint, PictureRequest, Preset, Recipe, RecipeState, Revision, Scope, ScopeRequest, ServerFile, Shot, StartingPoint, Telltales, Triple, Upkeep, Upload, Version, Wishes } from './types';

/** A request the server refused, with its sentence; status 0 when it could not be reached at all. */
export class ApiError extends Error {
  constructor(readonly status: number, message: string, readonly pointer: string | null = null, /** Seconds after which the same may be asked again, where the answer is only not known yet. */ readonly again: number | null = null) {
    super(message);
  }

  /** Not about the request: the server could not be reached or broke down, and the same may go well later. */
  get transient(): boolean {
    return this.status === 0 || this.status >= 500;
  }
}

/** Names this window, so that the pictures of each are made in turns with those of others. */
const BENCH = Math.random().toString(36).slice(2, 12);

async function send(method: string, path: string, body?: BodyInit | null, type?: string, signal?: AbortSignal): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: { Accept: 'application/json', 'X-Bench': BENCH, ...(type ? { 'Content-Type': type } : {}) },
      body: body ?? null,
      signal: signal ?? null,
    });
  } catch (reason) {
    if (reason instanceof DOMException && reason.name === 'AbortError') throw reason;
    throw new ApiError(0, 'The server cannot be reached. Is it still running?');
  }
  if (response.ok) return response;
  let message = `The server answered ${response.status}.`;
  let pointer: string | null = null;
  try {
    const answer = (await response.json()) as { message?: string; pointer?: string };
    message = answer.message ?? message;
    pointer = answer.pointer ?? null;
  } catch {
    // Not JSON: the status says enough.
  }
  const again = response.headers.get('Retry-After');
  throw new ApiError(response.status, message, pointer, again === null ? null : Number(again));
}

/** What an answer holds; one that breaks off is as good as none. */
async function whole<T>(read: Promise<T>): Promise<T> {
  try {
    return await read;
  } catch (reason) {
    if (reason instanceof ApiError || (reason instanceof DOMException && reason.name === 'AbortError')) throw reason;
    throw new ApiError(0, 'The server broke off in the middle of its answer.');
  }
}

async function json<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const response = await send(method, path, body === undefined ? null : JSON.stringify(body), body === undefined ? undefined : 'application/json', signal);
  return (response.status === 204 ? undefined : await whole(response.json())) as T;
}

async function blob(path: string, body: unknown, signal?: AbortSignal): Promise<{ file: Blob; headers: Headers }> {
  const response = await send('POST', path, JSON.stringify(body), 'application/json', signal);
  return { file: await whole(response.blob()), headers: response.headers };
}

/** Resource collections come wrapped. */
async function list<T>(path: string): Promise<T[]> {
  const answer = await json<T[] | { data: T[] }>('GET', path);
  return Array.isArray(answer) ? answer : answer.data;
}

export interface Picture {
  image: ImageBitmap;
  /** Where it lies, in picture heights: left, top, width, height. */
  place: [number, number, number, number];
}

/** A picture as it is sent: without bytes where it differs from what stands nowhere. */
export interface Sent {
  file: Blob;
  place: Picture['place'];
  /** Whether it is of all that was asked for, not only of where that differs from what stands. */
  whole: boolean;
}

/** What is sent counts pixels: the picture's rectangle, then the whole. */
function sentAs(file: Blob, told: string, request: Omit<PictureRequest, 'frame'>): Sent {
  const [x = 0, y = 0, w = 1, h = 1, wholeWidth = 1, wholeHeight = 1] = told.split(' ').map(Number);
  const [left, top, right, bottom] = (request.window ?? [0, 0, Infinity, Infinity]).map((edge) => edge * wholeHeight) as [number, number, number, number];
  const covers = x <= Math.ceil(left) && y <= Math.ceil(top) && x + w >= Math.floor(Math.min(right, wholeWidth)) && y + h >= Math.floor(Math.min(bottom, wholeHeight));
  return { file, place: [x / wholeHeight, y / wholeHeight, w / wholeHeight, h / wholeHeight], whole: request.standing === undefined || (covers && file.size > 0) };
}

/** What comes in, cut into lines and pieces of known length. */
async function* cut(body: ReadableStream<Uint8Array<ArrayBuffer>>): AsyncGenerator<{ line: string; piece: (bytes: number) => Promise<Blob> }> {
  const reader = body.getReader();
  let held = new Uint8Array(0);
  const more = async (): Promise<boolean> => {
    const { done, value } = await reader.read();
    if (done) return false;
    const joined = new Uint8Array(held.length + value.length);
    joined.set(held);
    joined.set(value, held.length);
    held = joined;
    return true;
  };
  const take = (bytes: number): Uint8Array<ArrayBuffer> => {
    const taken = held.slice(0, bytes);
    held = held.slice(bytes);
    return taken;
  };
  const piece = async (bytes: number): Promise<Blob> => {
    while (held.length < bytes) if (!(await more())) throw new Error('broken off');
    return new Blob([take(bytes)], { type: 'image/jpeg' });
  };
  for (;;) {
    let end = held.indexOf(10);
    while (end < 0) {
      if (!(await more())) {
        if (held.length > 0) throw new Error('broken off');
        return;
      }
      end = held.indexOf(10);
    }
    yield { line: new TextDecoder().decode(take(end + 1)), piece };
  }
}

/** Asks for something of several frames; each is taken as it comes in. */
async function stream<T>(path: string, request: { frames: number[] }, take: (told: T, file: Blob) => void, signal?: AbortSignal): Promise<void> {
  const response = await send('POST', path, JSON.stringify(request), 'application/json', signal);
  await whole((async () => {
    let left = request.frames.length;
    for await (const { line, piece } of cut(response.body as ReadableStream<Uint8Array<ArrayBuffer>>)) {
      const told = JSON.parse(line) as (T & { bytes: number }) | { message: string };
      if ('message' in told) throw new ApiError(422, told.message);
      take(told, await piece(told.bytes));
      --left;
    }
    if (left > 0) throw new Error('broken off');
  })());
}

export const api = {
  kinds: () => list<Kind>('/kinds'),
  formats: () => json<Format[]>('GET', '/formats'),

  jobs: () => list<JobRow>('/jobs'),
  job: (id: number) => json<Job>('GET', `/jobs/${id}`),
  addJob: (name: string) => json<Job>('POST', '/jobs', { name }),
  renameJob: (id: number, name: string) => json<Job>('PUT', `/jobs/${id}`, { name }),
  removeJob: (id: number) => json<undefined>('DELETE', `/jobs/${id}`),
  face: (shot: number, person: string, beside: number | null) => json<{ area: string | null; frame: number | null; apart: number | null }>('GET', `/shots/${shot}/faces/${person}${beside === null ? '' : `?beside=${beside}`}`),
  likely: (job: number, person: string) => json<LikelyShot[]>('GET', `/jobs/${job}/people/${person}/likely`),
  faceUrl: (shot: Shot, person: string) => `/api/shots/${shot.id}/faces/${person}/picture?r=${shot.revision}`,
  takeCut: (upload: string, how: { rate: string; handles: number }) => json<Upload>('POST', `/uploads/${upload}/cut`, how),
  cutUrl: (job: number, form: 'otio' | 'edl') => `/api/jobs/${job}/cut.${form}`,
  orderShots: (job: number, shots: number[]) => json<Job>('PUT', `/jobs/${job}/order`, { shots }),
  addPerson: (job: number, name: string) => json<Job>('POST', `/jobs/${job}/people`, { name }),
  renamePerson: (job: number, slug: string, name: string) => json<Job>('PUT', `/jobs/${job}/people/${slug}`, { name }),
  removePerson: (job: number, slug: string) => json<Job>('DELETE', `/jobs/${job}/people/${slug}`),

  /** Into a job, or none for a bundle. */
  beginUpload: (job: number | null, name: string, size: number) => json<Upload>('POST', job === null ? '/uploads' : `/jobs/${job}/uploads`, { name, size }),
  upload: (id: string) => json<Upload>('GET', `/uploads/${id}`),
  takeBundle: (id: string) => json<Upload>('POST', `/uploads/${id}/bundle`),
  folder: (path: string) => json<ServerFile[]>('GET', `/folders?path=${encodeURIComponent(path)}`),
  takeFromFolder: (job: number, path: string, span: { from?: number; to?: number }) => json<Shot>('POST', `/jobs/${job}/folder`, { path, ...span }),
  bundleUrl: (job: number, footage: boolean, shots: number[] = []) => `/api/jobs/${job}/bundle?footage=${footage ? 1 : 0}${shots.length ? `&shots=${shots.join(',')}` : ''}`,
  reportUrl: (job: number, form: string) => `/api/jobs/${job}/report.${form}`,
  shotReportUrl: (shot: number, form: string) => `/api/shots/${shot}/report.${form}`,
  sendPiece: async (upload: string, offset: number, piece: Blob, signal: AbortSignal) =>
    await whole<{ received: number }>((await send('PUT', `/uploads/${upload}?offset=${offset}`, piece, 'application/octet-stream', signal)).json()),
  finishUpload: (upload: string, span: { from?: number; to?: number }) => json<Shot>('POST', `/uploads/${upload}/shot`, span),

  shot: (id: number) => json<Shot>('GET', `/shots/${id}`),
  changeShot: (id: number, change: { name: string } | { notes: string; base: string } | { archived: boolean }) => json<Shot>('PATCH', `/shots/${id}`, change),
  acceptShot: (id: number) => json<Shot>('POST', `/shots/${id}/accept`),
  readShot: (id: number) => json<Shot>('POST', `/shots/${id}/read`),
  removeShot: (id: number) => json<undefined>('DELETE', `/shots/${id}`),
  posterUrl: (shot: Pick<Shot, 'id' | 'revision'>, view: 'result' | 'original') => `/api/shots/${shot.id}/poster?view=${view}&r=${shot.revision}`,

  recipe: (shot: number) => json<RecipeState>('GET', `/shots/${shot}/recipe`),
  saveRecipe: (shot: number, base: number, recipe: Recipe, label: string) => json<RecipeState>('PUT', `/shots/${shot}/recipe`, { base, recipe, label }),
  undo: (shot: number, base: number) => json<RecipeState>('POST', `/shots/${shot}/undo`, { base }),
  redo: (shot: number, base: number) => json<RecipeState>('POST', `/shots/${shot}/redo`, { base }),
  history: (shot: number, before?: number) => list<Revision>(`/shots/${shot}/history${before === undefined ? '' : `?before=${before}`}`),
  restoreRevision: (shot: number, base: number, revision: number) => json<RecipeState>('POST', `/shots/${shot}/history/${revision}/restore`, { base }),
  tick: (shot: number, area: string, on: boolean) => json<RecipeState>(on ? 'PUT' : 'DELETE', `/shots/${shot}/areas/${area}/tick`),
  versions: (shot: number) => list<Version>(`/shots/${shot}/versions`),
  keepVersion: (shot: number, name: string) => json<Version>('POST', `/shots/${shot}/versions`, { name }),
  renameVersion: (shot: number, id: number, name: string) => json<Version>('PUT', `/shots/${shot}/versions/${id}`, { name }),
  removeVersion: (shot: number, id: number) => json<undefined>('DELETE', `/shots/${shot}/versions/${id}`),
  restoreVersion: (shot: number, base: number, id: number) => json<RecipeState>('POST', `/shots/${shot}/versions/${id}/restore`, { base }),
  motions: (shot: number) => json<Motions>('GET', `/shots/${shot}/motions`),

  picture: async (shot: number, request: PictureRequest, signal?: AbortSignal): Promise<Sent> => {
    const { file, headers } = await blob(`/shots/${shot}/picture`, request, signal);
    return sentAs(file, headers.get('X-Picture-Place') ?? '', request);
  },
  /** Pictures of several frames, told one by one as they come in. */
  pictures: (shot: number, request: Omit<PictureRequest, 'frame'> & { frames: number[] }, take: (frame: number, sent: Sent, full: boolean) => void, signal?: AbortSignal): Promise<void> =>
    stream<{ frame: number; place: string; full: boolean }>(`/shots/${shot}/pictures`, request, ({ frame, place, full }, file) => take(frame, sentAs(file, place, request), full), signal),
  /** Crops of an area held still, likewise. */
  witnesses: (shot: number, request: Omit<PictureRequest, 'frame'> & { frames: number[]; width: number }, take: (frame: number, file: Blob) => void, signal?: AbortSignal): Promise<void> =>
    stream<{ frame: number }>(`/shots/${shot}/witnesses`, request, ({ frame }, file) => take(frame, file), signal),
  scope: (shot: number, request: ScopeRequest, signal?: AbortSignal) => json<Scope>('POST', `/shots/${shot}/scope`, request, signal),

  startingPoints: () => json<StartingPoint[]>('GET', '/starting-points'),
  colours: (shot: number, area: string, asked: { frame: number; recipe?: Recipe }) => json<AreaColours | null>('POST', `/shots/${shot}/areas/${area}/colours`, asked),
  pick: async (shot: number, area: string, asked: { frame: number; follow: boolean; sign?: '+' | '-'; from?: Pair; to?: Pair; recipe?: Recipe }) =>
    (await json<{ pick: ColourPick }>('POST', `/shots/${shot}/areas/${area}/pick`, asked)).pick,
  sample: (shot: number, area: string, asked: { frame: number; at: Pair; recipe?: Recipe }) => json<{ rgb: Triple; lab: Triple }>('POST', `/shots/${shot}/areas/${area}/sample`, asked),
  cover: async (shot: number, area: string, asked: { frame: number; recipe?: Recipe }) => (await json<{ offset: Pair }>('POST', `/shots/${shot}/areas/${area}/cover`, asked)).offset,
  other: async (shot: number, area: string, asked: { frame: number; recipe?: Recipe }) => (await json<{ area: Area }>('POST', `/shots/${shot}/areas/${area}/other`, asked)).area,
  cube: (text: string) => json<{ sha256: string; title: string }>('POST', '/cubes', { text }),
  readCdl: async (text: string) => (await json<{ corrections: { id: string; settings: Record<string, number> }[] }>('POST', '/cdl', { text })).corrections,
  cdlUrl: (shot: number, touch: string, form: string, frame: number) => `/api/shots/${shot}/touches/${touch}/cdl.${form}?frame=${frame}`,

  telltales: (shot: number) => json<Telltales>('GET', `/shots/${shot}/telltales`),
  lookOver: (shot: number) => json<Telltales>('POST', `/shots/${shot}/telltales`),
  limitTelltale: (shot: number, telltale: string, limit: number | null) => json<Telltales>('PUT', `/shots/${shot}/telltales/limit`, { telltale, limit }),
  cures: (shot: number, telltale: string, area: string | null) => json<Cure[]>('GET', `/shots/${shot}/telltales/cures?telltale=${encodeURIComponent(telltale)}${area === null ? '' : `&area=${area}`}`),

  follows: (shot: number) => list<Follow>(`/shots/${shot}/follows`),
  follow: (shot: number, wanted: { area: string; shape: string | null; start: number; from: number; to: number }) => json<Follow>('POST', `/shots/${shot}/follows`, wanted),
  followPerson: (shot: number, wanted: { area: string; start: number; from: number; to: number }) => json<unknown>('POST', `/shots/${shot}/follows/person`, wanted),
  stopFollow: (follow: number) => json<Follow>('POST', `/follows/${follow}/stop`),

  edge: async (shot: number, wanted: { frame: number; from: Pair; to: Pair }, signal?: AbortSignal) =>
    (await json<{ points: PathPoint[] }>('POST', `/shots/${shot}/edge`, wanted, signal)).points,
  people: (shot: number, frame: number) => json<{ people: FoundPerson[]; most: number; near: number | null }>('POST', `/shots/${shot}/person`, { frame }),
  readSvg: async (svg: string) => (await json<{ paths: PathPoint[][] }>('POST', '/svg', { text: svg })).paths,
  svgUrl: (shot: number, area: string, frame: number) => `/api/shots/${shot}/areas/${area}/outline.svg?frame=${frame}`,

  deliveries: () => list<Delivery>('/deliveries'),
  deliver: (shot: number, wanted: Wishes & { from: number; to: number; slip: string }) => json<Delivery>('POST', `/shots/${shot}/deliveries`, wanted),
  deliverMany: (job: number, wanted: ManyWishes & { shots: number[]; slip: string }) => json<Delivery[]>('POST', `/jobs/${job}/deliveries`, wanted),
  sumsUrl: (job: number) => `/api/jobs/${job}/deliveries.sha256`,
  presets: (job: number) => json<Preset[]>('GET', `/jobs/${job}/presets`),
  keepPreset: (job: number, title: string, order: ManyWishes) => json<Preset>('POST', `/jobs/${job}/presets`, { title, ...order }),
  removePreset: (job: number, id: number) => json<undefined>('DELETE', `/jobs/${job}/presets/${id}`),
  arrangeDeliveries: (ids: number[]) => json<undefined>('PUT', '/deliveries/order', { deliveries: ids }),
  pauseDelivery: (id: number) => json<Delivery>('POST', `/deliveries/${id}/pause`),
  cancelDelivery: (id: number) => json<Delivery>('POST', `/deliveries/${id}/cancel`),
  retryDelivery: (id: number) => json<Delivery>('POST', `/deliveries/${id}/retry`),
  removeDelivery: (id: number) => json<undefined>('DELETE', `/deliveries/${id}`),
  deliveryUrl: (id: number) => `/api/deliveries/${id}/file`,
  besideUrl: (id: number) => `/api/deliveries/${id}/beside`,

  treatments: (job: number) => json<KeptTreatment[]>('GET', `/jobs/${job}/treatments`),
  keepTreatment: (shot: number, wanted: { title: string; areas: string[]; touches: string[] | null; base: boolean; finish: boolean }) => json<KeptTreatment>('POST', `/shots/${shot}/treatments`, wanted),
  takeTreatment: (job: number, title: string, text: string) => json<KeptTreatment>('POST', `/jobs/${job}/treatments`, { title, text }),
  removeTreatment: (job: number, id: number) => json<undefined>('DELETE', `/jobs/${job}/treatments/${id}`),
  layTreatment: (job: number, id: number, wanted: { shots: number[]; person: string | null; replace: boolean }) => json<Carry[]>('POST', `/jobs/${job}/treatments/${id}/carries`, wanted),
  treatmentUrl: (job: number, id: number) => `/api/jobs/${job}/treatments/${id}`,

  notes: (shot: number) => list<FrameNote>(`/shots/${shot}/notes`),
  note: (shot: number, frame: number, text: string) => json<FrameNote>('POST', `/shots/${shot}/notes`, { frame, text }),
  changeNote: (shot: number, id: number, change: { resolved: boolean }) => json<FrameNote>('PATCH', `/shots/${shot}/notes/${id}`, change),
  removeNote: (shot: number, id: number) => json<undefined>('DELETE', `/shots/${shot}/notes/${id}`),

  beside: (shot: number, asked: { frame: number; other: number; otherFrame: number; recipe?: Recipe }) => json<Alike[]>('POST', `/shots/${shot}/beside`, asked),
  matchTo: (shot: number, asked: { frame: number; other: number; otherFrame: number; areas: string[]; base: boolean; recipe?: Recipe }) =>
    json<{ recipe: Recipe; misses: { area: string; before: number; after: number }[] }>('POST', `/shots/${shot}/beside/match`, asked),

  carryTargets: (shot: number, person: string | null) => json<CarryTarget[]>('GET', `/shots/${shot}/targets${person === null ? '' : `?person=${encodeURIComponent(person)}`}`),
  carries: (shot: number) => json<Carry[]>('GET', `/shots/${shot}/carries`),
  carry: (shot: number, order: CarryOrder) => json<Carry[]>('POST', `/shots/${shot}/carries`, order),
  carriesOf: (job: number, batch: string) => json<Carry[]>('GET', `/jobs/${job}/carries/${batch}`),
  takeCarry: (id: number) => json<Carry>('POST', `/carries/${id}/take`),
  takeCarryBack: (id: number) => json<Carry>('POST', `/carries/${id}/back`),
  leaveCarry: (id: number) => json<Carry>('POST', `/carries/${id}/leave`),
  carryPicture: (id: number, side: 'before' | 'after') => `/api/carries/${id}/picture/${side}`,

  upkeep: () => json<Upkeep>('GET', '/upkeep'),
  makeRoom: () => json<Upkeep & { freed: number }>('POST', '/upkeep/room'),
  retryFailure: (id: number) => json<undefined>('POST', `/upkeep/failures/${id}/retry`),
  forgetFailure: (id: number) => json<undefined>('DELETE', `/upkeep/failures/${id}`),
};
