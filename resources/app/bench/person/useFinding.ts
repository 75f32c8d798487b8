import { computed, ref } from 'vue';
import { api } from '../../api/client';
import type { Area, FoundPerson } from '../../api/types';
import type { Playhead } from '../time/usePlayhead';

/** An area takes with it what it rides on or is made of. */
const needs = (area: Area): string[] => [area.motion.on, ...area.outline.shapes.map((s) => (s.kind === 'area' ? s.of : undefined))].filter((id): id is string => id !== undefined);

function wordsOf(people: FoundPerson[], most: number, near: number | null): string {
  if (people.length >= most) return `The ${most} largest faces are shown; smaller ones were not looked at. Choose one, here or on the picture.`;
  if (people.length > 1) return `${people.length} people are seen. Choose one, here or on the picture.`;
  const one = people[0];
  if (!one && near !== null) return `Nobody was found on this frame; on frame ${near} somebody is seen.`;
  if (!one) return 'Nobody was found on this frame. Try one where the eyes are open and seen from in front, or draw the areas yourself.';
  const irises = one.areas.filter((a) => a.part === 'iris').length;
  if (!one.whole) return irises === 2 ? 'No face is seen whole, but two eyes.' : 'No face is seen whole, but an eye.';
  return Object.keys(one.doubts).length ? 'A face is seen. What is doubtful is not ticked.' : 'A face is seen.';
}

/** The people found on a frame, what is proposed for them, and what of it is ticked. */
export function useFinding(shot: number, playhead: Playhead) {
  const people = ref<FoundPerson[]>([]);
  const chosen = ref(0);
  const ticked = ref<Set<string>>(new Set());
  /** The proposal that is pointed at, in the list or on the picture. */
  const pointed = ref<string | null>(null);
  const frame = ref<number | null>(null);
  const looking = ref(false);
  const words = ref('');
  const failed = ref(false);
  /** A frame to look on instead, where nobody was found here. */
  const near = ref<number | null>(null);

  const person = computed(() => people.value[chosen.value] ?? null);
  /** Proposals lie on the picture only while it shows the frame they are of. */
  const here = computed(() => (frame.value === playhead.shown.value ? people.value : []));

  function choose(index: number): void {
    chosen.value = index;
    pointed.value = null;
    const one = people.value[index];
    ticked.value = new Set(one?.areas.filter((a) => !one.more.includes(a.id) && one.doubts[a.id] === undefined && needs(a).every((id) => one.doubts[id] === undefined)).map((a) => a.id));
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
    near.value = null;
    words.value = 'Looking for people on this frame…';
    try {
      const { people: found, most, near: other } = await api.people(shot, at);
      people.value = found;
      frame.value = at;
      choose(0);
      failed.value = found.length === 0;
      near.value = other;
      words.value = wordsOf(found, most, other);
    } catch (reason) {
      failed.value = true;
      words.value = `Looking for people did not work: ${reason instanceof Error ? reason.message : String(reason)}`;
    } finally {
      looking.value = false;
    }
  }
  /** Looks on another frame of the shot. */
  async function lookOn(at: number): Promise<void> {
    playhead.go(at);
    await look();
  }
  /** A frame that shows better what is doubtful of a part here. */
  function better(area: Area): number | null {
    const best = area.part === 'teeth' ? person.value?.best.teeth : area.part === 'iris' || area.part === 'lids' ? person.value?.best.eyes : null;
    return person.value?.doubts[area.id] === undefined || best === frame.value ? null : (best ?? null);
  }
  function tick(area: Area): void {
    const next = new Set(ticked.value);
    if (next.has(area.id)) {
      next.delete(area.id);
      for (const other of person.value?.areas ?? []) if (needs(other).includes(area.id)) next.delete(other.id);
    } else for (const id of [area.id, ...needs(area)]) next.add(id);
    ticked.value = next;
  }

  return { people, person, chosen, ticked, pointed, frame, here, looking, words, failed, near, look, lookOn, better, leave, choose, tick };
}

export type Finding = ReturnType<typeof useFinding>;
