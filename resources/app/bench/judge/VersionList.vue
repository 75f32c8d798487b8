<script setup lang="ts">
/** The kept versions of the shot: a small picture each, to compare with, to go back to, to rename, to delete. */
import InputText from 'primevue/inputtext';
import { useConfirm } from 'primevue/useconfirm';
import { ref, watch } from 'vue';
import type { Version } from '../../api/types';
import { useObjectUrls } from '../../widgets/useObjectUrls';
import { useBench } from '../bench';

const { compare, playhead } = useBench();
const confirm = useConfirm();
const name = ref('');
const renaming = ref<number | null>(null);
const newName = ref('');
const thumbs = useObjectUrls<number>();

watch(compare.versions, async (versions) => {
  for (const v of versions) {
    if (thumbs.urls.has(v.id)) continue;
    const picture = await compare.thumb(v, playhead.frame.value).catch(() => null);
    if (picture) thumbs.put(v.id, picture);
  }
}, { immediate: true });

function remove(v: Version): void {
  confirm.require({
    header: `Delete “${v.name}”?`,
    message: 'The name is taken away; the state itself stays in the history.',
    acceptLabel: 'Delete it',
    rejectLabel: 'Keep it',
    accept: () => void compare.remove(v.id),
  });
}

async function keep(): Promise<void> {
  const wanted = name.value.trim();
  if (!wanted) return;
  name.value = '';
  await compare.keep(wanted);
}
function rename(v: Version): void {
  renaming.value = v.id;
  newName.value = v.name;
}
async function take(v: Version): Promise<void> {
  if (renaming.value === null) return;
  renaming.value = null;
  const wanted = newName.value.trim();
  if (wanted && wanted !== v.name) await compare.rename(v.id, wanted);
}
</script>

<template>
  <section class="versions" aria-label="Versions">
    <form @submit.prevent="keep">
      <InputText v-model="name" maxlength="60" placeholder="Keep this state as…" aria-label="Name of a new version" />
      <button type="submit" class="btn small" :disabled="!name.trim()">Keep</button>
    </form>
    <ul>
      <li v-for="v in compare.versions.value" :key="v.id" :class="{ on: compare.layout.value !== null && compare.against.value === v.id }">
        <img v-if="thumbs.urls.get(v.id)" :src="thumbs.urls.get(v.id)" alt="">
        <i v-else></i>
        <InputText v-if="renaming === v.id" v-model="newName" maxlength="60" :aria-label="`New name of ${v.name}`" autofocus @keydown.enter.prevent="take(v)" @keydown.escape.stop="renaming = null" @blur="take(v)" />
        <button v-else type="button" class="plain name" title="Rename" @click="rename(v)">{{ v.name }}</button>
        <button type="button" class="btn small" :aria-label="`Compare with ${v.name}`" @click="compare.choose(v.id)">Compare</button>
        <button type="button" class="btn small" :aria-label="`Go back to ${v.name}`" @click="compare.restore(v)">Go back</button>
        <button type="button" class="plain icon dim" :aria-label="`Delete ${v.name}`" @click="remove(v)">×</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.versions {
  display: grid;
  gap: 6px;
}

form,
li {
  display: flex;
  gap: 6px;
  align-items: center;
}

ul {
  display: grid;
  gap: 4px;
  padding: 0;
  list-style: none;
}

form :deep(input),
li :deep(input) {
  flex: 1;
  min-width: 0;
}

img,
li i {
  width: 64px;
  height: 36px;
  background: var(--g0);
  object-fit: cover;
}

.on img {
  outline: 1px solid var(--t1);
}

.name {
  flex: 1;
  min-height: 24px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
