<script setup lang="ts">
/** What has to be known of the picture, in one line over it; only the most pressing is said. */
import { computed } from 'vue';
import { useBench } from '../bench';
import type { Tool } from '../outline/drawing';

const { pictures, playhead, store, cures, history, asked, outlines, areas, following } = useBench();
const TOOL_WORDS: Record<Tool, string> = {
  ellipse: 'Drag across the picture to draw an ellipse.',
  box: 'Drag across the picture to draw a box.',
  path: 'Click for corners, click and drag for curves; close on the first point.',
  edges: 'Click along an edge: the path keeps to it. Close on the first point.',
  spot: 'Click a spot that can be told apart; a second one gives rotation and scale.',
  take: 'Click or drag over colours the pick should take.',
  leave: 'Click or drag over colours the pick should leave.',
  place: '',
};
const words = computed(() => {
  if (pictures.failure.value) return `▲ ${pictures.failure.value}`;
  if (pictures.waits.value) return pictures.waits.value;
  if (store.offline.value) return '▲ The server cannot be reached or broke down. Your change is kept here and saved when it is back.';
  if (history.looked.value !== null) return `Looking at ${history.looked.value}: ${history.words.value}. Nothing is changed. Esc leaves it.`;
  if (cures.previewed.value) return `Previewed: ${cures.previewed.value.words}. Nothing is changed yet.`;
  if (asked.value) return `${asked.value.words} Esc leaves it.`;
  if (outlines.tool.value && areas.chosen.value) return `${TOOL_WORDS[outlines.tool.value]} Esc leaves it.`;
  if (following.correcting.value) return `Drag ${areas.chosen.value?.name} right on this frame: inside to move, the letter to turn, a cross to scale. Esc ends it.`;
  return pictures.layers.value.length === 0 ? 'Making the picture…' : null;
});
/** The picture, and all that lies over it, is still of another frame. */
const late = computed(() => pictures.busy.value && pictures.layers.value.length > 0 && playhead.late.value);
</script>

<template>
  <p v-if="words" class="over" role="status">{{ words }}</p>
  <p v-if="late" class="late dim">Frame {{ playhead.frame.value }} is on its way</p>
  <i v-if="pictures.busy.value && pictures.layers.value.length > 0" class="redoing" role="img" aria-label="The picture is being redone"></i>
</template>

<style scoped>
.over {
  position: absolute;
  top: 12px;
  left: 50%;
  max-width: 90%;
  padding: 4px 12px;
  background: var(--g0);
  border: 1px solid var(--line);
  border-radius: 2px;
  transform: translateX(-50%);
}

.late {
  position: absolute;
  top: 2px;
  right: 22px;
  padding: 0 6px;
  background: var(--g0);
  border-radius: 2px;
  animation: appear 0s 0.25s both;
}

.redoing {
  position: absolute;
  top: 8px;
  right: 8px;
  width: 6px;
  height: 6px;
  background: var(--t1);
  border-radius: 50%;
  animation: appear 0s 0.25s both;
}

@keyframes appear {
  from {
    opacity: 0;
  }

  to {
    opacity: 1;
  }
}
</style>
