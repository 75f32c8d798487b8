<script setup lang="ts">
/** A stack of touches: of an area, of the base or of the finish. */
import { computed, ref } from 'vue';
import type { Kind, Recipe, StartingPoint, Touch } from '../api/types';
import { useNotices } from '../useNotices';
import { hold } from './drag';
import { copiedTouches, copyTouches, labelOf, neutral } from './touches';
import TouchCard from './TouchCard.vue';
import { freshId, type RecipeStore } from './useRecipe';

const props = defineProps<{ store: RecipeStore; kinds: Kind[]; where: string; place: 'area' | 'base' | 'finish'; part?: string; starts: StartingPoint[]; touches: (recipe: Recipe) => Touch[]; hint: string }>();
const emit = defineEmits<{ dragging: [touch: Touch | null]; without: [touch: string | null] }>();

const { say } = useNotices();
const list = computed(() => (props.store.recipe.value ? props.touches(props.store.recipe.value) : []));
const choosing = ref(false);
const starting = ref(false);
/** Where the card that is being dragged would go. */
const over = ref<number | null>(null);
const root = ref<HTMLElement>();
const allowed = (kind: Kind): boolean => (kind.last ? props.place === 'finish' && !list.value.some((t) => t.kind === kind.name) : props.place === 'area' || !kind.inArea);
const offered = computed(() => props.kinds.filter(allowed));
const sides = computed<('inside' | 'outside' | undefined)[]>(() => (props.place === 'area' ? ['inside', 'outside'] : [undefined]));
/** Those meant for this part first. */
const points = computed(() => {
  const fit = (s: StartingPoint): number => (props.part && s.parts.includes(props.part) ? 0 : s.parts.length === 0 ? 1 : 2);
  return props.starts.filter((s) => (s.where === 'area') === (props.place === 'area')).sort((a, b) => fit(a) - fit(b));
});

/** The limits stay last. */
function push(touches: Touch[], added: Touch[]): void {
  const end = touches.findIndex((t) => props.kinds.find((k) => k.name === t.kind)?.last);
  touches.splice(end < 0 ? touches.length : end, 0, ...added);
}
function take(what: string, wanted: (Partial<Touch> & { kind: string })[]): void {
  props.store.edit((recipe) => {
    for (const one of wanted) {
      const kind = props.kinds.find((k) => k.name === one.kind);
      if (!kind || !allowed(kind)) continue;
      const side = props.place === 'area' ? (kind.inArea ? 'inside' : (one.side ?? 'inside')) : undefined;
      const { side: _side, ...own } = one;
      push(props.touches(recipe), [{ ...neutral(kind, '', side), ...structuredClone(own), id: freshId(recipe, 't') } as Touch]);
    }
  });
  choosing.value = false;
  starting.value = false;
  void props.store.commit(what);
}
function add(kinds: string[], side?: 'inside' | 'outside'): void {
  take(`Add ${kinds.map((k) => labelOf(k).toLowerCase()).join(', ')}${side === 'outside' ? ' outside' : ''}`, kinds.map((kind) => ({ kind, ...(side ? { side } : {}) })));
}
function paste(): void {
  const copied = copiedTouches();
  if (copied.length === 0) say('Nothing to paste', 'Copy a touch first; it can come from another area or shot.');
  else take(`${props.where}, paste`, copied.map((t) => JSON.parse(JSON.stringify(t)) as Touch));
}
function copyAll(): void {
  copyTouches(list.value);
  say(`${list.value.length} touches copied`, 'Paste them into another area, also in another shot.');
}

function change(touch: Touch, change_: Partial<Touch>): void {
  emit('dragging', touch);
  props.store.edit((recipe) => {
    const own = props.touches(recipe).find((t) => t.id === touch.id);
    if (own) Object.assign(own, change_);
  });
}
function commit(label: string): void {
  emit('dragging', null);
  void props.store.commit(`${props.where}, ${label}`);
}
function rearrange(label: string, how: (touches: Touch[]) => void): void {
  props.store.edit((recipe) => how(props.touches(recipe)));
  void props.store.commit(`${props.where}, ${label}`);
}
function move(index: number, by: number): void {
  rearrange('order', (touches) => touches.splice(index + by, 0, ...touches.splice(index, 1)));
}
/** A card is dragged by its grip; it goes where it is let go. */
function grab(e: PointerEvent, from: number): void {
  if (e.button !== 0) return;
  e.preventDefault();
  hold(e, (m) => {
    const slots = [...(root.value?.querySelectorAll('.slot') ?? [])].map((slot) => slot.getBoundingClientRect());
    const at = slots.findIndex((r) => m.clientY < r.bottom);
    over.value = at < 0 ? slots.length - 1 : at;
    // Near an end the list rolls on.
    const roll = root.value?.closest('.steps');
    const box = roll?.getBoundingClientRect();
    if (roll && box) roll.scrollTop += m.clientY < box.top + 30 ? -14 : m.clientY > box.bottom - 30 ? 14 : 0;
  }, () => {
    const to = over.value;
    over.value = null;
    if (to !== null && to !== from) rearrange('order', (touches) => touches.splice(to, 0, ...touches.splice(from, 1)));
  });
}
</script>

<template>
  <div ref="root" class="list">
    <div v-for="(touch, i) in list" :key="touch.id" class="slot" :class="{ over: over === i }">
      <TouchCard
        :touch="touch" :kind="kinds.find((k) => k.name === touch.kind)" :first="i === 0" :last="i === list.length - 1"
        @change="change(touch, $event)" @commit="commit" @remove="rearrange(`remove ${labelOf(touch.kind).toLowerCase()}`, (touches) => touches.splice(i, 1))" @move="move(i, $event)"
        @copy="copyTouches([touch]); say(`${labelOf(touch.kind)} copied`, 'Paste it into another area, also in another shot.')" @without="emit('without', $event ? touch.id : null)" @grab="grab($event, i)"
      />
    </div>
    <p v-if="list.length === 0" class="dim hint">{{ hint }}</p>
    <div class="acts">
      <button type="button" class="btn" :aria-expanded="choosing" @click="choosing = !choosing; starting = false">Add a touch</button>
      <button v-if="points.length" type="button" class="btn" :aria-expanded="starting" @click="starting = !starting; choosing = false">Start from…</button>
      <span class="grow"></span>
      <button v-if="list.length > 1" type="button" class="plain dim" @click="copyAll">Copy all</button>
      <button type="button" class="plain dim" @click="paste">Paste</button>
      <slot :add="add" :empty="list.length === 0"></slot>
    </div>
    <div v-if="choosing" class="kinds">
      <div v-for="side in sides" :key="side ?? 'frame'" class="side" role="group" :aria-label="side ?? 'whole frame'">
        <span class="dim">{{ side ?? 'whole frame' }}</span>
        <button v-for="kind in offered.filter((k) => side !== 'outside' || !k.inArea)" :key="kind.name" type="button" class="btn small" @click="add([kind.name], side)">{{ labelOf(kind.name) }}</button>
      </div>
    </div>
    <ul v-if="starting" class="starts" aria-label="Starting points">
      <li v-for="s in points" :key="s.name"><button type="button" class="plain" @click="take(s.name, s.touches)"><b>{{ s.name }}</b><span class="dim">{{ s.hint }}</span></button></li>
    </ul>
  </div>
</template>

<style scoped>
.list {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding: 0 10px 10px;
}

.slot.over {
  box-shadow: 0 -2px 0 var(--t1);
}

.hint {
  padding: 4px 6px;
}

.acts,
.side {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}

.kinds {
  display: grid;
  gap: 8px;
}

.side {
  gap: 5px;
}

.side span {
  flex-basis: 100%;
}

.starts {
  display: grid;
  padding: 0;
  list-style: none;
}

.starts button {
  display: grid;
  width: 100%;
  padding: 4px 6px;
}

.starts button:hover {
  background: var(--g3);
}

.starts b {
  font-weight: 600;
}

.starts span {
  font-size: 12px;
}
</style>
