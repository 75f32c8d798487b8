<script setup lang="ts">
/**
 * A number on a fine ruler: drag anywhere (Shift: finely), arrow keys, double-click to neutral, or type it; the wheel moves it
 * while it has the focus or Alt is held. Neutral stands at the notch in the middle; both sides reach to their ends.
 */
import { computed, nextTick, ref } from 'vue';
import { useArrows } from './useArrows';

const props = withDefaults(defineProps<{
  label: string;
  value: number;
  least: number;
  most: number;
  neutral: number;
  unit?: string;
  digits?: number;
  sign?: boolean;
  scale?: number;
  /** Whether the value is keyed, and on this frame; left out where it cannot be. */
  mark?: 'none' | 'here' | 'elsewhere' | null;
}>(), { unit: '', digits: 2, sign: false, scale: 1, mark: null });

const emit = defineEmits<{ change: [value: number]; commit: []; key: [] }>();

const centred = computed(() => props.neutral > props.least && props.neutral < props.most);
const toShare = (v: number): number => {
  if (!centred.value) return (v - props.least) / (props.most - props.least);
  return v < props.neutral ? 0.5 * ((v - props.least) / (props.neutral - props.least)) : 0.5 + 0.5 * ((v - props.neutral) / (props.most - props.neutral));
};
const toValue = (s: number): number => {
  const share = Math.min(1, Math.max(0, s));
  if (!centred.value) return props.least + share * (props.most - props.least);
  return share < 0.5 ? props.least + 2 * share * (props.neutral - props.least) : props.neutral + (2 * share - 1) * (props.most - props.neutral);
};
const share = computed(() => toShare(props.value));
const notch = computed(() => toShare(props.neutral));
const step = computed(() => 10 ** -props.digits / props.scale);
const shown = computed(() => {
  const text = (props.value * props.scale).toFixed(props.digits).replace('-', '−');
  const plus = props.sign && props.value > 0 ? '+' : '';
  return `${plus}${text}${props.unit ? ` ${props.unit}` : ''}`;
});

const round = (v: number): number => Number((Math.round(v / step.value) * step.value).toFixed(8));
function set(v: number): void {
  const next = round(Math.min(props.most, Math.max(props.least, v)));
  if (next !== props.value) emit('change', next);
}

let dragged: { x: number; share: number; width: number } | null = null;
function down(e: PointerEvent): void {
  if (e.button !== 0) return;
  const track = e.currentTarget as HTMLElement;
  track.setPointerCapture(e.pointerId);
  const box = track.getBoundingClientRect();
  const at = (e.clientX - box.left) / box.width;
  dragged = { x: e.clientX, share: e.shiftKey ? share.value : at, width: box.width };
  if (!e.shiftKey) set(toValue(at));
}
function move(e: PointerEvent): void {
  if (!dragged) return;
  dragged.share += ((e.clientX - dragged.x) / dragged.width) * (e.shiftKey ? 0.1 : 1);
  dragged.x = e.clientX;
  set(toValue(dragged.share));
}
function up(): void {
  if (!dragged) return;
  dragged = null;
  emit('commit');
}
function toNeutral(): void {
  set(props.neutral);
  emit('commit');
}

/** Many presses, or turns of the wheel, are one change. */
const arrows = useArrows(() => emit('commit'));
const by = (fine: boolean): number => step.value * (fine ? 1 : 5);
function key(e: KeyboardEvent): void {
  if (arrows.press(e, (x, y) => set(props.value + (x - y) * by(e.shiftKey)))) return;
  const pages = { PageUp: 10, PageDown: -10 }[e.key];
  if (pages !== undefined) {
    set(props.value + pages * by(false));
    arrows.touched();
  } else if (e.key === 'Home') toNeutral();
  else if (e.key === 'Enter') void type();
  else return;
  e.preventDefault();
  e.stopPropagation();
}
function wheel(e: WheelEvent): void {
  if (!e.altKey && document.activeElement !== e.currentTarget) return;
  e.preventDefault();
  set(props.value - Math.sign(e.deltaY || e.deltaX) * by(e.shiftKey));
  arrows.touched();
}

const typing = ref(false);
const typed = ref('');
const field = ref<HTMLInputElement>();
async function type(): Promise<void> {
  typed.value = (props.value * props.scale).toFixed(props.digits);
  typing.value = true;
  await nextTick();
  field.value?.select();
}
function take(): void {
  if (!typing.value) return;
  typing.value = false;
  const v = Number.parseFloat(typed.value.replace(',', '.').replace('−', '-'));
  if (Number.isFinite(v)) {
    set(v / props.scale);
    emit('commit');
  }
}
</script>

<template>
  <div class="ruler">
    <span class="label" :title="label" aria-hidden="true">{{ label }}</span>
    <button v-if="mark !== null" type="button" class="plain notch-key" :class="mark" :aria-label="mark === 'here' ? `${label}: take the keyframe here away` : `${label}: keyframe here`" :aria-pressed="mark === 'here'" @click="emit('key')"></button>
    <i v-else></i>
    <div
      class="track"
      role="slider"
      tabindex="0"
      :aria-label="label"
      :aria-valuemin="least"
      :aria-valuemax="most"
      :aria-valuenow="value"
      :aria-valuetext="shown"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up"
      @dblclick="toNeutral"
      @wheel="wheel"
      @keydown="key"
      @blur="arrows.settle()"
    >
      <i class="notch" :style="{ left: `${notch * 100}%` }"></i>
      <i class="fill" :style="{ left: `${Math.min(share, notch) * 100}%`, width: `${Math.abs(share - notch) * 100}%` }"></i>
      <i class="pointer" :style="{ left: `${share * 100}%` }"></i>
    </div>
    <input v-if="typing" ref="field" v-model="typed" class="mono figure" :aria-label="`${label}, typed`" @keydown.enter.prevent="take" @keydown.escape.prevent.stop="typing = false" @blur="take">
    <button v-else class="plain mono figure" type="button" :aria-label="`${label} ${shown}, type a value`" @click="type">{{ shown }}</button>
  </div>
</template>

<style scoped>
.ruler {
  display: grid;
  grid-template-columns: 80px 14px minmax(0, 1fr) 80px;
  gap: 4px;
  align-items: center;
  height: 26px;
}

.label {
  overflow: hidden;
  color: var(--t2);
  text-overflow: ellipsis;
  white-space: nowrap;
}

.notch-key {
  display: grid;
  place-content: center;
  width: 24px;
  height: 24px;
  margin: 0 -4px;
  opacity: 0;
}

.notch-key::before {
  display: block;
  width: 0;
  height: 0;
  border: 4px solid transparent;
  border-top: 7px solid var(--t3);
  border-bottom: 0;
  content: '';
}

.notch-key.here,
.notch-key.elsewhere,
.notch-key:focus-visible,
.ruler:hover .notch-key {
  opacity: 1;
}

.notch-key.here::before {
  border-top-color: var(--t1);
}

.notch-key.elsewhere::before {
  border-top-color: var(--t2);
  border-top-width: 3px;
}

.track {
  position: relative;
  height: 24px;
  background:
    repeating-linear-gradient(90deg, var(--mark) 0 1px, transparent 1px 10%) 0 21px / 100% 5px no-repeat,
    linear-gradient(var(--mark), var(--mark)) 100% 21px / 1px 5px no-repeat,
    linear-gradient(var(--mark), var(--mark)) 0 21px / 100% 1px no-repeat;
  background-position-y: 16px, 16px, 20px;
  cursor: ew-resize;
  touch-action: none;
}

.track i {
  position: absolute;
  pointer-events: none;
}

.notch {
  top: 4px;
  bottom: 3px;
  width: 1px;
  background: #9a9a9a;
}

.fill {
  bottom: 3px;
  height: 7px;
  background: #a8a8a8;
}

.pointer {
  top: 4px;
  bottom: 3px;
  width: 3px;
  margin-left: -1px;
  background: var(--t1);
}

.figure {
  width: 100%;
  height: 24px;
  text-align: right;
  white-space: nowrap;
}

input.figure {
  background: var(--g1);
  border: 1px solid var(--t3);
  border-radius: 2px;
  padding: 0 4px;
}
</style>
