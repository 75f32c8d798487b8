<script setup lang="ts">
/** Balance: two rulers, green to red and blue to yellow, each with three lettered notches for shadows, mids and highlights. */
import { computed, ref } from 'vue';
import { useArrows } from '../../../widgets/useArrows';
import { hold } from '../../picture/drag';
import { useTouch } from '../useTouch';

const { value: of, set, number, commit } = useTouch();
const most = computed(() => number('midsRed')?.most ?? 0.1);
const arrows = useArrows(() => commit('balance'));

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
const put = (name: string, v: number): void => set({ [name]: Math.round(v * 1e4) / 1e4 });

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
    value += ((m.clientX - x) / track.width) * 2 * most.value * (m.shiftKey ? 0.2 : 1);
    x = m.clientX;
    put(name, value);
  }, () => commit('balance'));
}
function toNeutral(name: string): void {
  put(name, 0);
  commit('balance');
}
function key(e: KeyboardEvent, name: string): void {
  if (arrows.press(e, (x, y) => put(name, of(name) + (x - y) * (e.shiftKey ? 0.0005 : 0.002)))) return;
  if (e.key !== 'Home') return;
  toNeutral(name);
  e.preventDefault();
  e.stopPropagation();
}
</script>

<template>
  <div v-for="axis in AXES" :key="axis.suffix" class="axis" :data-balance="axis.suffix">
    <span class="end">{{ axis.from }}</span>
    <div class="track">
      <i class="tint" :style="{ background: `linear-gradient(90deg, ${axis.colours})` }"></i>
      <button
        v-for="z in ZONES" :key="z.name" type="button" class="plain mono flag" role="slider" :class="{ on: active === z.name + axis.suffix, [z.name]: true }"
        :style="{ left: `${50 + (of(z.name + axis.suffix) / most) * 50}%` }" :aria-label="`${z.name}, ${axis.from} to ${axis.to}`" :aria-valuenow="of(z.name + axis.suffix)" :aria-valuetext="(of(z.name + axis.suffix) * 1000).toFixed(1)" :aria-valuemin="-most" :aria-valuemax="most"
        @pointerdown="down($event, z.name + axis.suffix)" @dblclick="toNeutral(z.name + axis.suffix)" @keydown="key($event, z.name + axis.suffix)" @blur="arrows.settle()"
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
