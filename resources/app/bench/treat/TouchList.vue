<script setup lang="ts">
/** A stack of touches: of an area, of the base or of the finish. */
import { computed, ref } from 'vue';
import type { Kind, Recipe, Touch } from '../../api/types';
import { useNotices } from '../../useNotices';
import { useBench } from '../bench';
import { hold } from '../picture/drag';
import { keepFocus } from '../../widgets/keepFocus';
import { copied, freshId } from '../recipe/ids';
import TouchCard from './TouchCard.vue';
import { labelOf, neutral, useCopiedTouches } from './touches';

const props = defineProps<{ where: string; place: 'area' | 'base' | 'finish'; part?: string; touches: (recipe: Recipe) => Touch[]; hint: string }>();

const { store, kinds, starts, treating } = useBench();
const { say } = useNotices();
const clipboard = useCopiedTouches();
const list = computed(() => (store.recipe.value ? props.touches(store.recipe.value) : []));
const choosing = ref<'kinds' | 'starts' | null>(null);
/** Where the card that is being dragged would go. */
const over = ref<number | null>(null);
const root = ref<HTMLElement>();
/** Those that were there when the list was opened; what is added later unfolds by itself. */
const known = new Set(list.value.map((t) => t.id));
const unfolds = (touch: Touch, i: number): boolean => !known.has(touch.id) || i === 0 || known.size < 3;

const allowed = (kind: Kind): boolean => (kind.last ? props.place === 'finish' && !list.value.some((t) => t.kind === kind.name) : props.place === 'area' || !kind.inArea);
const offered = computed(() => kinds.filter(allowed));
const sides = computed<('inside' | 'outside' | undefined)[]>(() => (props.place === 'area' ? ['inside', 'outside'] : [undefined]));
/** Those meant for this part first. */
const points = computed(() => {
  const fit = (s: (typeof starts)[number]): number => (props.part && s.parts.includes(props.part) ? 0 : s.parts.length === 0 ? 1 : 2);
  return starts.filter((s) => (s.where === 'area') === (props.place === 'area')).sort((a, b) => fit(a) - fit(b));
});

/** The limits stay last. */
function push(touches: Touch[], added: Touch): void {
  const end = touches.findIndex((t) => kinds.find((k) => k.name === t.kind)?.last);
  touches.splice(end < 0 ? touches.length : end, 0, added);
}
function take(what: string, wanted: (Partial<Touch> & { kind: string })[]): void {
  store.edit((recipe) => {
    for (const one of wanted) {
      const kind = kinds.find((k) => k.name === one.kind);
      if (!kind || !allowed(kind)) continue;
      const side = props.place === 'area' ? (kind.inArea ? 'inside' : (one.side ?? 'inside')) : undefined;
      const { side: _side, ...own } = one;
      const touch = { ...neutral(kind, '', side), ...copied(own), id: freshId(recipe, 't') } as Touch;
      push(props.touches(recipe), touch);
      treating.unfold(touch.id);
    }
  });
  choosing.value = null;
  void store.commit(what);
}
function add(names: string[], side?: 'inside' | 'outside'): void {
  take(`Add ${names.map((k) => labelOf(k).toLowerCase()).join(', ')}${side === 'outside' ? ' outside' : ''}`, names.map((kind) => ({ kind, ...(side ? { side } : {}) })));
}
function paste(): void {
  if (clipboard.value.length === 0) say('Nothing to paste', 'Copy a touch first; it can come from another area or shot.');
  else take(`${props.where}, paste`, clipboard.value);
}
function copy(touches: Touch[], what: string): void {
  clipboard.value = copied(touches);
  say(`${what} copied`, 'Paste it into another area, also in another shot.');
}
function rearrange(label: string, how: (touches: Touch[]) => void): void {
  store.edit((recipe) => how(props.touches(recipe)));
  void store.commit(`${props.where}, ${label}`);
}
function move(index: number, by: number): void {
  keepFocus();
  rearrange('order', (touches) => touches.splice(index + by, 0, ...touches.splice(index, 1)));
}
function toggle(what: 'kinds' | 'starts'): void {
  choosing.value = choosing.value === what ? null : what;
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
        :touch="touch" :where="where" :touches="touches" :first="i === 0" :last="i === list.length - 1" :unfolded="unfolds(touch, i)"
        @remove="rearrange(`remove ${labelOf(touch.kind).toLowerCase()}`, (own) => own.splice(i, 1))" @move="move(i, $event)" @copy="copy([touch], labelOf(touch.kind))" @grab="grab($event, i)"
      />
    </div>
    <p v-if="list.length === 0" class="dim hint">{{ hint }}</p>
    <div class="acts">
      <button type="button" class="btn" :aria-expanded="choosing === 'kinds'" @click="toggle('kinds')">Add a touch</button>
      <button v-if="points.length" type="button" class="btn" :aria-expanded="choosing === 'starts'" @click="toggle('starts')">Start from…</button>
      <span class="grow"></span>
      <button v-if="list.length > 1" type="button" class="plain dim" @click="copy(list, `${list.length} touches`)">Copy all</button>
      <button type="button" class="plain dim" @click="paste">Paste</button>
      <slot :add="add" :empty="list.length === 0"></slot>
    </div>
    <div v-if="choosing === 'kinds'" class="kinds">
      <div v-for="side in sides" :key="side ?? 'frame'" class="side" role="group" :aria-label="side ?? 'whole frame'">
        <span class="dim">{{ side ?? 'whole frame' }}</span>
        <button v-for="kind in offered.filter((k) => side !== 'outside' || !k.inArea)" :key="kind.name" type="button" class="btn small" @click="add([kind.name], side)">{{ labelOf(kind.name) }}</button>
      </div>
    </div>
    <ul v-if="choosing === 'starts'" class="starts" aria-label="Starting points">
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
