<script setup lang="ts">
/** The controls of one touch, by its kind. */
import Select from 'primevue/select';
import { computed, ref, shallowRef } from 'vue';
import { api } from '../api/client';
import type { Kind, MaybeKeyed, NumberParameter, Pair, PointsParameter, Shot, Touch } from '../api/types';
import { useNotices } from '../useNotices';
import RulerSlider from '../widgets/RulerSlider.vue';
import BalanceRulers from './BalanceRulers.vue';
import CurveEditor, { type CurveName } from './CurveEditor.vue';
import HueBand, { type BandName } from './HueBand.vue';
import { useBench } from './context';
import { TOUCHES, labelOf, markOf, toggledKey, valueAt, withValue, type Control, type RulerControl } from './touches';
import { freshId } from './useRecipe';

const props = defineProps<{ touch: Touch; kind: Kind | undefined; more: boolean }>();
const emit = defineEmits<{ change: [change: Partial<Touch>]; commit: [label: string] }>();

const bench = useBench();
const { fail } = useNotices();
const label = computed(() => labelOf(props.touch.kind));
const controls = computed<Control[]>(() => (TOUCHES[props.touch.kind]?.controls ?? []).filter((c) => !c.more || props.more));
const keyed = (name: string): MaybeKeyed => props.touch[name] as MaybeKeyed;
const value = (name: string): number => valueAt(keyed(name), bench.frame.value);
const number = (name: string) => props.kind?.parameters.find((p): p is NumberParameter => p.type === 'number' && p.name === name);
const range = (name: string): Pair => props.kind?.parameters.find((p): p is PointsParameter => p.type === 'points' && p.name === name)?.y ?? [-1, 1];

function set(values: Record<string, number>): void {
  emit('change', Object.fromEntries(Object.entries(values).map(([name, v]) => [name, withValue(keyed(name), bench.frame.value, within(name, v))])));
}
function within(name: string, v: number): number {
  const p = number(name);
  return p ? Math.min(p.most, Math.max(p.least, v)) : v;
}
const commit = (what: string): void => emit('commit', `${label.value}: ${what}`);
function toggleKey(name: string, words: string): void {
  emit('change', { [name]: toggledKey(keyed(name), bench.frame.value) });
  commit(`${words}, keyframe ${bench.frame.value}`);
}
async function asked<T>(what: string, ask: () => Promise<T>, take: (answer: T) => void, words: string): Promise<void> {
  try {
    take(await ask());
    commit(words);
  } catch (reason) {
    fail(what, reason);
  }
}
const here = () => ({ frame: bench.frame.value, ...bench.unsaved() });

// --- what is measured in the picture -----------------------------------------------------------------------------
function greyFromArea(): void {
  const found = bench.colours.value?.balance;
  if (!found) return;
  set({ temperature: found.temperature, tint: found.tint });
  commit('grey from the area');
}
async function whites(): Promise<void> {
  const at = await bench.choosePlace('Click the white of an eye.');
  const area = bench.area.value;
  if (at && area) await asked('The place cannot be read', () => api.sample(bench.shot.id, area.id, { ...here(), at }), ({ lab }) => set({ ceiling: lab[0], clean: lab[2] }), 'whites of the eyes');
}
async function cover(): Promise<void> {
  const area = bench.area.value;
  if (area) await asked('Nothing was found to cover it with', () => api.cover(bench.shot.id, area.id, here()), ([offsetX, offsetY]) => set({ offsetX, offsetY }), 'found a place');
}
const target = (lab: number[]): void => set({ targetL: lab[0] ?? 0, targetA: lab[1] ?? 0, targetB: lab[2] ?? 0 });
async function targetFromPicture(): Promise<void> {
  const at = await bench.choosePlace('Click the colour to match.');
  const area = bench.area.value;
  if (at && area) await asked('The place cannot be read', () => api.sample(bench.shot.id, area.id, { ...here(), at }), ({ lab }) => target(lab), 'target from the picture');
}
/** Believable skin: means of Oklab a and b over the light; deep and fair skin share the hue, fair skin is lighter. */
function believable(): void {
  const l = bench.colours.value?.mean[0] ?? 0.65;
  target([l, 0.035 + 0.01 * (1 - l), 0.048 + 0.012 * (1 - l)]);
  commit('believable skin');
}
const shots = shallowRef<Shot[]>([]);
const others = computed(() => shots.value.flatMap((s) => (s.progress?.areas ?? []).map((a) => ({ label: `${s.name} · ${a.name}`, value: `${s.id} ${a.id}` }))));
const footages = computed(() => shots.value.filter((s) => s.footage).map((s) => ({ label: s.name, value: s.footage?.sha256 ?? '' })));
async function loadShots(): Promise<void> {
  if (shots.value.length === 0) shots.value = (await api.job(bench.shot.jobId)).shots;
}
async function targetFromArea(chosen: string): Promise<void> {
  const [shot = '', area = ''] = chosen.split(' ');
  const of = shots.value.find((s) => s.id === Number(shot));
  if (!of) return;
  const frame = of.id === bench.shot.id ? bench.frame.value : Math.round((of.from + of.to) / 2);
  await asked('That area cannot be read', () => api.colours(of.id, area, { frame }), (found) => found && target(found.mean), `target from ${of.name}`);
}

// --- files --------------------------------------------------------------------------------------------------------
const file = ref<HTMLInputElement>();
const corrections = shallowRef<{ id: string; settings: Record<string, number> }[]>([]);
function asset(sha256: string, kind: string): string {
  let name = '';
  bench.store.edit((recipe) => {
    name = Object.keys(recipe.assets).find((n) => recipe.assets[n]?.sha256 === sha256) ?? freshId(recipe, 'file');
    recipe.assets = { ...recipe.assets, [name]: { sha256, kind } };
  });
  return name;
}
async function readFile(e: Event): Promise<void> {
  const input = e.target as HTMLInputElement;
  const chosen = input.files?.[0];
  input.value = '';
  if (!chosen) return;
  const text = await chosen.text();
  if (props.touch.kind === 'lut') await asked('The look-up table was not taken', () => api.cube(text), ({ sha256 }) => emit('change', { file: asset(sha256, 'cube') }), chosen.name);
  else {
    await asked('The decision list was not taken', () => api.readCdl(text), (found) => {
      corrections.value = found;
      const first = found[0];
      if (first) set(first.settings);
    }, chosen.name);
  }
}
function takeCorrection(id: string): void {
  const found = corrections.value.find((c) => c.id === id);
  if (!found) return;
  set(found.settings);
  commit(id);
}
function insertFootage(sha256: string): void {
  emit('change', { file: asset(sha256, 'footage') });
  commit('footage');
}
const fileName = computed(() => {
  const name = props.touch.file as string | null;
  const known = name ? bench.store.recipe.value?.assets[name] : null;
  return known ? (footages.value.find((f) => f.value === known.sha256)?.label ?? `${known.kind} ${known.sha256.slice(0, 8)}`) : 'none yet';
});
const CHANNELS = ['Red', 'Green', 'Blue'];
const SOP = [
  { name: 'slope', label: 'Slope' },
  { name: 'offset', label: 'Offset' },
  { name: 'power', label: 'Power' },
];
const HUES = [20, 55, 70, 95, 130, 150, 175, 200, 230, 250, 280, 310];
const rulerOf = (c: Control): RulerControl => c as RulerControl;
</script>

<template>
  <template v-for="c in controls" :key="`${c.type} ${c.name}`">
    <RulerSlider
      v-if="c.type === 'ruler' && number(c.name)"
      :label="c.label" :value="value(c.name)" :least="number(c.name)?.least ?? 0" :most="number(c.name)?.most ?? 1" :neutral="number(c.name)?.neutral ?? 0"
      :unit="c.unit ?? ''" :digits="c.digits" :sign="c.sign ?? false" :scale="c.scale ?? 1" :mark="markOf(keyed(c.name), bench.frame.value)"
      @change="set({ [c.name]: $event })" @commit="commit(rulerOf(c).label.toLowerCase())" @key="toggleKey(c.name, rulerOf(c).label.toLowerCase())"
    />
    <div v-else-if="c.type === 'choice'" class="line">
      <span class="label">{{ c.label }}</span>
      <span class="pills"><button v-for="(words, word) in c.words" :key="word" type="button" :aria-pressed="touch[c.name] === word" @click="emit('change', { [c.name]: word }); commit(words.toLowerCase())">{{ words }}</button></span>
    </div>
    <CurveEditor v-else-if="c.type === 'curves'" :curves="touch as unknown as Record<CurveName, Pair[]>" :colours="bench.colours.value" @change="(name, list) => emit('change', { [name]: list })" @commit="commit('curve')" />
    <HueBand
      v-else-if="c.type === 'hues'" :bands="touch as unknown as Record<BandName, Pair[]>" :ranges="{ saturation: range('saturation'), hue: range('hue'), lightness: range('lightness') }" :colours="bench.colours.value"
      @change="(name, list) => emit('change', { [name]: list })" @commit="commit('hue band')"
    />
    <BalanceRulers
      v-else-if="c.type === 'balance'" :values="Object.fromEntries((kind?.parameters ?? []).map((p) => [p.name, value(p.name)]))" :most="number('midsRed')?.most ?? 0.1"
      @change="(name, v) => set({ [name]: v })" @commit="commit('balance')"
    />
    <div v-else-if="c.type === 'hue'" class="line hues">
      <span class="label">Hue</span>
      <span class="swatches" role="group" aria-label="Ready hues"><button v-for="h in HUES" :key="h" type="button" class="plain" :style="{ background: `oklch(0.5 0.085 ${h})` }" :aria-label="`Hue ${h}°`" :aria-pressed="Math.abs(value('hue') - h) < 0.5" @click="set({ hue: h }); commit(`hue ${h}`)"></button></span>
      <RulerSlider class="whole" label="" :value="value('hue')" :least="0" :most="360" :neutral="0" :digits="0" unit="°" :mark="markOf(keyed('hue'), bench.frame.value)" @change="set({ hue: $event })" @commit="commit('hue')" @key="toggleKey('hue', 'hue')" />
    </div>
    <div v-else-if="c.type === 'grey'" class="line"><button v-if="bench.area.value" type="button" class="btn small" :disabled="!bench.colours.value" @click="greyFromArea">Make this area grey</button></div>
    <div v-else-if="c.type === 'whites'" class="line"><button type="button" class="btn small" @click="whites">Ceiling from the whites of the eyes</button></div>
    <div v-else-if="c.type === 'cover'" class="line"><button type="button" class="btn small" @click="cover">Find a place</button><span class="dim">or drag the ring on the picture</span></div>
    <div v-else-if="c.type === 'target'" class="line">
      <span class="label">Target</span>
      <i class="chip" :style="{ background: `oklab(${value('targetL')} ${value('targetA')} ${value('targetB')})` }"></i>
      <button type="button" class="btn small" @click="targetFromPicture">From the picture</button>
      <button type="button" class="btn small" @click="believable">Believable skin</button>
      <Select size="small" placeholder="Another area" :model-value="null" :options="others" option-label="label" option-value="value" aria-label="Target from another area" @before-show="loadShots" @update:model-value="targetFromArea($event)" />
    </div>
    <div v-else-if="c.type === 'cube'" class="line"><span class="label">Table</span><span class="mono name">{{ fileName }}</span><button type="button" class="btn small" @click="file?.click()">Choose a .cube file</button></div>
    <div v-else-if="c.type === 'footage'" class="line">
      <span class="label">Shows</span><span class="name">{{ fileName }}</span>
      <Select size="small" placeholder="A shot of this job" :model-value="null" :options="footages" option-label="label" option-value="value" aria-label="Footage to show" @before-show="loadShots" @update:model-value="insertFootage($event)" />
    </div>
    <template v-else-if="c.type === 'cdl'">
      <template v-for="s in SOP" :key="s.name">
        <RulerSlider
          v-for="channel in CHANNELS" :key="channel" :label="`${s.label} ${channel[0]}`" :value="value(s.name + channel)" :least="number(s.name + channel)?.least ?? 0" :most="number(s.name + channel)?.most ?? 1" :neutral="number(s.name + channel)?.neutral ?? 0"
          :digits="3" :sign="s.name === 'offset'" :mark="markOf(keyed(s.name + channel), bench.frame.value)"
          @change="set({ [s.name + channel]: $event })" @commit="commit(s.label.toLowerCase())" @key="toggleKey(s.name + channel, s.label.toLowerCase())"
        />
      </template>
      <div class="line">
        <button type="button" class="btn small" @click="file?.click()">Read a file</button>
        <Select v-if="corrections.length > 1" size="small" placeholder="Correction" :model-value="null" :options="corrections" option-label="id" option-value="id" aria-label="Correction of the file" @update:model-value="takeCorrection($event)" />
        <span class="dim">write</span>
        <a v-for="form in ['cc', 'ccc', 'cdl']" :key="form" class="btn small mono" :href="api.cdlUrl(bench.shot.id, touch.id, form, bench.frame.value)" download>.{{ form }}</a>
      </div>
    </template>
  </template>
  <input ref="file" type="file" :accept="touch.kind === 'lut' ? '.cube' : '.cc,.ccc,.cdl'" hidden :aria-label="touch.kind === 'lut' ? 'Look-up table file' : 'Decision list file'" @change="readFile">
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  min-height: 26px;
  padding: 2px 0;
}

.label {
  width: 74px;
  color: var(--t2);
}

.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.pills button {
  padding: 1px 8px;
  font-size: 12px;
}

.swatches {
  display: flex;
  flex: 1;
  gap: 3px;
}

.swatches button {
  flex: 1;
  height: 16px;
}

.swatches button[aria-pressed='true'] {
  outline: 1px solid var(--t1);
  outline-offset: 1px;
}

.whole {
  flex-basis: 100%;
}

.chip {
  width: 18px;
  height: 18px;
}
</style>
