<script setup lang="ts">
/** A person's face in one shot, and how far its skin is from the shot before; asked for when it comes into sight. */
import { useIntersectionObserver } from '@vueuse/core';
import { computed, ref } from 'vue';
import { api } from '../api/client';
import type { Person, Shot } from '../api/types';

const props = defineProps<{ shot: Shot; person: Person; before: Shot | null; limit: number }>();
const place = ref<HTMLElement>();
const seen = ref(false);
const apart = ref<number | null>(null);

const { stop } = useIntersectionObserver(place, ([entry]) => {
  if (!entry?.isIntersecting) return;
  stop();
  seen.value = true;
  api.face(props.shot.id, props.person.slug, props.before?.id ?? null).then(
    (face) => {
      apart.value = face.apart;
    },
    // The picture says as much.
    () => null,
  );
});
const jumps = computed(() => apart.value !== null && apart.value > props.limit);
</script>

<template>
  <li ref="place" :class="{ jumps }">
    <RouterLink :to="`/shots/${shot.id}`" :aria-label="`${person.name} in ${shot.name}`">
      <img v-if="seen" :src="api.faceUrl(shot, person.slug)" alt="" width="168" height="168">
      <span v-else class="none"></span>
    </RouterLink>
    <span class="name">{{ shot.name }}</span>
    <span class="mono dim">{{ apart === null ? (before ? '…' : '') : `${jumps ? '▲ ' : ''}${apart.toFixed(1)} from ${before?.name}` }}</span>
  </li>
</template>

<style scoped>
li {
  display: grid;
  flex: none;
  gap: 3px;
  align-content: start;
  width: 168px;
  font-size: 12px;
}

img,
.none {
  display: block;
  width: 168px;
  height: 168px;
  background: var(--g0);
}

.jumps img {
  outline: 2px solid var(--t1);
}

.name,
.mono {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
