<script setup lang="ts">
/** Balance: two rulers, green to red and blue to yellow, each with three lettered notches for shadows, mids and highlights. */
import { ref } from 'vue';
import { hold } from './drag';

const props = defineProps<{ values: Record<string, number>; most: number }>();
const emit = defineEmits<{ change: [name: string, value: number]; commit: [] }>();

const AXES = [
  { suffix: 'Red', from: 'green', to: 'red', colours: 'oklch(0.6 0.08 160), #3a3a3a, oklch(0.6 0.08 20)' },
  { suffix: 'Yellow', from: 'blue', to: 'yellow', colours: 'oklch(0.6 0.08 250), #3a3a3a, oklch(0.7 0.08 95)' },
];
const ZONES = [
  { name: 'shadows', letter: 'S' },
  { name: 'mids', letter: 'M' },
  { name: 'highlights', letter: 'H' },
];
const active = ref('midsRed');
const of = (name: string): number => props.values[name] ?? 0;
const round = (v: number): number => Math.round(Math.min(props.most, Math.max(-props.most, v)) * 1e4) / 1e4;

function down(e: PointerEvent, name: string): void {
  if (e.button !== 0) return;
  e.preventDefault();
  active.value = name;
  const flag = e.currentTarget as HTMLElement;
  flag.focus();
  const track = (flag.parentElement as HTMLElement).getBoundingClientRect();
  let x = e.clientX;
  let value = of(name);
  hold(e, (m) => {
    value += ((m.clientX - x) / track.width) * 2 * props.most * (m.shiftKey ? 0.2 : 1);
    x = m.clientX;
    emit('change', name, round(value));
  }, () => emit('commit'));
}
function nudge(name: string, by: number): void {
  emit('change', name, round(of(name) + by));
  emit('commit');
}
function toNeutral(name: string): void {
  emit('change', name, 0);
  emit('commit');
}
</script>

<template>
  <div v-for="axis in AXES" :key="axis.suffix" class="axis" :data-balance="axis.suffix">
    <span class="end">{{ axis.from }}</span>
    <div class="track">
      <i class="tint" :style="{ background: `linear-gradient(90deg, ${axis.colours})` }"></i>
      <button
        v-for="z in ZONES" :key="z.name" type="button" class="plain mono flag" role="slider" :class="{ on: active === z.name + axis.suffix, [z.name]: true }"
        :style="{ left: `${50 + (of(z.name + axis.suffix) / most) * 50}%` }" :aria-label="`${z.name}, ${axis.from} to ${axis.to}`" :aria-valuenow="of(z.name + axis.suffix)" :aria-valuemin="-most" :aria-valuemax="most"
        @pointerdown="down($event, z.name + axis.suffix)" @dblclick="toNeutral(z.name + axis.suffix)" @keydown.left.prevent="nudge(z.name + axis.suffix, $event.shiftKey ? -0.0005 : -0.002)" @keydown.right.prevent="nudge(z.name + axis.suffix, $event.shiftKey ? 0.0005 : 0.002)" @keydown.home.prevent="toNeutral(z.name + axis.suffix)"
      >
{{ z.letter }}
</button>
    </div>
    <span class="end">{{ axis.to }}</span>
  </div>
  <p class="mono dim words">{{ ZONES.map((z) => `${z.letter} ${(of(`${z.name}Red`) * 1000).toFixed(0)} / ${(of(`${z.name}Yellow`) * 1000).toFixed(0)}`).join('   ') }}</p>
</template>

<style scoped>
.axis {
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr) 44px;
  gap: 8px;
  align-items: center;
  height: 40px;
}

.end {
  color: var(--t2);
  font-size: 12px;
}

.end:last-child {
  text-align: right;
}

.track {
  position: relative;
  height: 34px;
  background: linear-gradient(#9a9a9a, #9a9a9a) 50% 50% / 1px 14px no-repeat;
}

.tint {
  position: absolute;
  top: 16px;
  width: 100%;
  height: 3px;
}

.flag {
  position: absolute;
  width: 15px;
  height: 16px;
  margin-left: -7px;
  background: var(--g4);
  color: var(--t1);
  font-size: 10px;
  line-height: 16px;
  text-align: center;
  cursor: ew-resize;
  touch-action: none;
}

.flag::after {
  position: absolute;
  left: 7px;
  width: 1px;
  height: 5px;
  background: var(--t1);
  content: '';
}

.shadows,
.highlights {
  top: 0;
}

.shadows {
  margin-left: -15px;
}

.highlights {
  margin-left: 0;
}

.shadows::after,
.highlights::after {
  top: 16px;
}

.shadows::after {
  left: 14px;
}

.highlights::after {
  left: 0;
}

.mids {
  top: 20px;
}

.mids::after {
  top: -5px;
}

.on {
  background: var(--t1);
  color: #111;
}

.words {
  padding-bottom: 4px;
  white-space: pre;
}
</style>
