<script setup lang="ts">
/** The areas as index tabs, in the order they act in: dragged, or moved with Alt and the arrow keys. Base and finish below. */
import { ref } from 'vue';
import { keepFocus } from '../../widgets/keepFocus';
import { useBench } from '../bench';
import { hold } from '../picture/drag';

const { areas, store, panel } = useBench();
const root = ref<HTMLElement>();
/** Where the tab that is being dragged would go. */
const over = ref<number | null>(null);

function tabs(): HTMLElement[] {
  return [...(root.value?.querySelectorAll<HTMLElement>('[role=tab]') ?? [])];
}
function grab(e: PointerEvent, from: number): void {
  if (e.button !== 0) return;
  const id = areas.all.value[from]?.id ?? '';
  let moved = false;
  hold(e, (m) => {
    moved ||= Math.abs(m.clientY - e.clientY) > 6;
    if (!moved) return;
    const slots = tabs().slice(0, areas.all.value.length).map((tab) => tab.getBoundingClientRect());
    const at = slots.findIndex((r) => m.clientY < r.bottom);
    over.value = at < 0 ? slots.length - 1 : at;
  }, () => {
    if (moved && over.value !== null) areas.arrange(id, over.value);
    over.value = null;
  });
}
/** Arrow keys go from tab to tab, as in any list of tabs; with Alt they take the tab along. */
function key(e: KeyboardEvent): void {
  const by = { ArrowUp: -1, ArrowDown: 1 }[e.key];
  const ids = [...areas.all.value.map((a) => a.id), 'base', 'finish'];
  const here = ids.indexOf(areas.tab.value);
  if (by !== undefined && e.altKey) {
    areas.arrange(areas.tab.value, here + by);
    keepFocus();
  } else if (by !== undefined) {
    const next = (here + by + ids.length) % ids.length;
    areas.choose(ids[next] ?? 'base');
    tabs()[next]?.focus();
  } else return;
  e.preventDefault();
  e.stopPropagation();
}
</script>

<template>
  <div ref="root" class="tabs">
    <div role="tablist" aria-label="Areas, in the order they act in" aria-orientation="vertical" class="list" @keydown="key">
      <button
        v-for="(a, i) in areas.all.value" :id="`tab-${a.id}`" :key="a.id" v-tooltip.left="a.name" type="button" role="tab" class="plain tab" :class="{ on: areas.tab.value === a.id, off: !a.on, over: over === i }"
        :aria-selected="areas.tab.value === a.id" aria-controls="doing" :tabindex="areas.tab.value === a.id ? 0 : -1" @click="areas.choose(a.id)" @pointerdown="grab($event, i)"
      >
        <b>{{ areas.letters.value[a.id] }}</b> <small>{{ a.name }}</small><span v-if="!a.on" class="unseen"> off</span>
      </button>
      <span class="grow"></span>
      <button v-for="whole in ['base', 'finish']" :key="whole" type="button" role="tab" class="plain tab slim" :class="{ on: areas.tab.value === whole }" :aria-selected="areas.tab.value === whole" aria-controls="doing" :tabindex="areas.tab.value === whole ? 0 : -1" @click="areas.choose(whole)">{{ whole === 'base' ? 'Base' : 'Finish' }}</button>
    </div>
    <button v-tooltip.left="'Add an area'" type="button" class="plain tab add" aria-label="Add an area" :aria-expanded="panel === 'add'" :disabled="!store.recipe.value" @click="panel = panel === 'add' ? null : 'add'"><b>+</b></button>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  padding: 8px 0;
  background: var(--g0);
  border-right: 1px solid var(--line);
}

.list {
  display: flex;
  flex: 1;
  flex-direction: column;
  gap: 4px;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: none;
}

.tab {
  display: grid;
  flex: none;
  place-content: center;
  justify-items: center;
  height: 46px;
  margin-left: 8px;
  background: var(--g1);
  border: 1px solid var(--line);
  border-right: 0;
  border-radius: 2px 0 0 2px;
  color: var(--t2);
  line-height: 15px;
  touch-action: none;
}

.tab b {
  font-size: 15px;
  font-weight: 600;
}

.tab small {
  max-width: 48px;
  overflow: hidden;
  color: var(--t3);
  font-size: 10px;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.tab.on {
  background: var(--g2);
  border-color: var(--t3);
  color: var(--t1);
}

.tab.over {
  box-shadow: 0 -2px 0 var(--t1);
}

.tab.off b {
  text-decoration: line-through;
}

.tab.add {
  order: -1;
  height: 30px;
  border-style: dashed;
}

.tab.slim {
  height: 30px;
  font-size: 11px;
}
</style>
