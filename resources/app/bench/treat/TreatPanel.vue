<script setup lang="ts">
/** The touches of the chosen area, or of the one it is linked to. */
import type { Area } from '../../api/types';
import { useBench } from '../bench';
import TouchList from './TouchList.vue';

defineProps<{ area: Area }>();
const { areas, treating } = useBench();
const { treated } = areas;
</script>

<template>
  <p v-if="area.pair" class="pair">
    <template v-if="area.pair.linked">Treated as {{ treated?.name }}: changes go to both. <button type="button" class="btn small" @click="treating.link(false)">Unlink</button></template>
    <template v-else>Once treated as {{ areas.nameOf(area.pair.with) }}. <button type="button" class="btn small" @click="treating.link(true)">Link again</button></template>
  </p>
  <TouchList v-if="treated" :key="treated.id" :where="treated.name" place="area" :part="area.part" :touches="(r) => r.areas.find((a) => a.id === treated?.id)?.touches ?? []" hint="Inside touches change the area, outside touches its surroundings.">
    <template #default="{ add, empty }">
      <button v-if="empty" type="button" class="btn quiet" @click="add(['exposure', 'tone', 'colour'], 'inside')">Exposure, tone and colour</button>
      <button v-if="treating.canPair.value" type="button" class="btn quiet" @click="treating.makeOther()">Make the other eye</button>
    </template>
  </TouchList>
</template>

<style scoped>
.pair {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  padding: 2px 16px 8px;
  color: var(--t2);
}
</style>
