<script setup lang="ts">
/** Folders of the server that footage may be taken from without being sent. */
import { onMounted, ref } from 'vue';
import { api } from '../api/client';
import type { ServerFile } from '../api/types';
import { bytes } from '../widgets/bytes';

const props = defineProps<{ jobId: number; span: { from?: number; to?: number } }>();
const emit = defineEmits<{ taken: [] }>();
const path = ref('');
const files = ref<ServerFile[]>([]);
const problem = ref<string | null>(null);
const taken = ref<Set<string>>(new Set());

async function go(to: string): Promise<void> {
  try {
    files.value = await api.folder(to);
    path.value = to;
    problem.value = null;
  } catch (reason) {
    problem.value = reason instanceof Error ? reason.message : String(reason);
  }
}
async function take(file: ServerFile): Promise<void> {
  try {
    await api.takeFromFolder(props.jobId, file.path, props.span);
    taken.value = new Set([...taken.value, file.path]);
    emit('taken');
  } catch (reason) {
    problem.value = reason instanceof Error ? reason.message : String(reason);
  }
}
onMounted(() => go(''));
</script>

<template>
  <section v-if="files.length || path" aria-label="Folders of the server">
    <header><span class="dim">On the server</span><span class="mono">/{{ path }}</span><span class="grow"></span><button v-if="path" type="button" class="btn small" @click="go(path.split('/').slice(0, -1).join('/'))">Up</button></header>
    <p v-if="problem" class="warn" role="alert">▲ {{ problem }}</p>
    <ul>
      <li v-for="f in files" :key="f.path">
        <button v-if="f.kind === 'folder'" type="button" class="plain" @click="go(f.path)">{{ f.name }}/</button>
        <template v-else><span>{{ f.name }}<small class="dim">{{ f.kind === 'sequence' ? ' sequence' : ` ${bytes(f.bytes)}` }}</small></span><button type="button" class="btn small" :disabled="taken.has(f.path)" :aria-label="`Take ${f.name}`" @click="take(f)">{{ taken.has(f.path) ? 'Taken' : 'Take' }}</button></template>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}

header,
li {
  display: flex;
  gap: 8px;
  align-items: center;
}

ul {
  max-height: 220px;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}

li {
  min-height: 28px;
}

li span {
  flex: 1;
}
</style>
