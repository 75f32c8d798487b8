<script setup lang="ts">
/** The tell-tales of an area and of the frame: measure against limit over the shot, and what would cure one. */
import { computed, ref, shallowRef, watch } from 'vue';
import type { Area, Cure, Finding } from '../../api/types';
import RulerSlider from '../../widgets/RulerSlider.vue';
import { useBench } from '../bench';

const props = defineProps<{ area: Area }>();
const { telltales, cures: curing, areas, playhead, goTo, shot } = useBench();
const { previewed } = curing;

const chosen = ref<string | null>(null);
const cures = shallowRef<Cure[]>([]);
/** Cures are being tried on the worst frames. */
const trying = ref(false);
const dragged = ref<number | null>(null);

const keyOf = (f: Finding): string => `${f.telltale} ${f.area ?? ''}`;
const own = computed(() => telltales.findings.value.filter((f) => f.area === props.area.id || f.area === null).sort((a, b) => Number(b.rings) - Number(a.rings)));
const elsewhere = computed(() => telltales.open.value.filter((f) => f.area !== null && f.area !== props.area.id));
const open = computed(() => own.value.find((f) => keyOf(f) === chosen.value) ?? null);
const nameOf = (id: string | null): string => areas.find(id)?.name ?? 'the frame';
const figure = (v: number): string => (v >= 10 ? v.toFixed(0) : v.toFixed(1));
const spans = (f: Finding): string => f.spans.slice(0, 3).map(([a, b]) => (a === b ? `${a}` : `${a}–${b}`)).join(', ') + (f.spans.length > 3 ? '…' : '');

watch([open, () => telltales.known.value], async ([finding]) => {
  curing.preview(null);
  cures.value = [];
  trying.value = finding?.rings === true;
  if (!finding?.rings) return;
  const found = await telltales.cures(finding);
  if (open.value !== finding) return;
  cures.value = found;
  trying.value = false;
});

function choose(f: Finding): void {
  chosen.value = chosen.value === keyOf(f) && playhead.frame.value === f.worst ? null : keyOf(f);
  goTo(f.worst);
}

/** The measure over the shot as a line, the limit at a third from the top. */
function graph(f: Finding): { line: string; limit: number } {
  const top = Math.max(f.limit * 1.5, f.measure * 1.05, 1e-6);
  const x = (frame: number): number => ((frame - shot.from + 0.5) / (shot.to - shot.from + 1)) * 100;
  const y = (v: number): number => 18 - (17 * Math.max(0, v)) / top;
  return { line: f.measures.map(([frame, v], i) => `${i ? 'L' : 'M'}${x(frame).toFixed(2)} ${y(v).toFixed(2)}`).join(''), limit: y(f.limit) };
}
</script>

<template>
  <section class="telltales" aria-label="Tell-tales">
    <p v-if="telltales.message.value" class="line">▲ It could not be looked over: {{ telltales.message.value }} <button type="button" class="btn small" @click="telltales.look()">Try again</button></p>
    <p v-else-if="telltales.progress.value" class="line dim" role="status">Looking the shot over for tell-tales… <span class="mono">{{ telltales.progress.value.done }}/{{ telltales.progress.value.total }}</span></p>
    <p v-else-if="!telltales.known.value" class="line dim">Tell-tales <button type="button" class="btn small" @click="telltales.look()">Look the shot over</button></p>
    <p v-else-if="own.every((f) => !f.rings)" class="line">Nothing gives {{ area.name }} away at these limits.</p>
    <ul>
      <li v-for="f in own" :key="keyOf(f)" :class="{ rings: f.rings }">
        <button type="button" class="plain row" :aria-expanded="open === f" @click="choose(f)">
          <span class="glyph" aria-hidden="true">{{ f.rings ? '▲' : '·' }}</span><b>{{ f.telltale }}<span v-if="f.rings" class="unseen"> over its limit</span></b>
          <svg viewBox="0 0 100 20" preserveAspectRatio="none" aria-hidden="true"><line class="limit" x1="0" x2="100" :y1="graph(f).limit" :y2="graph(f).limit" /><path :d="graph(f).line" /></svg>
          <span class="mono">{{ figure(f.measure) }}<span class="dim"> / {{ figure(f.limit) }}</span></span>
        </button>
        <div v-if="open === f" class="open">
          <p>{{ f.sentence }}<template v-if="f.rings"> Frames <span class="mono">{{ spans(f) }}</span>, worst on <span class="mono">{{ f.worst }}</span>.</template><template v-if="f.before"> {{ f.before }}</template></p>
          <RulerSlider
            label="Limit" :value="dragged ?? f.limit" :least="0" :most="f.most" :neutral="f.usual" :digits="f.most > 20 ? 0 : 1" :unit="f.unit.startsWith('×') ? '×' : '%'" :title="f.unit"
            @change="dragged = $event" @commit="dragged !== null && telltales.limit(f.telltale, dragged).then(() => (dragged = null))"
          />
          <p v-if="trying" class="dim">trying what would cure it…</p>
          <p v-else-if="f.rings && cures.length === 0" class="dim">Nothing that was tried brings it under its limit.</p>
          <div v-for="c in cures" :key="c.words" class="cure">
            <span>{{ c.words }}<small v-if="c.measure !== null && c.measure > f.limit" class="dim">the best that can be done: to {{ figure(c.measure) }}</small></span>
            <button v-if="c.recipe" type="button" class="btn small" :aria-pressed="previewed === c" @click="curing.preview(previewed === c ? null : c)">Preview</button>
            <button type="button" class="btn small" @click="curing.apply(c, f)">{{ c.recipe ? 'Apply' : 'Follow' }}</button>
          </div>
        </div>
      </li>
    </ul>
    <p v-for="f in elsewhere" :key="keyOf(f)" class="line"><button type="button" class="plain other" @click="areas.choose(f.area ?? ''); goTo(f.worst)">▲ {{ f.telltale }} in {{ nameOf(f.area) }}, frame <span class="mono">{{ f.worst }}</span></button></p>
  </section>
</template>

<style scoped>
.telltales {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  padding-top: 6px;
  border-top: 1px solid var(--line);
}

.line {
  font-size: 12px;
}

ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  padding: 0;
  list-style: none;
}

.row {
  display: grid;
  grid-template-columns: 12px 84px minmax(0, 1fr) 78px;
  gap: 6px;
  align-items: center;
  width: 100%;
  height: 24px;
  color: var(--t2);
}

.row:hover {
  background: var(--g2);
}

.row b {
  font-weight: 400;
}

.row .mono {
  text-align: right;
}

.rings .row {
  color: var(--t1);
}

.rings .row b {
  font-weight: 600;
}

.glyph {
  color: var(--t3);
  font-size: 11px;
  text-align: center;
}

.rings .glyph {
  color: var(--t1);
}

svg {
  width: 100%;
  height: 18px;
  background: var(--g0);
}

path {
  fill: none;
  stroke: #9a9a9a;
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}

.rings path {
  stroke: #c8c8c8;
}

.limit {
  stroke: #767676;
  stroke-dasharray: 3 3;
  vector-effect: non-scaling-stroke;
}

.open {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  padding: 4px 0 8px 18px;
  font-size: 12px;
}

.cure {
  display: flex;
  gap: 6px;
  align-items: center;
}

.cure span {
  flex: 1;
}

.other {
  min-height: 24px;
}

.other:hover {
  text-decoration: underline;
}
</style>
