import { computed, ref, watch } from 'vue';
import type { Area, Motion, Shot } from '../../api/types';
import { useNotices } from '../../useNotices';
import { copied, freshId } from '../recipe/ids';
import { toggledKey, withValue } from '../recipe/keyed';
import type { RecipeStore } from '../recipe/useRecipe';
import type { Playhead } from '../time/usePlayhead';
import { isDrawn } from '../outline/shapes';

/** What a new area is usually called, and the part of a body it then is. */
export const PARTS: Record<string, string> = { Face: 'face', 'Left iris': 'iris', 'Right iris': 'iris', Teeth: 'teeth', Lips: 'lips', Skin: 'skin', Neck: 'neck', 'Whole person': 'person', Spot: 'spot', Surroundings: 'surroundings' };
/** All parts there are, as people say them. */
export const PART_WORDS: Record<string, string> = { face: 'face', iris: 'iris', lids: 'lids', eye: 'eye', teeth: 'teeth', lips: 'lips', skin: 'skin', neck: 'neck', forehead: 'forehead', 'under-eye': 'under the eye', cheek: 'cheek', nose: 'nose', chin: 'chin and jaw', brow: 'brow', person: 'whole person', spot: 'spot', surroundings: 'surroundings', other: 'something else' };

export const stillMotion = (): Motion => ({ by: 'none', use: ['position', 'rotation', 'scale', 'shear', 'perspective'], pivot: [0, 0], keys: [] });

export type LiveEnd = 'from' | 'to' | 'fadeIn' | 'fadeOut';

/** The areas of the shot: which one is chosen and which of its steps is open, and what is done to an area as a whole. */
export function useAreas(shot: Shot, store: RecipeStore, playhead: Playhead) {
  const { say } = useNotices();
  /** What the right column shows: an area by its id, or base or finish; nothing until the recipe is there. */
  const tab = ref('');
  /** The open step, 1 to 5; 0 when all are closed. */
  const step = ref(1);

  const all = computed<Area[]>(() => store.recipe.value?.areas ?? []);
  const chosen = computed<Area | null>(() => all.value.find((a) => a.id === tab.value) ?? null);
  const letters = computed(() => Object.fromEntries(all.value.map((a, i) => [a.id, i < 26 ? String.fromCharCode(65 + i) : String(i + 1)])));
  /** The area whose touches the chosen one has: its own, or those of the one it is linked to. */
  const treated = computed<Area | null>(() => (chosen.value?.pair?.linked ? find(chosen.value.pair.with) : chosen.value));

  function find(id: string | null | undefined): Area | null {
    return all.value.find((a) => a.id === id) ?? null;
  }
  const nameOf = (id: string | null | undefined): string => find(id)?.name ?? String(id ?? '');

  // Undone, or removed elsewhere.
  watch(() => [tab.value, all.value.map((a) => a.id).join()], () => {
    if (tab.value !== '' && tab.value !== 'base' && tab.value !== 'finish' && !chosen.value) tab.value = all.value[0]?.id ?? 'base';
  });

  /** Changes the chosen area and saves at once. */
  function change(label: string, how: (own: Area) => void): void {
    if (chosen.value) void store.change(`${chosen.value.name}: ${label}`, chosen.value.id, how);
  }
  /** Changes it while something is held. */
  function pull(how: (own: Area) => void): void {
    const id = chosen.value?.id;
    store.pull((recipe) => {
      const own = recipe.areas.find((a) => a.id === id);
      if (own) how(own);
    });
  }
  const commit = (label: string): Promise<void> => store.commit(`${chosen.value?.name ?? ''}: ${label}`);

  async function add(name: string): Promise<void> {
    if (!name || !store.recipe.value) return;
    const id = freshId(store.recipe.value, 'a');
    store.edit((recipe) => {
      recipe.areas.push({
        id,
        name,
        part: Object.entries(PARTS).find(([known]) => known.toLowerCase() === name.toLowerCase())?.[1] ?? 'other',
        person: null,
        on: true,
        outline: { at: playhead.frame.value, invert: false, shapes: [] },
        motion: stillMotion(),
        pick: null,
        live: { from: shot.from, to: shot.to, fadeIn: 0, fadeOut: 0 },
        strength: 1,
        blinkGuard: { on: false, keys: [] },
        pair: null,
        touches: [],
      });
    });
    tab.value = id;
    step.value = 1;
    await store.commit(`Add ${name}`);
  }

  /** The same again beside it, with ids of its own; without its motion it stands still where it was drawn. */
  function duplicate(withMotion: boolean): void {
    const of = chosen.value;
    if (!of) return;
    let id = '';
    store.edit((recipe) => {
      const copy = copied(of);
      id = freshId(recipe, 'a');
      Object.assign(copy, { id, name: `${of.name} copy`, pair: null });
      if (!withMotion) copy.motion = { ...stillMotion(), pivot: of.motion.pivot };
      copy.touches = copied(recipe.areas.find((a) => a.id === treated.value?.id)?.touches ?? []);
      recipe.areas.splice(recipe.areas.findIndex((a) => a.id === of.id) + 1, 0, copy);
      for (const shape of copy.outline.shapes) shape.id = '';
      for (const shape of copy.outline.shapes) shape.id = freshId(recipe, 's');
      for (const touch of copy.touches) touch.id = '';
      for (const touch of copy.touches) touch.id = freshId(recipe, 't');
    });
    tab.value = id;
    void store.commit(`Duplicate ${of.name}`);
  }

  /** Gone, unless another rides on it or is made of it; undo is offered at once. */
  function remove(): void {
    const gone = chosen.value;
    if (!gone) return;
    const needing = all.value.find((a) => a.id !== gone.id && (a.motion.on === gone.id || a.outline.shapes.some((s) => (s.kind === 'area' ? s.of : isDrawn(s) ? s.motion?.on : null) === gone.id)));
    if (needing) {
      say(`▲ ${gone.name} cannot be removed`, `${needing.name} rides on it or is made of it. Change that first.`);
      return;
    }
    store.edit((recipe) => {
      recipe.areas = recipe.areas.filter((a) => a.id !== gone.id);
      for (const other of recipe.areas) if (other.pair?.with === gone.id) other.pair = null;
    });
    tab.value = all.value[0]?.id ?? 'base';
    void store.commit(`Remove ${gone.name}`);
    say(`${gone.name} is removed`, '', { words: 'Undo', act: () => void store.undo() });
  }

  /** Areas act one after the other: takes one to another place among them. */
  function arrange(id: string, to: number): void {
    const from = all.value.findIndex((a) => a.id === id);
    const place = Math.min(all.value.length - 1, Math.max(0, to));
    if (from < 0 || place === from) return;
    store.edit((recipe) => recipe.areas.splice(place, 0, ...recipe.areas.splice(from, 1)));
    void store.commit(`${nameOf(id)}: order`);
  }

  /** An end of the live span, or the length of a fade, as it can be: within the shot, in order, fades within the span. */
  function live(end: LiveEnd, value: number): void {
    pull((own) => {
      const { from, to } = own.live;
      const frame = Math.round(value);
      if (end === 'from') own.live.from = Math.min(to, Math.max(shot.from, frame));
      if (end === 'to') own.live.to = Math.max(from, Math.min(shot.to, frame));
      const length = own.live.to - own.live.from;
      if (end === 'fadeIn') own.live.fadeIn = frame;
      if (end === 'fadeOut') own.live.fadeOut = frame;
      own.live.fadeIn = Math.min(length, Math.max(0, own.live.fadeIn));
      own.live.fadeOut = Math.min(length - own.live.fadeIn, Math.max(0, own.live.fadeOut));
    });
  }
  const LIVE_WORDS: Record<LiveEnd, string> = { from: 'live from', to: 'live until', fadeIn: 'fade in', fadeOut: 'fade out' };

  return {
    tab,
    step,
    all,
    chosen,
    letters,
    treated,
    find,
    nameOf,
    change,
    pull,
    commit,
    add,
    duplicate,
    remove,
    arrange,
    live,
    liveDone: (end: LiveEnd) => commit(`${LIVE_WORDS[end]} ${chosen.value?.live[end] ?? ''}`),
    choose: (id: string): void => {
      tab.value = id;
    },
    toggleStep: (n: number): void => {
      step.value = step.value === n ? 0 : n;
    },
    rename: (name: string): void => {
      if (name && name !== chosen.value?.name) change(`now ${name}`, (own) => (own.name = name));
    },
    setPart: (part: string): void => change(`part ${part}`, (own) => (own.part = part)),
    setPerson: (person: string | null, name: string): void => change(person === null ? 'nobody’s' : `of ${name}`, (own) => (own.person = person)),
    toggle: (): void => change(chosen.value?.on ? 'off' : 'on', (own) => (own.on = !own.on)),
    setStrength: (value: number): void => pull((own) => (own.strength = withValue(own.strength, playhead.frame.value, value))),
    keyStrength: (): void => change(`strength, keyframe ${playhead.frame.value}`, (own) => (own.strength = toggledKey(own.strength, playhead.frame.value))),
  };
}

export type Areas = ReturnType<typeof useAreas>;
