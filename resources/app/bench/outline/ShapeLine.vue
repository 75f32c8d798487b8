<script setup lang="ts">
/** A shape that is not being worked on: its edge in its area's own dashes, and its letter to choose it by. */
import { toRef } from 'vue';
import type { DrawnShape, Pair } from '../../api/types';
import { useBench } from '../bench';
import type { Matrix } from './geometry';
import { useShapeOnStage } from './useShapeOnStage';

const props = defineProps<{ shape: DrawnShape; matrix: Matrix; letter: string; flag: Pair; dash: string; name: string }>();
const emit = defineEmits<{ choose: [] }>();
const { stage } = useBench();
const { line } = useShapeOnStage(toRef(props, 'shape'), toRef(props, 'matrix'), stage);
</script>

<template>
  <g>
    <path class="under" :d="line" :stroke-dasharray="dash" />
    <path class="over" :d="line" :stroke-dasharray="dash" />
    <g class="flag" data-handle="flag" tabindex="0" role="button" :aria-label="`Work on ${letter}, ${name}`" :transform="`translate(${flag[0]} ${flag[1]})`" @pointerdown.stop="emit('choose')" @keydown.enter.stop="emit('choose')" @keydown.space.stop.prevent="emit('choose')">
      <rect class="target" x="-2" y="-22" width="28" height="24" />
      <path d="M0 0l6 -15h15v13h-14z" />
      <text x="13.5" y="-4.8" font-size="10">{{ letter }}</text>
    </g>
  </g>
</template>

<style scoped src="./outline.css"></style>
