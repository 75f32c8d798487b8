<script setup lang="ts">
/** A stack of touches: of an area, of the base or of the finish. */
import Menu from 'primevue/menu';
import { computed, ref } from 'vue';
import type { Kind, Recipe, Touch } from '../api/types';
import { labelOf, neutral } from './touches';
import TouchCard from './TouchCard.vue';
import { freshId, type RecipeStore } from './useRecipe';

const props = defineProps<{ store: RecipeStore; kinds: Kind[]; where: string; sided: boolean; touches: (recipe: Recipe) => Touch[]; hint: string }>();
const emit = defineEmits<{ dragging: [touch: Touch | null] }>();

const list = computed(() => (props.store.recipe.value ? props.touches(props.store.recipe.value) : []));
const menu = ref<InstanceType<typeof Menu>>();

function add(kinds: string[], side?: 'inside' | 'outside'): void {
  props.store.edit((recipe) => {
    for (const name of kinds) {
      const kind = props.kinds.find((k) => k.name === name);
      if (kind) props.touches(recipe).push(neutral(kind, freshId(recipe, 't'), side));
    }
  });
  void props.store.commit(`Add ${kinds.map((k) => labelOf(k).toLowerCase()).join(', ')}${side === 'outside' ? ' outside' : ''}`);
}

const items = computed(() => {
  const entries = (side?: 'inside' | 'outside') => props.kinds.map((k) => ({ label: labelOf(k.name), command: () => add([k.name], side) }));
  return props.sided ? [{ label: 'Inside', items: entries('inside') }, { label: 'Outside', items: entries('outside') }] : entries();
});

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
      <button type="button" class="btn" aria-haspopup="true" @click="menu?.toggle($event)">Add a touch</button>
      <slot :add="add" :empty="list.length === 0"></slot>
    </div>
    <Menu ref="menu" :model="items" popup />
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

.acts {
  display: flex;
  gap: 8px;
}
</style>
