<script setup lang="ts">
/** The people on the present frame: whose areas are proposed, which of them are taken. They lie dashed on the picture meanwhile. */
import Checkbox from 'primevue/checkbox';
import InputText from 'primevue/inputtext';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import type { Area } from '../../api/types';
import PillChoice from '../../widgets/PillChoice.vue';
import SidePanel from '../../widgets/SidePanel.vue';
import { useBench } from '../bench';

const { people, areas, outlines, store, panel, finding, playhead, motions } = useBench();
const slug = ref<string | null>(null);
const name = ref('');
const elsewhere = computed(() => finding.frame.value !== null && finding.frame.value !== playhead.frame.value);

/** Something to follow that the rest is on. */
const hasHead = computed(() => (finding.person.value?.areas ?? []).some((a) => a.motion.by !== 'ride' && finding.ticked.value.has(a.id)));

const parts = (asked: boolean): Area[] => (finding.person.value?.areas ?? []).filter((a) => finding.person.value?.more.includes(a.id) === asked);
const main = computed(() => parts(false));
const more = computed(() => parts(true));

/** A guess, or the only one there is; the user says. */
const guessed = computed(() => finding.person.value?.alike?.person ?? null);
const by = computed(() => (finding.person.value?.alike?.by === 'face' ? 'by the face' : 'by eyes and lips'));
watch(() => finding.person.value, () => (slug.value = guessed.value ?? (people.list.value.length === 1 ? (people.list.value[0]?.slug ?? null) : null)));
onMounted(() => void finding.look());
onUnmounted(finding.leave);

/** Who it is: chosen, or new and made now. */
async function who(): Promise<string | null> {
  const wanted = name.value.trim();
  if (!wanted) return slug.value;
  const known = people.list.value.find((p) => p.name === wanted);
  if (!known && !(await people.add(wanted))) return null;
  return people.list.value.find((p) => p.name === wanted)?.slug ?? null;
}
/** Puts what is ticked into the recipe; followed, it is over the whole shot, from this frame. */
async function take(follow: boolean): Promise<void> {
  const start = finding.frame.value ?? playhead.frame.value;
  const ticked = (finding.person.value?.areas ?? []).filter((a) => finding.ticked.value.has(a.id));
  const person = await who();
  // A second person's parts are told apart by their name.
  const taken = new Set(areas.all.value.map((a) => a.name));
  const named = (own: string): string => (taken.has(own) ? `${own}, ${people.nameOf(person) || `person ${finding.chosen.value + 1}`}` : own);
  const found = ticked.map((a) => ({ ...a, name: named(a.name), person }));
  // Looked for while an area was still empty: that one gives way.
  const own = areas.chosen.value;
  const empty = own && own.outline.shapes.length === 0 && own.touches.length === 0 ? own.id : null;
  store.edit((recipe) => {
    recipe.areas = [...recipe.areas.filter((a) => a.id !== empty), ...found];
  });
  outlines.tool.value = null;
  panel.value = null;
  areas.choose(found[0]?.id ?? areas.tab.value);
  await store.commit('Areas of a person');
  const head = found.find((a) => a.motion.by !== 'ride');
  if (!follow || !head) return;
  areas.step.value = 2;
  await store.settled();
  await motions.followPerson(head.id, start, playhead.from, playhead.to);
}
</script>

<template>
  <SidePanel title="People on this frame" @close="panel = null">
    <p :class="{ dim: !finding.failed.value }" role="status"><span v-if="finding.failed.value">▲ </span>{{ finding.words.value }}</p>
    <p v-if="elsewhere" class="dim">They were looked for on frame {{ finding.frame.value }}. <button type="button" class="btn small" @click="finding.look()">Look on this one</button></p>
    <p v-if="finding.near.value !== null"><button type="button" class="btn small" @click="finding.lookOn(finding.near.value)">Look on frame {{ finding.near.value }}</button></p>
    <template v-if="finding.person.value">
      <div v-if="finding.people.value.length > 1" class="who"><PillChoice :options="finding.people.value.map((_, i) => ({ label: `${i + 1}`, value: `${i}` }))" :value="`${finding.chosen.value}`" label="Whose areas" @choose="finding.choose(Number($event))" /></div>
      <ul class="list" aria-label="Proposed areas">
        <li v-for="a in main" :key="a.id" :class="{ pointed: finding.pointed.value === a.id }" @pointerenter="finding.pointed.value = a.id" @pointerleave="finding.pointed.value = null" @focusin="finding.pointed.value = a.id" @focusout="finding.pointed.value = null">
          <label class="tick"><Checkbox :model-value="finding.ticked.value.has(a.id)" binary @update:model-value="finding.tick(a)" /> {{ a.name }}</label>
          <span v-if="a.outline.at !== finding.frame.value" class="dim doubt">as on frame {{ a.outline.at }}, which shows {{ a.part === 'teeth' ? 'them' : 'it' }} best</span>
          <span v-if="finding.person.value.doubts[a.id]" class="dim doubt">{{ finding.person.value.doubts[a.id] }} <button v-if="finding.better(a) !== null" type="button" class="btn small" :aria-label="`${a.name}: look on frame ${finding.better(a)}, which shows them best`" @click="finding.lookOn(finding.better(a) ?? 0)">Best on {{ finding.better(a) }}</button></span>
        </li>
      </ul>
      <div v-if="more.length > 0" class="more" role="group" aria-label="Skin, its parts, and the whole">
        <span class="dim">Skin, its parts, and the whole</span>
        <button v-for="a in more" :key="a.id" type="button" class="btn small" :aria-pressed="finding.ticked.value.has(a.id)" @click="finding.tick(a)" @pointerenter="finding.pointed.value = a.id" @pointerleave="finding.pointed.value = null" @focusin="finding.pointed.value = a.id" @focusout="finding.pointed.value = null">{{ a.name }}</button>
      </div>
      <div class="who">
        <span class="dim">Who it is</span>
        <PillChoice v-if="people.list.value.length" :options="people.list.value.map((p) => ({ label: p.name, value: p.slug }))" :value="name.trim() ? null : slug" label="Who it is" off @choose="(slug = $event), (name = '')" />
        <span v-if="guessed && guessed === slug && !name.trim()" class="dim guess">{{ people.nameOf(guessed) }}, {{ by }}; say so if it is somebody else</span>
        <InputText v-model="name" maxlength="80" aria-label="A new name" placeholder="A new name" />
      </div>
    </template>
    <template #acts>
      <button type="button" class="btn" @click="panel = null">{{ finding.person.value ? 'Leave it' : 'Close' }}</button>
      <template v-if="finding.person.value">
        <button type="button" class="btn" :disabled="finding.ticked.value.size === 0" @click="take(false)">Take {{ finding.ticked.value.size }}</button>
        <button v-tooltip.top="'The head first, then eyes, lids, lips and teeth, each in its own way'" type="button" class="btn main" :disabled="!hasHead" @click="take(true)">Take and follow</button>
      </template>
    </template>
  </SidePanel>
</template>

<style scoped>
.list {
  display: grid;
  gap: 2px;
  margin: 8px -8px;
  padding: 0;
  list-style: none;
}

.list li {
  padding: 3px 8px;
  border-radius: 2px;
}

.list .pointed {
  background: var(--g3);
}

.doubt {
  display: block;
  padding-left: 26px;
  font-size: 12px;
  line-height: 1.35;
}

.more {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.more .dim {
  flex-basis: 100%;
}

.who {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin: 12px 0;
}

.guess {
  font-size: 12px;
}

.who input {
  width: 130px;
}
</style>
