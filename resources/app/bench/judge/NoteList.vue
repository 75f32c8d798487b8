<script setup lang="ts">
/** Notes on frames of the shot: one goes to the frame, ticks it off, or writes another on the frame that is shown. */
import Checkbox from 'primevue/checkbox';
import InputText from 'primevue/inputtext';
import { ref } from 'vue';
import { useBench } from '../bench';

const { notes, playhead, goTo } = useBench();
const text = ref('');

async function add(): Promise<void> {
  const wanted = text.value.trim();
  if (!wanted) return;
  text.value = '';
  await notes.add(playhead.frame.value, wanted);
}
</script>

<template>
  <section class="notes" aria-label="Notes on frames">
    <form @submit.prevent="add">
      <InputText v-model="text" maxlength="4000" :placeholder="`Note on frame ${playhead.frame.value}…`" :aria-label="`Note on frame ${playhead.frame.value}`" />
      <button type="submit" class="btn small" :disabled="!text.trim()">Note</button>
    </form>
    <ul>
      <li v-for="n in notes.all.value" :key="n.id" :class="{ done: n.resolved }">
        <Checkbox :model-value="n.resolved" binary :aria-label="`${n.text}: resolved`" @update:model-value="notes.resolve(n, $event)" />
        <button type="button" class="plain mono" :aria-label="`Go to frame ${n.frame}`" @click="goTo(n.frame)">{{ n.frame }}</button>
        <span>{{ n.text }}</span>
        <button type="button" class="plain icon dim" :aria-label="`Remove the note ${n.text}`" @click="notes.remove(n)">×</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.notes {
  display: grid;
  gap: 6px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}

form,
li {
  display: flex;
  gap: 6px;
  align-items: center;
}

form :deep(input) {
  flex: 1;
  min-width: 0;
}

ul {
  padding: 0;
  list-style: none;
}

li button.mono {
  min-width: 36px;
  min-height: 24px;
  color: var(--t2);
  text-align: right;
}

li span {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}

.done span {
  color: var(--t3);
  text-decoration: line-through;
}
</style>
