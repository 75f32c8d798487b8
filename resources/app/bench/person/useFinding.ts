import { computed, ref } from 'vue';
import { api } from '../../api/client';
import type { Area, FoundPerson, Pair } from '../../api/types';
import { decoded } from '../picture/useReels';
import type { Playhead } from '../time/usePlayhead';
import type { FindAnswer } from './findFace.worker';

/** Rows of the picture that faces are looked for in. */
const LOOKED_AT = 540;

/** Kept once it was needed: what it has loaded takes seconds to load again. */
let worker: Worker | null = null;

/** Asks it for the landmarks of all faces, one question at a time. */
function ask(pixels: ImageData): Promise<FindAnswer> {
  const own = (worker ??= new Worker(new URL('./findFace.worker.ts', import.meta.url), { type: 'module' }));
  return new Promise((resolve) => {
    own.onmessage = (e: MessageEvent<FindAnswer>) => resolve(e.data);
    own.onerror = (e) => {
      own.terminate();
      worker = null;
      resolve({ failure: e.message });
    };
    own.postMessage({ pixels });
  });
}

/** Landmarks of what may be faces on a frame, in picture heights; what becomes of them is the server's. */
async function landmarks(shot: number, frame: number): Promise<Pair[][]> {
  const { image } = await decoded(await api.picture(shot, { frame, view: 'original', height: LOOKED_AT }));
  const { width, height } = image;
  const g = new OffscreenCanvas(width, height).getContext('2d') as OffscreenCanvasRenderingContext2D;
  g.drawImage(image, 0, 0);
  const answer = await ask(g.getImageData(0, 0, width, height));
  if ('failure' in answer) throw new Error(answer.failure);
  return answer.faces.map((face) => face.map(([x, y]): Pair => [x / height, y / height]));
}

/** An area takes with it what it rides on or is made of. */
const needs = (area: Area): string[] => [area.motion.on, ...area.outline.shapes.map((s) => (s.kind === 'area' ? s.of : undefined))].filter((id): id is string => id !== undefined);

function wordsOf(people: FoundPerson[]): string {
  if (people.length > 1) return `${people.length} people are seen. Choose one, here or on the picture.`;
  const one = people[0];
  if (!one) return 'Nobody was found on this frame. Try one where the eyes are open and seen from in front, or draw the areas yourself.';
  const irises = one.areas.filter((a) => a.part === 'iris').length;
  if (!one.whole) return irises === 2 ? 'No face is seen whole, but two eyes.' : 'No face is seen whole, but an eye.';
  return Object.keys(one.doubts).length ? 'A face is seen. What is doubtful is not ticked.' : 'A face is seen.';
}

/** The people found on a frame, what is proposed for them, and what of it is ticked. */
export function useFinding(shot: number, playhead: Playhead, facesOn = landmarks) {
  const people = ref<FoundPerson[]>([]);
  const chosen = ref(0);
  const ticked = ref<Set<string>>(new Set());
  /** The proposal that is pointed at, in the list or on the picture. */
  const pointed = ref<string | null>(null);
  const frame = ref<number | null>(null);
  const looking = ref(false);
  const words = ref('');
  const failed = ref(false);

  const person = computed(() => people.value[chosen.value] ?? null);
  /** Proposals lie on the picture only while it shows the frame they are of. */
  const here = computed(() => (frame.value === playhead.frame.value ? people.value : []));

  function choose(index: number): void {
    chosen.value = index;
    pointed.value = null;
    const one = people.value[index];
    ticked.value = new Set(one?.areas.filter((a) => one.doubts[a.id] === undefined && needs(a).every((id) => one.doubts[id] === undefined)).map((a) => a.id));
  }
  function leave(): void {
    people.value = [];
    frame.value = null;
    choose(0);
  }
  async function look(): Promise<void> {
    const at = playhead.frame.value;
    leave();
    looking.value = true;
    failed.value = false;
    words.value = 'Looking for people on this frame…';
    try {
      const found = await api.people(shot, { frame: at, faces: await facesOn(shot, at) });
      people.value = found;
      frame.value = at;
      choose(0);
      failed.value = found.length === 0;
      words.value = wordsOf(found);
    } catch (reason) {
      failed.value = true;
      words.value = `Looking for people did not work: ${reason instanceof Error ? reason.message : String(reason)}`;
    } finally {
      looking.value = false;
    }
  }
  function tick(area: Area): void {
    const next = new Set(ticked.value);
    if (next.has(area.id)) {
      next.delete(area.id);
      for (const other of person.value?.areas ?? []) if (needs(other).includes(area.id)) next.delete(other.id);
    } else for (const id of [area.id, ...needs(area)]) next.add(id);
    ticked.value = next;
  }

  return { people, person, chosen, ticked, pointed, frame, here, looking, words, failed, look, leave, choose, tick };
}

export type Finding = ReturnType<typeof useFinding>;
