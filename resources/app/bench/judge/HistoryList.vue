<script setup lang="ts">
/** Every revision with its words and time, newest first: click to look, restore as a new revision. */
import SidePanel from '../../widgets/SidePanel.vue';
import { useBench } from '../bench';

const { history, store, panel } = useBench();
const DAY = new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', month: 'short' });
const TIME = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' });
/** The day stands where it changes. */
const dayOf = (i: number): string => {
  const [own, above] = [history.list.value[i], history.list.value[i - 1]].map((r) => (r ? DAY.format(new Date(r.createdAt)) : ''));
  return own !== above ? (own ?? '') : '';
};
</script>

<template>
  <SidePanel title="History" @close="panel = null">
    <p class="dim hint">Click a line to look at it. Nothing is lost by going back: that is a new step too.</p>
    <ol aria-label="Revisions, newest first">
      <li v-for="(r, i) in history.list.value" :key="r.revision">
        <h3 v-if="dayOf(i)" class="dim">{{ dayOf(i) }}</h3>
        <div class="line" :class="{ now: r.revision === store.revision.value, on: r.revision === history.looked.value }">
          <button type="button" class="plain look" :aria-pressed="r.revision === history.looked.value" :aria-current="r.revision === store.revision.value" @click="history.look(r.revision)"><span class="mono">{{ r.revision }}</span><b>{{ r.label }}</b><time class="mono" :datetime="r.createdAt">{{ TIME.format(new Date(r.createdAt)) }}</time></button>
          <button v-if="r.revision === history.looked.value" type="button" class="btn small" @click="history.restore(r.revision)">Restore</button>
          <span v-else-if="r.revision === store.revision.value" class="dim mark">shown</span>
        </div>
      </li>
    </ol>
    <button v-if="!history.complete.value && history.list.value.length" type="button" class="btn" @click="history.more()">Earlier ones</button>
  </SidePanel>
</template>

<style scoped>
.hint {
  padding-bottom: 8px;
}

ol {
  display: grid;
  padding: 0;
  list-style: none;
}

h3 {
  padding: 8px 0 2px;
  font-size: 12px;
  font-weight: 400;
}

.line {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 28px;
  padding: 0 4px;
}

.line:hover,
.line.on {
  background: var(--g3);
}

.look {
  display: grid;
  flex: 1;
  grid-template-columns: 34px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  min-width: 0;
  min-height: 26px;
}

.look .mono {
  color: var(--t3);
}

b {
  overflow: hidden;
  font-weight: 400;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.now b,
.on b {
  font-weight: 600;
}

.mark {
  font-size: 12px;
}
</style>
