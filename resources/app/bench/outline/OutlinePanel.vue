<script setup lang="ts">
/** The outline: shapes joined in order, drawing more of them, and the values of the one being worked on. */
import { useFileDialog } from '@vueuse/core';
import Checkbox from 'primevue/checkbox';
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Area, Ease, Join, Shape } from '../../api/types';
import PillChoice from '../../widgets/PillChoice.vue';
import RulerSlider from '../../widgets/RulerSlider.vue';
import { useBench } from '../bench';
import type { Tool } from './drawing';
import { JOINS, trouble } from './edits';
import { EDGE, isDrawn, shapeAt } from './shapes';

const props = defineProps<{ area: Area }>();
const { areas, outlines, playhead, motions, aspect, goTo, panel, askPlace } = useBench();
const { frame } = playhead;

const TOOLS: { name: string; value: Tool; hint: string }[] = [
  { name: 'Ellipse', value: 'ellipse', hint: 'Drag it over the thing' },
  { name: 'Box', value: 'box', hint: 'Drag it over the thing; it can be rounded afterwards' },
  { name: 'Path', value: 'path', hint: 'Click for corners, click and drag for curves, click the first point to close; Shift for straight steps' },
  { name: 'Along edges', value: 'edges', hint: 'Click along an edge that can be seen: the path keeps to it in between' },
];
const EASES: { label: string; value: Ease }[] = [{ label: 'smooth', value: 'smooth' }, { label: 'linear', value: 'linear' }, { label: 'hold', value: 'hold' }];
const RULERS = {
  featherIn: { label: 'Feather in', least: 0, most: 1, neutral: 0, digits: 1, what: 'Inner feather' },
  featherOut: { label: 'Feather out', least: 0, most: 1, neutral: 0, digits: 1, what: 'Outer feather' },
  grow: { label: 'Grow', least: -0.25, most: 0.25, neutral: 0, digits: 1, what: 'Grow outline' },
  opacity: { label: 'Opacity', least: 0, most: 1, neutral: 1, digits: 0, what: 'Opacity' },
};

const shape = outlines.activeShape;
const now = computed(() => (shape.value ? shapeAt(shape.value, frame.value) : null));
const more = ref(false);
const others = computed(() => areas.all.value.filter((a) => a.id !== props.area.id).map((a) => ({ name: a.name, value: a.id })));
const key = computed(() => shape.value?.keys.find((k) => k.frame === frame.value) ?? null);
const said = computed(() => (now.value ? trouble(now.value, aspect, motions.matrix(props.area.id, frame.value)) : null));
const { open: chooseFile, onChange } = useFileDialog({ accept: '.svg,image/svg+xml', multiple: false, reset: true });
onChange((files) => files?.[0] && void outlines.readSvg(files[0]));

function nameOf(s: Shape): string {
  if (s.kind === 'area') return `matte of ${areas.nameOf(s.of)}`;
  if (s.kind === 'people') return s.place ? 'one person' : 'people';
  return s.kind === 'path' ? `path, ${s.points.length} points` : s.kind;
}
const WHO = [{ label: 'Everybody', value: 'all' as const }, { label: 'One person', value: 'one' as const }];
/** Of several people the one whose face is clicked, on the frame the outline is stated on. */
async function meant(who: 'all' | 'one'): Promise<void> {
  const id = shape.value?.id;
  if (!id) return;
  if (who === 'one') goTo(props.area.outline.at);
  const place = who === 'one' ? await askPlace('Click the face of the one who is meant.') : null;
  if (who === 'all' || place) outlines.meanPerson(id, place);
}
function radii(index: 0 | 1, value: number): void {
  if (!now.value || !('radii' in now.value)) return;
  const next: [number, number] = [...now.value.radii];
  next[index] = value;
  outlines.change(now.value.id, { radii: next }, frame.value);
}
</script>

<template>
  <div class="panel">
    <p v-if="!shape" class="dim">Draw it generously, with texture inside for following; tighten and soften it afterwards.</p>
    <ol v-if="outlines.shapes.value.length > 1" class="shapes" aria-label="Shapes, joined in order">
      <li v-for="(s, i) in outlines.shapes.value" :key="s.id" :class="{ on: s.id === shape?.id }">
        <button type="button" class="plain name" :aria-pressed="s.id === shape?.id" @click="outlines.work(s.id)"><em class="mono">{{ i + 1 }}</em> {{ nameOf(s) }}<span v-if="isDrawn(s) && s.motion" class="dim"> · moves by itself</span></button>
        <PillChoice :options="JOINS" :value="s.join" :label="`How shape ${i + 1} is joined`" @choose="outlines.setJoin(s.id, $event as Join)" />
        <button type="button" class="plain icon" :disabled="i === 0" aria-label="Earlier" @click="outlines.earlier(i)">↑</button>
        <button type="button" class="plain icon" aria-label="Remove this shape" @click="outlines.remove(s.id)">×</button>
      </li>
    </ol>
    <div class="acts tools" role="group" aria-label="Draw a shape">
      <PillChoice v-if="shape" :options="JOINS" :value="outlines.join.value" label="How the next shape is joined" @choose="outlines.joinNext($event as Join)" />
      <button v-for="t in TOOLS" :key="t.value" v-tooltip.bottom="t.hint" type="button" class="btn small" :class="{ main: outlines.tool.value === t.value || (!shape && t.value === 'ellipse') }" :aria-pressed="outlines.tool.value === t.value" @click="outlines.draw(t.value)">{{ t.name }}</button>
      <button v-tooltip.bottom="'Everybody as they are seen, hair and clothes too, found on every frame'" type="button" class="btn small" @click="outlines.addPeople()">People</button>
      <Select v-if="others.length && shape" placeholder="An area’s matte" :model-value="null" :options="others" option-label="name" option-value="value" aria-label="Another area’s matte as a shape" @update:model-value="outlines.addArea($event)" />
    </div>
    <div v-if="!shape" class="acts">
      <button type="button" class="btn small" @click="panel = 'find'">Find the people on this frame</button>
      <button type="button" class="btn small" @click="outlines.paste()">Paste an outline</button>
    </div>
    <template v-if="shape && now">
      <p v-if="said" class="said">▲ {{ said }}</p>
      <template v-if="now.kind === 'ellipse' || now.kind === 'box'">
        <RulerSlider label="Across" :value="now.radii[0]" :least="0.001" :most="1" :neutral="0.001" :digits="1" :scale="200" unit="%" @change="radii(0, $event)" @commit="outlines.commit('Resize outline')" />
        <RulerSlider label="Along" :value="now.radii[1]" :least="0.001" :most="1" :neutral="0.001" :digits="1" :scale="200" unit="%" @change="radii(1, $event)" @commit="outlines.commit('Resize outline')" />
        <RulerSlider label="Turn" :value="now.turn" :least="-180" :most="180" :neutral="0" :digits="1" unit="°" sign @change="outlines.change(shape.id, { turn: $event }, frame)" @commit="outlines.commit('Turn outline')" />
        <RulerSlider v-if="now.kind === 'box'" label="Round" :value="now.round" :least="0" :most="1" :neutral="0" :digits="0" :scale="100" unit="%" @change="outlines.change(shape.id, { round: $event }, frame)" @commit="outlines.commit('Round corners')" />
      </template>
      <div v-if="now.kind === 'people'" class="acts">
        <PillChoice :options="WHO" :value="now.place ? 'one' : 'all'" label="Who is meant" @choose="meant($event as 'all' | 'one')" />
        <span class="dim">{{ now.place ? `pointed out on frame ${area.outline.at}` : 'found on every frame' }}</span>
      </div>
      <template v-for="field in EDGE" :key="field">
        <RulerSlider v-if="now.kind !== 'area' || field === 'opacity'" v-bind="RULERS[field]" :value="now.kind === 'area' ? now.opacity : now[field]" :scale="100" unit="%" :sign="field === 'grow'" @change="outlines.change(shape.id, { [field]: $event }, frame)" @commit="outlines.commit(RULERS[field].what)" />
      </template>
      <div class="keys">
        <span class="label">Keyframes</span>
        <span v-if="shape.keys.length === 0" class="dim">none, the same on every frame</span>
        <button v-for="k in shape.keys" :key="k.frame" type="button" class="btn small mono" :aria-pressed="k.frame === frame" @click="goTo(k.frame)">{{ k.frame }}</button>
      </div>
      <div class="acts">
        <button v-if="!key" type="button" class="btn small" @click="outlines.addKey(shape.id)">Keyframe here</button>
        <template v-else>
          <button type="button" class="btn small" @click="outlines.removeKey(shape.id, frame)">Remove keyframe {{ frame }}</button>
          <PillChoice :options="EASES" :value="key.ease ?? 'smooth'" label="How it eases to the next" @choose="outlines.ease(shape.id, frame, $event as Ease)" />
        </template>
        <span class="grow"></span>
        <button type="button" class="plain more" :aria-expanded="more" @click="more = !more">{{ more ? 'Less' : 'More' }}</button>
      </div>
      <div v-if="more" class="acts">
        <label class="tick"><Checkbox :model-value="area.outline.invert" binary @update:model-value="outlines.invert()" /> Invert</label>
        <label v-if="isDrawn(shape)" class="tick"><Checkbox :model-value="shape.motion !== null" binary @update:model-value="outlines.ownMotion(shape.id)" /> Motion of its own</label>
        <button v-if="shape.kind === 'ellipse' || shape.kind === 'box'" type="button" class="btn small" @click="outlines.toPath(shape.id)">To a path</button>
        <button type="button" class="btn small" @click="outlines.mirror()">Mirror</button>
        <button type="button" class="btn small" @click="outlines.copy()">Copy</button>
        <button type="button" class="btn small" @click="outlines.paste()">Paste</button>
        <button type="button" class="btn small" @click="chooseFile()">SVG in</button>
        <a class="btn small" :href="outlines.svgUrl()" download>SVG out</a>
        <button type="button" class="btn small quiet" @click="outlines.remove(shape.id)">Remove</button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 2px;
  padding: 0 16px 12px;
}

.acts,
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  padding: 4px 0;
}

.label {
  width: 78px;
  color: var(--t2);
}

.shapes {
  display: grid;
  padding: 0;
  list-style: none;
}

.shapes li {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 2px 0;
  color: var(--t2);
}

.shapes .on {
  color: var(--t1);
}

.shapes .pills button {
  padding: 0 6px;
  font-size: 11px;
}

.tools .pills button {
  padding: 1px 7px;
  font-size: 12px;
}

.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.on .name {
  font-weight: 600;
}

.small[disabled] {
  visibility: hidden;
}

.more {
  color: var(--t3);
}

.more:hover {
  color: var(--t1);
}

p {
  font-size: 12px;
}

.said {
  color: var(--t1);
}

.shapes em {
  margin-right: 6px;
  font-style: normal;
}
</style>
