<script setup lang="ts">
/** Looks for a face on the present frame and proposes its areas; those that are ticked go into the recipe. */
import Checkbox from 'primevue/checkbox';
import { onMounted, ref } from 'vue';
import type { Area } from '../../api/types';
import PillChoice from '../../widgets/PillChoice.vue';
import SidePanel from '../../widgets/SidePanel.vue';
import { useBench } from '../bench';
import { useFinder } from './useFinder';

const { people, areas, outlines, store, panel } = useBench();
const finder = useFinder();
const ticked = ref<Set<string>>(new Set());
const person = ref<string | null>(people.list.value.length === 1 ? (people.list.value[0]?.slug ?? null) : null);

onMounted(async () => {
  await finder.look();
  ticked.value = new Set(finder.proposed.value.map((a) => a.id));
});

/** An area takes with it what it rides on or is made of. */
function needs(area: Area): string[] {
  return [area.motion.on, ...area.outline.shapes.map((s) => (s.kind === 'area' ? s.of : undefined))].filter((id): id is string => id !== undefined);
}
function tick(area: Area): void {
  const next = new Set(ticked.value);
  if (next.has(area.id)) {
    next.delete(area.id);
    for (const other of finder.proposed.value) if (needs(other).includes(area.id)) next.delete(other.id);
  } else for (const id of [area.id, ...needs(area)]) next.add(id);
  ticked.value = next;
}
async function take(): Promise<void> {
  const found = finder.proposed.value.filter((a) => ticked.value.has(a.id)).map((a) => ({ ...a, person: person.value }));
  // Looked for while an area was still empty: that one gives way.
  const own = areas.chosen.value;
  const empty = own && own.outline.shapes.length === 0 && own.touches.length === 0 ? own.id : null;
  store.edit((recipe) => {
    recipe.areas = [...recipe.areas.filter((a) => a.id !== empty), ...found];
  });
  outlines.tool.value = null;
  panel.value = null;
  areas.choose(found[0]?.id ?? areas.tab.value);
  await store.commit('Areas of a person');
}
</script>

<template>
  <SidePanel title="Find the person" @close="panel = null">
    <p :class="{ dim: !finder.failed.value }" role="status"><span v-if="finder.failed.value">▲ </span>{{ finder.words.value }}</p>
    <template v-if="finder.proposed.value.length">
      <ul class="list" aria-label="Proposed areas">
        <li v-for="a in finder.proposed.value" :key="a.id"><label class="tick"><Checkbox :model-value="ticked.has(a.id)" binary @update:model-value="tick(a)" /> {{ a.name }}<span v-if="a.motion.by === 'ride'" class="dim"> rides on the face</span></label></li>
      </ul>
      <div v-if="people.list.value.length" class="who">
        <span class="dim">Person</span>
        <PillChoice :options="people.list.value.map((p) => ({ label: p.name, value: p.slug }))" :value="person" label="Person" off @choose="person = $event" />
      </div>
    </template>
    <template #acts>
      <button type="button" class="btn" @click="panel = null">{{ finder.proposed.value.length ? 'Leave it' : 'Close' }}</button>
      <button v-if="finder.proposed.value.length" type="button" class="btn main" :disabled="ticked.size === 0" @click="take">Take {{ ticked.size }} areas</button>
    </template>
  </SidePanel>
</template>

<style scoped>
.list {
  display: grid;
  gap: 4px;
  margin: 8px 0;
  padding: 0;
  list-style: none;
}

.who {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
