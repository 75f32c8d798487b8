<script setup lang="ts">
/** Whose an area is and which part, how strongly it acts, and on which frames. */
import InputNumber from 'primevue/inputnumber';
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Area } from '../../api/types';
import RulerSlider from '../../widgets/RulerSlider.vue';
import { useBench } from '../bench';
import { markOf, valueAt } from '../recipe/keyed';
import { PART_WORDS, type LiveEnd } from './useAreas';

defineProps<{ area: Area }>();
const { areas, people, playhead, panel, shot } = useBench();
const persons = computed(() => [{ name: 'nobody', slug: '' }, ...people.list.value]);
const parts = Object.entries(PART_WORDS).map(([value, name]) => ({ value, name }));
const ENDS: { end: LiveEnd; words: string }[] = [{ end: 'from', words: 'First live frame' }, { end: 'to', words: 'Last live frame' }, { end: 'fadeIn', words: 'Frames it fades in' }, { end: 'fadeOut', words: 'Frames it fades out' }];

function live(end: LiveEnd, value: number | null): void {
  if (value === null) return;
  areas.live(end, value);
  void areas.liveDone(end);
}
</script>

<template>
  <div class="about">
    <div class="line">
      <label for="area-person" class="label">Person</label>
      <Select input-id="area-person" :model-value="area.person ?? ''" :options="persons" option-label="name" option-value="slug" aria-label="Person" @update:model-value="areas.setPerson($event || null, people.nameOf($event))" />
      <button type="button" class="btn small" @click="panel = 'people'">People…</button>
    </div>
    <div class="line">
      <label for="area-part" class="label">Part</label>
      <Select input-id="area-part" :model-value="area.part" :options="parts" option-label="name" option-value="value" aria-label="Part" @update:model-value="areas.setPart($event)" />
    </div>
    <RulerSlider
      label="Strength" :value="valueAt(area.strength, playhead.frame.value)" :least="0" :most="1" :neutral="1" :digits="0" :scale="100" unit="%" :mark="markOf(area.strength, playhead.frame.value)"
      @change="areas.setStrength($event)" @commit="areas.commit('strength')" @key="areas.keyStrength()"
    />
    <div class="line" role="group" aria-label="Live span">
      <span class="label">Live</span>
      <InputNumber v-for="e in ENDS.slice(0, 2)" :key="e.end" :model-value="area.live[e.end]" :min="shot.from" :max="shot.to" :use-grouping="false" :aria-label="e.words" @update:model-value="live(e.end, $event)" />
      <span class="dim">or on the lane</span>
    </div>
    <div class="line" role="group" aria-label="Fades">
      <span class="label">Fades</span>
      <InputNumber v-for="e in ENDS.slice(2)" :key="e.end" :model-value="area.live[e.end]" :min="0" :max="area.live.to - area.live.from" :use-grouping="false" suffix=" f" :aria-label="e.words" @update:model-value="live(e.end, $event)" />
      <span class="dim">in and out</span>
    </div>
  </div>
</template>

<style scoped>
.about {
  display: grid;
  flex: none;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  padding: 10px 16px;
  background: var(--g3);
  border-bottom: 1px solid var(--line);
}

.line {
  display: flex;
  gap: 6px;
  align-items: center;
}

.label {
  flex: none;
  width: 74px;
  color: var(--t2);
}

.line :deep(.p-inputnumber-input) {
  width: 62px;
}

.line :deep(.p-select) {
  min-width: 130px;
}

@media (width < 1150px) {
  .line .dim {
    display: none;
  }
}
</style>
