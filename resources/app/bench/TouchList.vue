<script setup lang="ts">
/** A stack of touches: of an area, of the base or of the finish. */
import { computed, ref } from 'vue';
import type { Kind, Recipe, Touch } from '../api/types';
import { labelOf, neutral } from './touches';
import TouchCard from './TouchCard.vue';
import { freshId, type RecipeStore } from './useRecipe';

const props = defineProps<{ store: RecipeStore; kinds: Kind[]; where: string; sided: boolean; touches: (recipe: Recipe) => Touch[]; hint: string }>();
const emit = defineEmits<{ dragging: [touch: Touch | null] }>();

const list = computed(() => (props.store.recipe.value ? props.touches(props.store.recipe.value) : []));
const choosing = ref(false);

function add(kinds: string[], side?: 'inside' | 'outside'): void {
  props.store.edit((recipe) => {
    for (const name of kinds) {
      const kind = props.kinds.find((k) => k.name === name);
      if (kind) props.touches(recipe).push(neutral(kind, freshId(recipe, 't'), side));
    }
  });
  choosing.value = false;
  void props.store.commit(`Add ${kinds.map((k) => labelOf(k).toLowerCase()).join(', ')}${side === 'outside' ? ' outside' : ''}`);
}

const SIDES: ('inside' | 'outside')[] = ['inside', 'outside'];

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
</script>

<template>
  <div class="list">
    <TouchCard
      v-for="(touch, i) in list" :key="touch.id"
      :touch="touch" :kind="kinds.find((k) => k.name === touch.kind)" :first="i === 0" :last="i === list.length - 1"
      @change="change(touch, $event)" @commit="commit" @remove="rearrange(`remove ${labelOf(touch.kind).toLowerCase()}`, (touches) => touches.splice(i, 1))" @move="move(i, $event)"
    />
    <p v-if="list.length === 0" class="dim hint">{{ hint }}</p>
    <div class="acts">
      <button type="button" class="btn" :aria-expanded="choosing" @click="choosing = !choosing">Add a touch</button>
      <slot :add="add" :empty="list.length === 0"></slot>
    </div>
    <div v-if="choosing" class="kinds">
      <div v-for="side in sided ? SIDES : [undefined]" :key="side ?? 'frame'" class="side" role="group" :aria-label="side ?? 'whole frame'">
        <span class="dim">{{ side ?? 'whole frame' }}</span>
        <button v-for="kind in kinds" :key="kind.name" type="button" class="btn small" @click="add([kind.name], side)">{{ labelOf(kind.name) }}</button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  display: grid;
  gap: 8px;
  padding: 0 10px 10px;
}

.hint {
  padding: 4px 6px;
}

.acts,
.side {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}

.kinds {
  display: grid;
  gap: 6px;
}

.side {
  align-items: center;
}

.side span {
  width: 78px;
}
</style>
