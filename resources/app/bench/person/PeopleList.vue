<script setup lang="ts">
/** The people of a job by name: a new one, another name, or gone. */
import InputText from 'primevue/inputtext';
import { useConfirm } from 'primevue/useconfirm';
import { ref } from 'vue';
import type { Person } from '../../api/types';
import type { People } from './usePeople';

const props = defineProps<{ people: People }>();
const emit = defineEmits<{ removed: [] }>();
const confirm = useConfirm();
const added = ref('');

async function add(): Promise<void> {
  const name = added.value.trim();
  if (name && (await props.people.add(name))) added.value = '';
}
function rename(person: Person, name: string): void {
  if (name.trim() && name.trim() !== person.name) void props.people.rename(person.slug, name.trim());
}
function remove(person: Person): void {
  confirm.require({
    header: `Remove ${person.name}?`,
    message: 'Their areas stay in every shot, as nobody’s; each shot’s history can bring them back.',
    acceptLabel: 'Remove',
    rejectLabel: 'Keep',
    accept: async () => {
      if (await props.people.remove(person.slug)) emit('removed');
    },
  });
}
</script>

<template>
  <ul class="people" aria-label="People">
    <li v-for="p in people.list.value" :key="p.slug">
      <InputText :model-value="p.name" maxlength="120" :aria-label="`Name of ${p.name}`" @change="rename(p, ($event.target as HTMLInputElement).value)" @keydown.enter="($event.target as HTMLInputElement).blur()" />
      <button type="button" class="plain icon" :aria-label="`Remove ${p.name}`" @click="remove(p)">×</button>
    </li>
  </ul>
  <p v-if="people.list.value.length === 0" class="dim">Nobody yet. People have areas in one or more shots; a treatment can be carried from one to another.</p>
  <form class="new" @submit.prevent="add">
    <InputText v-model="added" maxlength="120" placeholder="Somebody new" aria-label="Name of somebody new" />
    <button type="submit" class="btn" :disabled="!added.trim()">Add</button>
  </form>
</template>

<style scoped>
.people {
  display: grid;
  gap: 6px;
  padding: 0;
  list-style: none;
}

li,
.new {
  display: flex;
  gap: 6px;
  align-items: center;
}

li :deep(input),
.new :deep(input) {
  flex: 1;
  min-width: 0;
}

.new {
  margin-top: 12px;
}

p {
  font-size: 12px;
}
</style>
