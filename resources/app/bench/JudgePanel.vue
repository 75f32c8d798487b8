<script setup lang="ts">
import type { View } from '../api/types';

defineProps<{ view: View; split: boolean; area: boolean }>();
const emit = defineEmits<{ view: [view: View]; split: [] }>();

const VIEWS: { name: string; value: View; key: string }[] = [
  { name: 'Result', value: 'result', key: '' },
  { name: 'Original', value: 'original', key: 'O' },
  { name: 'Base only', value: 'base', key: 'B' },
  { name: 'Matte', value: 'matte', key: 'M' },
  { name: 'Matte as a tint', value: 'tint', key: 'T' },
  { name: 'Picked over grey', value: 'picked', key: 'P' },
  { name: 'Without this area', value: 'without', key: 'X' },
];
</script>

<template>
  <div class="panel">
    <button v-for="v in VIEWS.filter((each) => area || !['matte', 'tint', 'picked', 'without'].includes(each.value))" :key="v.value" type="button" class="plain view" :aria-pressed="view === v.value" @click="emit('view', v.value)">
      <span>{{ v.name }}</span><kbd v-if="v.key" class="mono">{{ v.key }}</kbd>
    </button>
    <button type="button" class="plain view" :aria-pressed="split" @click="emit('split')"><span>Split against the original</span><kbd class="mono">S</kbd></button>
    <p class="dim">Hold a key to look, let go to come back; tap it to stay.</p>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 2px;
  padding: 0 16px 12px;
}

.view {
  display: flex;
  justify-content: space-between;
  padding: 3px 8px;
  border-radius: 2px;
  color: var(--t2);
}

.view:hover {
  background: var(--g2);
}

.view[aria-pressed='true'] {
  background: var(--g4);
  color: var(--t1);
}

p {
  margin-top: 4px;
  font-size: 12px;
}
</style>
