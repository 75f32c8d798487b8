<script setup lang="ts">
/**
 * A number on a fine ruler: drag anywhere (Shift: finely), wheel, arrow keys, double-click to neutral, or type it.
 * Neutral stands at the notch in the middle; both sides reach to their ends.
 */
import { computed, nextTick, ref } from 'vue';

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
function nudge(steps: number, fine: boolean): void {
  set(props.value + steps * step.value * (fine ? 1 : 5));
  emit('commit');
}
let wheeled: ReturnType<typeof setTimeout> | undefined;
function wheel(e: WheelEvent): void {
  set(props.value - Math.sign(e.deltaY || e.deltaX) * step.value * (e.shiftKey ? 1 : 5));
  clearTimeout(wheeled);
  wheeled = setTimeout(() => emit('commit'), 300);
}
function toNeutral(): void {
  set(props.neutral);
  emit('commit');
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
    <span class="label" :title="label">{{ label }}</span>
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
      @wheel.prevent="wheel"
      @keydown.left.prevent="nudge(-1, $event.shiftKey)"
      @keydown.down.prevent="nudge(-1, $event.shiftKey)"
      @keydown.right.prevent="nudge(1, $event.shiftKey)"
      @keydown.up.prevent="nudge(1, $event.shiftKey)"
      @keydown.home.prevent="toNeutral"
    >
      <i class="notch" :style="{ left: `${notch * 100}%` }"></i>
      <i class="fill" :style="{ left: `${Math.min(share, notch) * 100}%`, width: `${Math.abs(share - notch) * 100}%` }"></i>
      <i class="pointer" :style="{ left: `${share * 100}%` }"></i>
    </div>
    <input v-if="typing" ref="field" v-model="typed" class="mono figure" :aria-label="`${label}, typed`" @keydown.enter.prevent="take" @keydown.escape.prevent="typing = false" @blur="take">
    <button v-else class="plain mono figure" type="button" :aria-label="`${label} ${shown}, type a value`" @click="type">{{ shown }}</button>
  </div>
</template>

<style scoped>
.ruler {
  display: grid;
  grid-template-columns: 74px 10px minmax(0, 1fr) 72px;
  gap: 6px;
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
  width: 10px;
  height: 18px;
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
  height: 18px;
  background:
    repeating-linear-gradient(90deg, #5a5a5a 0 1px, transparent 1px 10%) 0 100% / 100% 5px no-repeat,
    linear-gradient(#5a5a5a, #5a5a5a) 100% 100% / 1px 5px no-repeat,
    linear-gradient(#5a5a5a, #5a5a5a) 0 100% / 100% 1px no-repeat;
  cursor: ew-resize;
  touch-action: none;
}

.track i {
  position: absolute;
  pointer-events: none;
}

.notch {
  top: 1px;
  bottom: 0;
  width: 1px;
  background: #9a9a9a;
}

.fill {
  bottom: 0;
  height: 7px;
  background: #a8a8a8;
}

.pointer {
  top: 1px;
  bottom: 0;
  width: 3px;
  margin-left: -1px;
  background: var(--t1);
}

.figure {
  width: 100%;
  height: 20px;
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
