<script setup lang="ts">
/** Looks for a face on the present frame and proposes its areas; those that are ticked go into the recipe. */
import Dialog from 'primevue/dialog';
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { api } from '../api/client';
import type { Area, Pair } from '../api/types';
import type { FindAnswer } from './findFace.worker';

const props = defineProps<{ shotId: number; frame: number; people: { slug: string; name: string }[] }>();
const emit = defineEmits<{ close: []; take: [areas: Area[]] }>();

const LOOKED_AT = 540;
const proposed = ref<Area[]>([]);
const ticked = ref<Set<string>>(new Set());
const person = ref<string | null>(props.people.length === 1 ? (props.people[0]?.slug ?? null) : null);
const words = ref('Looking for a face on this frame…');
const failed = ref(false);
let worker: Worker | null = null;

async function look(): Promise<void> {
  try {
    const picture = await api.picture(props.shotId, { frame: props.frame, view: 'original', height: LOOKED_AT });
    const { width, height } = picture.image;
    const canvas = new OffscreenCanvas(width, height);
    const g = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
    g.drawImage(picture.image, 0, 0);
    worker = new Worker(new URL('./findFace.worker.ts', import.meta.url), { type: 'module' });
    const answer = await new Promise<FindAnswer>((resolve) => {
      (worker as Worker).onmessage = (e: MessageEvent<FindAnswer>) => resolve(e.data);
      (worker as Worker).onerror = (e) => resolve({ failure: e.message });
      (worker as Worker).postMessage({ pixels: g.getImageData(0, 0, width, height) });
    });
    if ('failure' in answer) throw new Error(answer.failure);
    if (answer.landmarks === null) {
      failed.value = true;
      words.value = 'No face was found on this frame. Try one where it is seen from the front, or draw the areas yourself.';
      return;
    }
    proposed.value = await api.person(props.shotId, { frame: props.frame, landmarks: answer.landmarks.map(([x, y]): Pair => [x / height, y / height]) });
    ticked.value = new Set(proposed.value.map((a) => a.id));
    words.value = 'A face was found. These areas are proposed; all can be corrected afterwards.';
  } catch (reason) {
    failed.value = true;
    words.value = `Looking for a face did not work: ${reason instanceof Error ? reason.message : String(reason)}`;
  }
}

/** An area takes with it what it rides on or is made of. */
function needs(area: Area): string[] {
  return [area.motion.on, ...area.outline.shapes.map((s) => (s.kind === 'area' ? s.of : undefined))].filter((id): id is string => id !== undefined);
}
function tick(area: Area): void {
  const next = new Set(ticked.value);
  if (next.has(area.id)) {
    next.delete(area.id);
    for (const other of proposed.value) if (needs(other).includes(area.id)) next.delete(other.id);
  } else for (const id of [area.id, ...needs(area)]) next.add(id);
  ticked.value = next;
}
function take(): void {
  emit('take', proposed.value.filter((a) => ticked.value.has(a.id)).map((a) => ({ ...a, person: person.value })));
  emit('close');
}

onMounted(look);
onBeforeUnmount(() => worker?.terminate());
</script>

<template>
  <Dialog :visible="true" modal header="Find the person" :style="{ width: '400px' }" @update:visible="emit('close')">
    <div class="find">
      <p :class="{ dim: !failed }"><span v-if="failed">▲ </span>{{ words }}</p>
      <template v-if="proposed.length">
        <div class="list">
          <label v-for="a in proposed" :key="a.id" class="tick"><input type="checkbox" :checked="ticked.has(a.id)" @change="tick(a)"> {{ a.name }}<span v-if="a.motion.by === 'ride'" class="dim"> rides on the face</span></label>
        </div>
        <div v-if="people.length" class="who">
          <span class="dim">Person</span>
          <span class="pills"><button v-for="p in people" :key="p.slug" type="button" :aria-pressed="person === p.slug" @click="person = person === p.slug ? null : p.slug">{{ p.name }}</button></span>
        </div>
      </template>
      <div class="row">
        <button type="button" class="btn" @click="emit('close')">{{ proposed.length ? 'Leave it' : 'Close' }}</button>
        <button v-if="proposed.length" type="button" class="btn main" :disabled="ticked.size === 0" @click="take">Take {{ ticked.size }} areas</button>
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.find,
.list {
  display: grid;
  gap: 8px;
}

.list {
  grid-template-columns: 1fr;
  gap: 4px;
}

.who,
.row {
  display: flex;
  gap: 8px;
  align-items: center;
}

.row {
  justify-content: flex-end;
  margin-top: 8px;
}

</style>
