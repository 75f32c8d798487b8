<script setup lang="ts">
/** Settings that are measured in the picture: what would make the area grey, the whites of the eyes, a place to cover from. */
import { api } from '../../../api/client';
import { useNotices } from '../../../useNotices';
import { useBench } from '../../bench';
import type { EditorControl } from '../touches';
import { useTouch } from '../useTouch';

defineProps<{ control: EditorControl }>();
const { shot, areas, treating, playhead, store, askPlace } = useBench();
const { set, commit } = useTouch();
const { fail } = useNotices();
const here = () => ({ frame: playhead.frame.value, ...store.asked() });

function greyFromArea(): void {
  const found = treating.colours.value?.balance;
  if (!found) return;
  set({ temperature: found.temperature, tint: found.tint });
  commit('grey from the area');
}
async function whites(): Promise<void> {
  const at = await askPlace('Click the white of an eye.');
  const area = areas.chosen.value;
  if (!at || !area) return;
  try {
    const { lab } = await api.sample(shot.id, area.id, { ...here(), at });
    set({ ceiling: lab[0], clean: lab[2] });
    commit('whites of the eyes');
  } catch (reason) {
    fail('The place cannot be read', reason);
  }
}
async function cover(): Promise<void> {
  const area = areas.chosen.value;
  if (!area) return;
  try {
    const [offsetX, offsetY] = await api.cover(shot.id, area.id, here());
    set({ offsetX, offsetY });
    commit('found a place');
  } catch (reason) {
    fail('Nothing was found to cover it with', reason);
  }
}
</script>

<template>
  <div v-if="areas.chosen.value" class="line">
    <button v-if="control.type === 'grey'" type="button" class="btn small" :disabled="!treating.colours.value" @click="greyFromArea">Make this area grey</button>
    <button v-else-if="control.type === 'whites'" type="button" class="btn small" @click="whites">Ceiling from the whites of the eyes</button>
    <template v-else><button type="button" class="btn small" @click="cover">Find a place</button><span class="dim">or drag the ring on the picture</span></template>
  </div>
</template>

<style scoped src="./controls.css"></style>
