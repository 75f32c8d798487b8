<script setup lang="ts">
/** What would become of one shot: before and after, how near it comes, what could not be done. */
import { computed } from 'vue';
import { api } from '../../api/client';
import type { Carry } from '../../api/types';

const props = defineProps<{ carry: Carry }>();
defineEmits<{ take: []; back: []; leave: [] }>();
const made = computed(() => props.carry.frame !== null && props.carry.state !== 'failed');
/** What differs by less than this is not seen, CIEDE2000. */
const SEEN = 1;
const figure = (v: number): string => (v < SEEN ? 'under 1' : v.toFixed(1));
</script>

<template>
  <li :aria-label="carry.shot.name">
    <header>
      <h3>{{ carry.shot.name }}</h3>
      <span class="grow"></span>
      <RouterLink v-if="carry.state === 'taken'" class="btn small" :to="`/shots/${carry.shot.id}`">Open it</RouterLink>
      <button v-if="carry.state === 'taken'" type="button" class="btn small" @click="$emit('back')">Take back</button>
      <button v-if="carry.state === 'proposed'" type="button" class="btn small" @click="$emit('leave')">Leave</button>
      <button v-if="carry.state === 'proposed'" type="button" class="btn small" @click="$emit('take')">Take</button>
    </header>
    <p v-if="carry.state === 'waiting'" class="dim" role="status">waits for its turn…</p>
    <p v-else-if="carry.state === 'working'" class="dim" role="status">{{ carry.message ?? 'begins' }}…</p>
    <p v-else-if="carry.state === 'failed'">▲ {{ carry.message }}</p>
    <p v-else-if="carry.state === 'left'" class="dim">Left as it was.</p>
    <template v-if="made && carry.state !== 'left'">
      <div class="pictures">
        <figure><img :src="api.carryPicture(carry.id, 'before')" :alt="`${carry.shot.name} before, frame ${carry.frame}`" /><figcaption class="dim">before</figcaption></figure>
        <figure><img :src="api.carryPicture(carry.id, 'after')" :alt="`${carry.shot.name} after, frame ${carry.frame}`" /><figcaption class="dim">{{ carry.state === 'taken' ? 'taken' : 'after' }}</figcaption></figure>
      </div>
      <p v-for="m in carry.misses" :key="m.name" class="miss"><span>{{ m.name }}</span><span class="mono" :title="'CIEDE2000 from what it looks like here'">{{ figure(m.before) }} → {{ figure(m.after) }}</span></p>
      <p v-for="w in carry.words" :key="w" class="dim">{{ w }}.</p>
    </template>
  </li>
</template>

<style scoped>
li {
  display: grid;
  gap: 6px;
  font-size: 12px;
}

header {
  display: flex;
  gap: 6px;
  align-items: center;
}

h3 {
  margin: 0;
  font-size: 13px;
  font-weight: 600;
}

.pictures {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
}

figure {
  display: grid;
  gap: 2px;
  margin: 0;
}

img {
  display: block;
  width: 100%;
  background: var(--g0);
}

.miss {
  display: flex;
  gap: 8px;
  justify-content: space-between;
}
</style>
