<script setup lang="ts">
/** Which of some touches go along; shown where there is more than one. */
import Checkbox from 'primevue/checkbox';
import type { Touch } from '../../api/types';
import { useBench } from '../bench';
import { TOUCHES } from '../treat/touches';

defineProps<{ touches: Touch[] }>();
const { carrying } = useBench();
</script>

<template>
  <div v-if="touches.length > 1" class="touches"><label v-for="t in touches" :key="t.id" class="tick"><Checkbox :model-value="!carrying.left.value.has(t.id)" binary @update:model-value="carrying.leaveTouch(t.id)" /> {{ TOUCHES[t.kind]?.label ?? t.kind }}</label></div>
</template>

<style scoped>
.touches {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  padding-left: 24px;
  color: var(--t2);
  font-size: 12px;
}
</style>
