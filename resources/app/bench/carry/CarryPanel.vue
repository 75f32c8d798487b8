<script setup lang="ts">
/** What is done in this shot, carried to others: what, where to, then a proposal for each, with pictures. */
import Checkbox from 'primevue/checkbox';
import { computed, onMounted, onUnmounted } from 'vue';
import type { CarryTarget } from '../../api/types';
import PillChoice from '../../widgets/PillChoice.vue';
import SidePanel from '../../widgets/SidePanel.vue';
import { useBench } from '../bench';
import CarryProposal from './CarryProposal.vue';
import CarryTouches from './CarryTouches.vue';
import KeptList from './KeptList.vue';

const { carrying, people, areas, panel, store } = useBench();

onMounted(() => void carrying.begin());
onUnmounted(carrying.rest);

const persons = computed(() => {
  const there = new Set(areas.all.value.map((a) => a.person));
  return [...there].map((slug) => ({ label: people.nameOf(slug) || 'nobody’s', value: slug ?? '' }));
});
const WAYS = [
  { label: 'Lay beside', value: false, hint: 'The other treatment stays; this one comes as an area of its own' },
  { label: 'Replace its touches', value: true, hint: 'Outline and motion stay' },
];
const knowing = (target: CarryTarget): string => {
  if (target.knows) return `knows ${people.nameOf(carrying.person.value)}, `;
  return target.likely ? `${people.nameOf(carrying.person.value)} by the face, ` : '';
};
const light = (apart: number): string => (apart < 5 ? 'in much the same light' : apart < 15 ? 'in another light' : 'in very different light');
</script>

<template>
  <SidePanel title="Carry to other shots" @close="panel = null">
    <template v-if="carrying.carries.value.length">
      <ul class="list" aria-label="Proposals"><CarryProposal v-for="c in carrying.carries.value" :key="c.id" :carry="c" @take="carrying.take([c])" @back="carrying.takeBack([c])" @leave="carrying.leave([c])" /></ul>
    </template>
    <template v-else>
      <section aria-label="What">
        <h3>What</h3>
        <PillChoice v-if="persons.length > 1" :options="persons" :value="carrying.person.value ?? ''" label="Whose areas" @choose="carrying.choosePerson($event || null)" />
        <p v-if="carrying.offered.value.length === 0" class="dim">Nothing is done in their areas yet.</p>
        <template v-for="a in carrying.offered.value" :key="a.id">
          <label class="tick"><Checkbox :model-value="carrying.chosen.value.has(a.id)" binary @update:model-value="carrying.tick(a.id)" /> {{ a.name }}</label>
          <CarryTouches v-if="carrying.chosen.value.has(a.id) && !a.pair?.linked" :touches="carrying.touchesOf(a)" />
        </template>
        <label v-if="store.recipe.value?.base.length" class="tick"><Checkbox v-model="carrying.base.value" binary /> Base</label>
        <CarryTouches v-if="carrying.base.value" :touches="store.recipe.value?.base ?? []" />
        <label v-if="store.recipe.value?.finish.length" class="tick"><Checkbox v-model="carrying.finish.value" binary /> Finish</label>
        <CarryTouches v-if="carrying.finish.value" :touches="store.recipe.value?.finish ?? []" />
      </section>
      <KeptList />
      <section aria-label="To">
        <h3>To</h3>
        <p v-if="carrying.targets.value.length === 0" class="dim">{{ carrying.looking.value ? 'Looking at the light of the other shots…' : 'There is no other shot in this job.' }}</p>
        <label v-for="t in carrying.targets.value" :key="t.id" class="tick shot">
          <Checkbox :model-value="carrying.shots.value.has(t.id)" binary @update:model-value="carrying.tickShot(t.id)" /> <span>{{ t.name }}</span>
          <small class="dim">{{ knowing(t) }}{{ light(t.apart) }}</small>
        </label>
      </section>
      <section aria-label="How">
        <h3>Where a part is treated already</h3>
        <PillChoice :options="WAYS" :value="carrying.replace.value" label="Where a part is treated already" @choose="carrying.replace.value = $event === true" />
        <label class="tick"><Checkbox v-model="carrying.match.value" binary /> Make it look as it does here</label>
        <p class="dim">A trim before the touches brings lights and colours of each part to those of this shot. It can be switched off and weakened there.</p>
      </section>
    </template>
    <template #acts>
      <template v-if="carrying.carries.value.length">
        <button type="button" class="btn" @click="carrying.again()">Choose anew</button>
        <button v-if="carrying.taken.value.length > 1 && carrying.proposed.value.length === 0" type="button" class="btn" @click="carrying.takeBack(carrying.taken.value)">Take all back</button>
        <button type="button" class="btn main" :disabled="carrying.open.value || carrying.proposed.value.length === 0" @click="carrying.take(carrying.proposed.value)">Take {{ carrying.proposed.value.length > 1 ? `all ${carrying.proposed.value.length}` : 'it' }}</button>
      </template>
      <template v-else>
        <button type="button" class="btn" @click="panel = null">Leave it</button>
        <button type="button" class="btn main" :disabled="!carrying.ready.value || carrying.sending.value" @click="carrying.propose()">Propose</button>
      </template>
    </template>
  </SidePanel>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
  justify-items: start;
  padding-bottom: 14px;
}

h3 {
  margin: 0;
  color: var(--t2);
  font-size: 12px;
  font-weight: 500;
}

.shot {
  display: grid;
  grid-template-columns: 18px minmax(0, 1fr) auto;
  column-gap: 8px;
  width: 100%;
}

.shot span {
  overflow: hidden;
  text-overflow: ellipsis;
}

.list {
  display: grid;
  gap: 14px;
  padding: 0;
  list-style: none;
}
</style>
