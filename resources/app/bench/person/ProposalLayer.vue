<script setup lang="ts">
/** What is proposed for the people on this frame, dashed over the picture; each person has a number to choose them by. */
import { computed } from 'vue';
import type { Area, DrawnShape, Pair } from '../../api/types';
import { useBench } from '../bench';
import { IDENTITY } from '../outline/geometry';
import { edgeOf, isDrawn } from '../outline/shapes';

const { finding, stage } = useBench();
const line = (shape: DrawnShape): string => `M${edgeOf(shape, IDENTITY, shape.grow).map((p) => stage.onScreen(p.at).map((v) => v.toFixed(1)).join(' ')).join('L')}Z`;

const lines = computed(() => {
  const one = finding.here.value[finding.chosen.value];
  // What is outlined on another frame lies elsewhere on this one.
  const here = (a: Area): boolean => a.outline.at === finding.frame.value;
  const drawn = (area: Area): DrawnShape[] => area.outline.shapes.flatMap((s) => (s.kind === 'area' ? one?.areas.filter((a) => a.id === s.of && here(a)).flatMap(drawn) ?? [] : isDrawn(s) ? [s] : []));
  // Of parts by name only what is asked for.
  const asked = (a: Area): boolean => !one?.more.includes(a.id) || finding.ticked.value.has(a.id) || finding.pointed.value === a.id;
  return (one?.areas ?? []).filter((a) => here(a) && asked(a)).map((area) => ({
    id: area.id,
    name: area.name,
    d: (one?.more.includes(area.id) ? drawn(area) : area.outline.shapes.filter(isDrawn)).map(line).join(''),
    on: finding.ticked.value.has(area.id),
    pointed: finding.pointed.value === area.id,
  }));
});
const numbers = computed(() => (finding.here.value.length > 1 ? finding.here.value.map((p, i) => ({ i, at: stage.onScreen([p.box[0] + p.box[2] / 2, p.box[1]] as Pair), chosen: i === finding.chosen.value })) : []));
</script>

<template>
  <g class="proposals">
    <g v-for="l in lines" :key="l.id" :class="{ off: !l.on, pointed: l.pointed }">
      <path class="under" :d="l.d" /><path class="over" :d="l.d" />
      <path class="along" :d="l.d" @pointerenter="finding.pointed.value = l.id" @pointerleave="finding.pointed.value = null" />
    </g>
    <g v-for="n in numbers" :key="n.i" class="number" role="button" tabindex="0" :aria-label="`Person ${n.i + 1}`" :aria-pressed="n.chosen" :class="{ chosen: n.chosen }" :transform="`translate(${n.at[0]} ${Math.max(16, n.at[1] - 18)})`" @pointerdown.stop="finding.choose(n.i)" @keydown.enter.stop="finding.choose(n.i)" @keydown.space.stop.prevent="finding.choose(n.i)">
      <rect x="-13" y="-13" width="26" height="26" rx="2" /><text y="5">{{ n.i + 1 }}</text>
    </g>
  </g>
</template>

<style scoped>
path {
  fill: none;
  pointer-events: none;
  stroke-dasharray: 5 4;
}

.under {
  stroke: #000;
  stroke-opacity: 0.55;
  stroke-width: 2.6;
}

.over {
  stroke: #fff;
  stroke-width: 1.2;
}

.off .under {
  stroke-opacity: 0.25;
}

.off .over {
  stroke-opacity: 0.45;
  stroke-dasharray: 2 7;
}

.pointed .over {
  stroke-opacity: 1;
  stroke-width: 2.4;
}

.along {
  pointer-events: stroke;
  stroke: transparent;
  stroke-dasharray: none;
  stroke-width: 9;
}

.number {
  cursor: pointer;
}

.number rect {
  fill: #111;
  fill-opacity: 0.7;
  stroke: #fff;
  stroke-opacity: 0.7;
}

.number text {
  fill: #fff;
  font-size: 14px;
  text-anchor: middle;
}

.number.chosen rect {
  fill: #e6e6e6;
  fill-opacity: 1;
}

.number.chosen text {
  fill: #111;
  font-weight: 700;
}

.number:focus-visible {
  outline: none;
}

.number:focus-visible rect {
  stroke-opacity: 1;
  stroke-width: 3;
}
</style>
