<script setup lang="ts">
/** The touches on the whole frame: the base before all areas, or the finish after them. */
import { useBench } from '../bench';
import TouchList from '../treat/TouchList.vue';

defineProps<{ place: 'base' | 'finish' }>();
const { store, areas, panel } = useBench();
const WORDS = {
  base: { name: 'Base', when: 'the whole frame, before all areas', hint: 'Decide here what the surroundings should look like; the face comes after.' },
  finish: { name: 'Finish', when: 'the whole frame, after all areas', hint: 'Last trims, after everything else; legal levels at the very end.' },
};
</script>

<template>
  <header class="title"><h2>{{ WORDS[place].name }}</h2><span class="dim">{{ WORDS[place].when }}</span></header>
  <div class="steps">
    <div v-if="store.recipe.value && areas.all.value.length === 0" class="begin">
      <button type="button" class="btn main" @click="panel = 'find'">Find the people on this frame</button>
      <span class="dim">faces, eyes, lips, teeth and necks at once (W)</span>
    </div>
    <TouchList :key="place" :where="WORDS[place].name" :place="place" :touches="(r) => r[place]" :hint="WORDS[place].hint">
      <template #default="{ add, empty }">
        <button v-if="empty && store.recipe.value" type="button" class="btn quiet" @click="add(['exposure', 'tone', 'colour'])">Exposure, tone and colour</button>
      </template>
    </TouchList>
  </div>
</template>

<style scoped>
.title {
  display: flex;
  flex: none;
  gap: 8px;
  align-items: center;
  height: 41px;
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
}

.begin {
  display: grid;
  gap: 6px;
  justify-items: start;
  margin: 4px 16px 14px;
}

h2 {
  font-size: 16px;
  font-weight: 600;
}

.steps {
  flex: 1;
  min-height: 0;
  padding-top: 10px;
  overflow-y: auto;
  scrollbar-width: thin;
  scrollbar-color: var(--g4) transparent;
}
</style>
