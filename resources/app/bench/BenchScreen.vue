<script setup lang="ts">
/** One shot at work: left looking, right doing. */
import { onMounted, ref, shallowRef } from 'vue';
import { api } from '../api/client';
import type { Kind, RecipeState, Shot, StartingPoint } from '../api/types';
import Bench from './Bench.vue';

const props = defineProps<{ shotId: number }>();
const shot = shallowRef<Shot | null>(null);
const kinds = shallowRef<Kind[]>([]);
const starts = shallowRef<StartingPoint[]>([]);
const recipe = shallowRef<RecipeState | null>(null);
const problem = ref<string | null>(null);

onMounted(async () => {
  try {
    // Asked for at once: where the shot is not ready its own words count, not those of the recipe that is not there yet.
    const asked = api.recipe(props.shotId);
    asked.catch(() => null);
    [shot.value, kinds.value, starts.value] = await Promise.all([api.shot(props.shotId), api.kinds(), api.startingPoints()]);
    if (shot.value.state === 'ready') recipe.value = await asked;
    else problem.value = shot.value.error ?? 'This shot is still being read. Come back in a moment.';
  } catch (reason) {
    problem.value = reason instanceof Error ? reason.message : String(reason);
  }
});
</script>

<template>
  <main v-if="problem" class="gone">
    <h1>▲ {{ problem }}</h1>
    <RouterLink class="btn" :to="shot ? `/jobs/${shot.jobId}` : '/'">{{ shot ? 'To the job' : 'To the jobs' }}</RouterLink>
  </main>
  <Bench v-else-if="shot && recipe" :shot="shot" :recipe="recipe" :kinds="kinds" :starts="starts" />
</template>

<style scoped>
.gone h1 {
  font-size: 14px;
  font-weight: 500;
}

.gone {
  display: grid;
  gap: 16px;
  place-content: center;
  justify-items: center;
  height: 100%;
}
</style>
