<script setup lang="ts">
/** A new area: named, then drawn on the picture, which stays in sight. Or a whole person at once. */
import InputText from 'primevue/inputtext';
import { onMounted, ref } from 'vue';
import SidePanel from '../../widgets/SidePanel.vue';
import { useBench } from '../bench';
import { PARTS } from './useAreas';

const { areas, outlines, panel } = useBench();
const name = ref(areas.all.value.length ? '' : 'Face');
const field = ref<{ $el: HTMLInputElement }>();
onMounted(() => field.value?.$el.select());

async function add(): Promise<void> {
  if (!name.value.trim()) return;
  panel.value = null;
  const added = areas.add(name.value.trim());
  outlines.tool.value = 'ellipse';
  await added;
}
</script>

<template>
  <SidePanel title="Add an area" @close="panel = null">
    <form class="naming" @submit.prevent="add">
      <button type="button" class="btn wide" @click="panel = 'find'">Find the people on this frame<small>face, lids, irises, lips, teeth and neck at once (W)</small></button>
      <p class="dim">Or one area, drawn by hand:</p>
      <div class="names"><button v-for="n in Object.keys(PARTS)" :key="n" type="button" class="btn small" :aria-pressed="name === n" @click="name = n">{{ n }}</button></div>
      <label for="area-name">Name</label>
      <InputText id="area-name" ref="field" v-model="name" maxlength="80" />
      <div class="row"><button type="button" class="btn" @click="panel = null">Leave it</button><button type="submit" class="btn main" :disabled="!name.trim()">Add and draw it</button></div>
    </form>
  </SidePanel>
</template>

<style scoped>
.naming {
  display: grid;
  gap: 8px;
}

.wide {
  display: grid;
  padding: 8px 12px;
  text-align: left;
  white-space: normal;
}

.wide small {
  color: var(--t2);
  font-size: 12px;
}

.names {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.row {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
  margin-top: 8px;
}
</style>
