<script setup lang="ts">
/** The picture: finished pictures laid out, beside or parted by a line, with what can be taken hold of over them. */
import { computed, onMounted, ref, watch } from 'vue';
import type { Picture } from '../../api/client';
import { useBench } from '../bench';
import OutlineLayer from '../outline/OutlineLayer.vue';
import PenLayer from '../outline/PenLayer.vue';
import ProposalLayer from '../person/ProposalLayer.vue';
import TouchHandles from '../treat/TouchHandles.vue';
import PictureNotice from './PictureNotice.vue';
import SideNames from './SideNames.vue';
import SplitLine from './SplitLine.vue';
import { useDrawn } from './useDrawn';
import { useSplit } from './useSplit';
import { useSurround } from './useSurround';

const { stage, pictures, compare, moments, playback, views, areas, outlines, picking, treating, asked, selection, aspect, playhead, finding } = useBench();
const { surround, GREYS } = useSurround();
const { drawn, said } = useDrawn();
const canvas = ref<HTMLCanvasElement>();
const split = useSplit(stage, aspect);
/** Across a cut the shots follow each other instead of lying beside each other. */
const layout = computed(() => (moments.cut.value && playback.playing.value ? null : compare.layout.value));
const lined = computed(() => views.outlines.value && !playback.playing.value && views.shown.value !== 'original');
const tool = computed(() => (asked.value ? 'place' : areas.chosen.value ? outlines.tool.value : null));

function draw(): void {
  const c = canvas.value;
  const g = c?.getContext('2d');
  const { width, height, ratio, room, unit, origin, zoom } = stage;
  if (!c || !g || width.value === 0) return;
  const size = [Math.round(width.value * ratio.value), Math.round(height.value * ratio.value)] as const;
  if (c.width !== size[0] || c.height !== size[1]) [c.width, c.height] = size;
  g.setTransform(ratio.value, 0, 0, ratio.value, 0, 0);
  g.clearRect(0, 0, width.value, height.value);
  g.imageSmoothingEnabled = zoom.value === null || zoom.value < 2;
  g.imageSmoothingQuality = 'high';
  const lay = (layers: Picture[], shift = 0): void => {
    for (const { image, place: [x, y, w, h] } of layers) g.drawImage(image, shift + origin.value[0] + x * unit.value, origin.value[1] + y * unit.value, w * unit.value, h * unit.value);
  };
  const within = (path: () => void, how: () => void): void => {
    g.save();
    g.beginPath();
    path();
    g.clip();
    how();
    g.restore();
  };
  within(() => g.rect(0, 0, room.value, height.value), () => lay(pictures.layers.value));
  if (layout.value === 'side') within(() => g.rect(room.value, 0, room.value, height.value), () => lay(compare.other.value, room.value));
  if (layout.value === 'split') within(() => split.side.value.forEach(([x, y]) => g.lineTo(x, y)), () => lay(compare.other.value));
}
onMounted(draw);
watch([pictures.layers, compare.other, layout, stage.unit, stage.origin, stage.width, stage.height, stage.ratio, split.at], draw, { flush: 'post' });

function down(e: PointerEvent): void {
  if (e.button === 1 || (e.button === 0 && e.altKey)) stage.pan(e);
  else if (e.button === 0 && !tool.value) selection.lassoFrom(e);
}
</script>

<template>
  <div :ref="(el) => (stage.element.value = el as HTMLElement)" class="stage" role="region" aria-label="The picture" :style="{ background: GREYS[surround] }" data-stage @wheel.prevent="stage.wheel" @pointerdown="down" @auxclick.prevent>
    <canvas ref="canvas" role="img" :aria-label="`Frame ${playhead.shown.value}, ${views.shown.value}`"></canvas>
    <svg :class="{ late: playhead.late.value }" :width="stage.width.value" :height="stage.height.value" role="group" aria-label="Handles on the picture">
      <ProposalLayer v-if="finding.here.value.length > 0 && !playback.playing.value" />
      <OutlineLayer v-else-if="lined" />
      <template v-if="lined && !tool"><TouchHandles v-for="h in treating.handles.value" :key="h.id" :handle="h" /></template>
      <g v-for="(s, i) in views.outlines.value ? picking.samples.value : []" :key="`sample${i}`" class="spot" aria-hidden="true" :transform="`translate(${stage.onScreen(s.at).join(' ')})`">
        <template v-for="pass in ['dark', 'light']" :key="pass"><rect x="-5" y="-5" width="10" height="10" :class="pass" /><path :class="pass" :d="s.sign === '+' ? 'M-3 0h6M0 -3v6' : 'M-3 0h6'" /></template>
      </g>
      <polyline v-if="selection.lasso.value.length > 1" class="lasso" :points="selection.lasso.value.map((p) => p.join()).join(' ')" />
      <PenLayer v-if="tool" :tool="tool" @drawn="drawn" @said="said" />
      <SplitLine v-if="layout === 'split' && compare.other.value.length > 0" :split="split" />
    </svg>
    <SideNames v-if="layout && compare.other.value.length > 0" :layout="layout" :split="split" />
    <PictureNotice />
  </div>
</template>

<style scoped>
.stage {
  position: relative;
  min-height: 0;
  overflow: hidden;
  touch-action: none;
}

canvas,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

/* While the picture of the frame gone to is not there yet, nothing on the old one is to be taken hold of. */
.late :deep(*) {
  pointer-events: none !important;
}

.lasso {
  fill: none;
  pointer-events: none;
  stroke: #fff;
  stroke-dasharray: 3 3;
}

.spot {
  fill: none;
  pointer-events: none;
  stroke: #fff;
  stroke-width: 1.2;
}

.spot .dark {
  stroke: #000;
  stroke-opacity: 0.55;
  stroke-width: 3;
}
</style>
