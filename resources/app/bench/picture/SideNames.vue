<script setup lang="ts">
/** Which side of a comparison is which: a name on each, clear of the picture's middle. */
import { computed } from 'vue';
import { useBench } from '../bench';
import type { Layout } from '../judge/useCompare';
import type { SplitPlace } from './useSplit';

const props = defineProps<{ layout: Exclude<Layout, null>; split: SplitPlace }>();
const { stage, compare, views } = useBench();
const VIEW_WORDS: Record<string, string> = { result: 'result', original: 'original', base: 'base only', matte: 'matte', tint: 'tint', picked: 'picked', difference: 'difference', without: 'without this area' };
const OFF = 16;

const own = computed(() => VIEW_WORDS[views.shown.value] ?? 'result');
const other = computed(() => compare.words.value.replace(/^the /, ''));
/** Beside the line, one on each side of its grip; side by side under the top edge of each half. */
const places = computed(() => {
  if (props.layout === 'side') return [{ x: stage.room.value / 2, y: 8, turn: -50 }, { x: stage.room.value * 1.5, y: 8, turn: -50 }];
  const { angle } = props.split.at.value;
  const [cx, cy] = props.split.reach(-Math.min(120, stage.height.value / 3));
  const [nx, ny] = [-Math.sin((angle * Math.PI) / 180), Math.cos((angle * Math.PI) / 180)];
  const place = (side: 1 | -1): { x: number; y: number; turn: number } => ({ x: cx + side * nx * OFF, y: cy + side * ny * OFF - 11, turn: side * nx > 0.3 ? 0 : side * nx < -0.3 ? -100 : -50 });
  return [place(-1), place(1)];
});
</script>

<template>
  <span v-for="(p, i) in places" :key="i" class="name" :data-side="i === 0 ? 'own' : 'other'" :style="{ left: `${p.x}px`, top: `${p.y}px`, transform: `translateX(${p.turn}%)` }">{{ i === 0 ? own : other }}</span>
</template>

<style scoped>
.name {
  position: absolute;
  padding: 2px 8px;
  background: #161616cc;
  border-radius: 2px;
  font-size: 12px;
  pointer-events: none;
  white-space: nowrap;
}
</style>
