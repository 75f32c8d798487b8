<script setup lang="ts">
/** Each person through the cut: their face in every shot that shows them, treated, in order; a jump in skin from one to the next is ringed. */
import { computed, ref, watch } from 'vue';
import { api } from '../api/client';
import type { Job, LikelyShot, Shot } from '../api/types';
import RulerSlider from '../widgets/RulerSlider.vue';
import FaceInShot from './FaceInShot.vue';

const props = defineProps<{ job: Job }>();
/** CIEDE2000 of neighbours that is seen at a glance. */
const USUAL = 4;
const limit = ref(USUAL);

const FACES = ['face', 'skin'];
const shows = (shot: Shot, person: string): boolean => shot.state === 'ready' && (shot.progress?.areas ?? []).some((a) => a.person === person && FACES.includes(a.part));
const likely = ref<Record<string, LikelyShot[]>>({});
const rows = computed(() =>
  props.job.people.map((person) => ({
    person,
    shots: props.job.shots.filter((shot) => shows(shot, person.slug)),
    likely: (likely.value[person.slug] ?? []).flatMap(({ shot, frame }) => props.job.shots.filter((s) => s.id === shot).map((s) => ({ id: s.id, name: s.name, frame }))),
  })),
);
/** Who they may be is asked once for each; that it cannot be told takes nothing away. */
watch(
  () => props.job.people.map((person) => person.slug).join(' '),
  () => {
    for (const { slug } of props.job.people) {
      api.likely(props.job.id, slug).then(
        (shots) => {
          likely.value = { ...likely.value, [slug]: shots };
        },
        () => null,
      );
    }
  },
  { immediate: true },
);
</script>

<template>
  <div class="rows">
    <div class="limit"><RulerSlider label="Limit" :value="limit" :least="0" :most="20" :neutral="USUAL" :digits="1" unit="ΔE" @change="limit = $event" /><span class="dim">CIEDE2000 that skin may change by from one shot to the next</span></div>
    <section v-for="row in rows" :key="row.person.slug" :aria-label="row.person.name">
      <h2>{{ row.person.name }}</h2>
      <p v-if="row.shots.length === 0" class="dim">No face of theirs is outlined in a shot yet.</p>
      <ol v-else class="strip"><FaceInShot v-for="(shot, i) in row.shots" :key="`${shot.id} ${shot.revision}`" :shot="shot" :person="row.person" :before="row.shots[i - 1] ?? null" :limit="limit" /></ol>
      <p v-if="row.likely.length" class="dim likely">
        Probably seen in, by the face: <RouterLink v-for="shot in row.likely" :key="shot.id" :to="{ path: `/shots/${shot.id}`, query: { frame: shot.frame } }">{{ shot.name }}</RouterLink>
      </p>
    </section>
    <p v-if="rows.length === 0" class="dim">Nobody is known in this job yet. People come in with the areas found for them.</p>
  </div>
</template>

<style scoped>
.likely {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  margin: 6px 0 0;
}

.likely a {
  text-decoration: underline;
  text-underline-offset: 3px;
}

.rows {
  display: grid;
  gap: 20px;
  padding: 16px 24px;
}

.limit {
  display: flex;
  gap: 12px;
  align-items: center;
  max-width: 720px;
}

.limit > :first-child {
  flex: none;
  width: 260px;
}

h2 {
  margin: 0 0 8px;
  font-size: 14px;
  font-weight: 600;
}

.strip {
  display: flex;
  gap: 10px;
  margin: 0;
  padding: 2px 2px 8px;
  overflow-x: auto;
  list-style: none;
}
</style>
