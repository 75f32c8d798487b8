<script setup lang="ts">
/** The right column: index tabs of the areas, beside them the chosen one's steps, what slides over them, the scope below. */
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import DeliverPanel from '../../deliveries/DeliverPanel.vue';
import { useNotices } from '../../useNotices';
import SidePanel from '../../widgets/SidePanel.vue';
import { useBench } from '../bench';
import CarryPanel from '../carry/CarryPanel.vue';
import HistoryList from '../judge/HistoryList.vue';
import ScopePanel from '../judge/ScopePanel.vue';
import KeyList from '../keys/KeyList.vue';
import FindPerson from '../person/FindPerson.vue';
import PeoplePanel from '../person/PeoplePanel.vue';
import AddArea from './AddArea.vue';
import AreaAbout from './AreaAbout.vue';
import AreaSteps from './AreaSteps.vue';
import AreaTabs from './AreaTabs.vue';
import AreaTitle from './AreaTitle.vue';
import WholeFrame from './WholeFrame.vue';

const { areas, store, panel, shot } = useBench();
const { say } = useNotices();
const router = useRouter();
const about = ref(false);
const whole = computed(() => (areas.tab.value === 'base' || areas.tab.value === 'finish' ? areas.tab.value : null));

function ordered(): void {
  panel.value = null;
  say('Rendering', 'Its progress is under Deliveries.');
  void router.push('/deliveries');
}
</script>

<template>
  <aside class="do" aria-label="What is done to the shot">
    <AreaTabs />
    <div id="doing" class="pane" role="tabpanel" :aria-label="areas.chosen.value?.name ?? whole ?? 'Nothing chosen'">
      <template v-if="areas.chosen.value">
        <AreaTitle v-model:more="about" :area="areas.chosen.value" />
        <AreaAbout v-if="about" :area="areas.chosen.value" />
        <AreaSteps :area="areas.chosen.value" />
      </template>
      <WholeFrame v-else-if="whole" :place="whole" />
      <ScopePanel />
      <AddArea v-if="panel === 'add'" />
      <FindPerson v-else-if="panel === 'find'" />
      <CarryPanel v-else-if="panel === 'carry'" />
      <PeoplePanel v-else-if="panel === 'people'" />
      <HistoryList v-else-if="panel === 'history'" />
      <KeyList v-else-if="panel === 'keys'" />
      <SidePanel v-else-if="panel === 'deliver'" :title="`Deliver ${shot.name}`" @close="panel = null"><DeliverPanel :shot="shot" :areas="areas.all.value" @close="panel = null" @ordered="ordered" /></SidePanel>
    </div>
    <footer>
      <button v-tooltip.top="store.saved.value?.undo ? `Undo: ${store.saved.value.undo}` : ''" type="button" class="btn quiet" :disabled="!store.saved.value?.undo" @click="store.undo()">Undo</button>
      <button v-tooltip.top="store.saved.value?.redo ? `Redo: ${store.saved.value.redo}` : ''" type="button" class="btn quiet" :disabled="!store.saved.value?.redo" @click="store.redo()">Redo</button>
      <button type="button" class="btn quiet" :aria-expanded="panel === 'history'" @click="panel = panel === 'history' ? null : 'history'">History</button>
      <span class="grow"></span>
      <span class="dim state" aria-live="polite">{{ store.unsaved.value ? 'saving…' : 'saved' }}</span>
      <button type="button" class="btn quiet" aria-label="Keys" :aria-expanded="panel === 'keys'" @click="panel = panel === 'keys' ? null : 'keys'">?</button>
      <button v-tooltip.top="'Carry what is done here to other shots'" type="button" class="btn" :aria-expanded="panel === 'carry'" @click="panel = panel === 'carry' ? null : 'carry'">Carry</button>
      <button type="button" class="btn main" :aria-expanded="panel === 'deliver'" @click="panel = panel === 'deliver' ? null : 'deliver'">Deliver</button>
    </footer>
  </aside>
</template>

<style scoped>
.do {
  display: grid;
  grid-template-rows: minmax(0, 1fr) 44px;
  grid-template-columns: 60px minmax(0, 1fr);
  min-height: 0;
  background: var(--g2);
  border-left: 1px solid var(--line);
}

.pane {
  position: relative;
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}

footer {
  display: flex;
  grid-column: 1 / 3;
  gap: 3px;
  align-items: center;
  padding: 0 8px 0 4px;
  background: var(--g1);
  border-top: 1px solid var(--line);
}

footer .btn {
  padding-inline: 9px;
}

.state {
  margin-right: 2px;
  font-size: 12px;
}

@media (width < 1150px) {
  footer {
    gap: 1px;
  }

  footer .btn {
    padding-inline: 6px;
  }
}
</style>
