<script setup lang="ts">
/** The bench: left looking, right doing. This is the grid and nothing else. */
import { useEventListener } from '@vueuse/core';
import { onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import type { Kind, RecipeState, Shot, StartingPoint } from '../api/types';
import { useNotices } from '../useNotices';
import Doing from './areas/Doing.vue';
import { provideBench } from './bench';
import PictureHead from './picture/PictureHead.vue';
import PictureStage from './picture/PictureStage.vue';
import FollowStrips from './time/FollowStrips.vue';
import WitnessRow from './time/WitnessRow.vue';

const props = defineProps<{ shot: Shot; recipe: RecipeState; kinds: Kind[]; starts: StartingPoint[] }>();
const { fail } = useNotices();
const route = useRoute();
const { store, areas, motions, panel, carrying, compare, notes, people, shown, goTo } = provideBench(props.shot, props.kinds, props.starts);

/** The picture is asked for before the controls are built: they are while it is made. */
const asked = ref(false);

// Before anything is drawn, so that it is drawn once.
store.adopt(props.recipe);
begin();

onMounted(async () => {
  try {
    shown.refresh();
    asked.value = true;
    await motions.poll();
    compare.meet(await people.load());
    await compare.load();
    await notes.load();
    const [first] = notes.open.value;
    if (route.query.notes && first) goTo(first.frame);
  } catch (reason) {
    fail('Not all of the shot can be read', reason);
  }
});

/** From the progress list one comes to the area and frame that a tell-tale stands for. */
function begin(): void {
  const { area: wanted, frame } = route.query;
  areas.choose(areas.find(String(wanted))?.id ?? areas.all.value[0]?.id ?? 'base');
  areas.step.value = wanted || route.query.notes ? 5 : areas.chosen.value && areas.chosen.value.touches.length > 0 ? 4 : 1;
  if (frame) goTo(Number(frame));
  if (route.query.panel !== 'carry') return;
  carrying.wanted.value = new Set(String(route.query.to ?? '').split(',').filter(Boolean).map(Number));
  panel.value = 'carry';
}

useEventListener(window, 'beforeunload', (e) => {
  if (store.unsaved.value) e.preventDefault();
});
</script>

<template>
  <div class="bench">
    <main class="look">
      <PictureHead />
      <PictureStage />
      <FollowStrips />
      <WitnessRow />
    </main>
    <Doing v-if="asked" />
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 404px;
  height: 100%;
  overflow: hidden;
  user-select: none;
}

.look {
  display: grid;
  background: var(--g0);
  grid-template-rows: 40px minmax(0, 1fr) auto 112px;
  grid-template-columns: minmax(0, 1fr);
  min-width: 0;
}

@media (width < 1150px) {
  .bench {
    grid-template-columns: minmax(0, 1fr) 360px;
  }
}
</style>
