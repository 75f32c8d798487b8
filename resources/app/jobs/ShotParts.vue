<script setup lang="ts">
/** The parts of a shot by person, each with what is done of it, and what gives it away. */
import type { AreaProgress, Person, Shot } from '../api/types';

const props = defineProps<{ shot: Shot; people: Person[] }>();

const STEPS: { letter: string; step: 'outline' | 'follow' | 'pick' | 'treat' | 'judge'; name: string }[] = [
  { letter: 'O', step: 'outline', name: 'Outline' },
  { letter: 'F', step: 'follow', name: 'Follow' },
  { letter: 'P', step: 'pick', name: 'Pick' },
  { letter: 'T', step: 'treat', name: 'Treat' },
  { letter: 'J', step: 'judge', name: 'Judge' },
];
const wordsOf = (area: AreaProgress, s: (typeof STEPS)[number]): string => `${s.name} ${area[s.step] ? 'done' : 'not yet'}`;

function person(i: number): string {
  const areas = props.shot.progress?.areas ?? [];
  const slug = areas[i]?.person ?? null;
  return slug !== (areas[i - 1]?.person ?? null) || i === 0 ? (props.people.find((p) => p.slug === slug)?.name ?? '') : '';
}
function tells(area: string | null): { telltale: string; frame: number }[] {
  return props.shot.progress?.telltales.filter((t) => t.area === area) ?? [];
}
</script>

<template>
  <div class="parts">
    <div v-for="(area, i) in shot.progress?.areas ?? []" :key="area.id" class="part" :class="{ off: !area.on }">
      <b>{{ person(i) }}</b>
      <span class="area" :title="area.name">{{ area.name }}</span>
      <span class="letters"><i v-for="s in STEPS" :key="s.letter" v-tooltip.top="wordsOf(area, s)" :class="{ done: area[s.step] }"><span aria-hidden="true">{{ s.letter }}</span><span class="unseen">{{ wordsOf(area, s) }}</span></i></span>
      <RouterLink v-if="tells(area.id).length" class="tells" :to="{ path: `/shots/${shot.id}`, query: { area: area.id, frame: tells(area.id)[0]?.frame } }">▲ {{ tells(area.id).map((t) => `${t.telltale} (${t.frame})`).join(', ') }}</RouterLink>
    </div>
    <RouterLink v-if="tells(null).length" class="tells" :to="`/shots/${shot.id}`">▲ the frame: {{ tells(null).map((t) => t.telltale).join(', ') }}</RouterLink>
    <span v-if="!shot.progress?.areas.length" class="dim">nobody marked yet</span>
  </div>
</template>

<style scoped>
.parts {
  display: grid;
  gap: 6px;
}

.part {
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr) auto;
  gap: 2px 12px;
  align-items: center;
}

.part b {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
}

.area {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.part.off {
  color: var(--t3);
  text-decoration: line-through;
}

.tells {
  grid-column: 2 / 4;
  min-height: 24px;
  color: var(--warn);
  font-size: 12px;
  line-height: 24px;
}

.tells:hover {
  text-decoration: underline;
}

.letters {
  display: flex;
  gap: 4px;
}

.letters i {
  display: grid;
  place-content: center;
  width: 18px;
  height: 18px;
  border: 1px solid var(--t3);
  border-radius: 2px;
  color: var(--t3);
  font-size: 11px;
  font-style: normal;
  font-weight: 600;
}

.letters i.done {
  background: #a8a8a8;
  border-color: #a8a8a8;
  color: #161616;
}

@media (width < 1200px) {
  .part {
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 2px 8px;
  }

  .part b {
    grid-column: 1 / -1;
  }

  .part b:empty {
    display: none;
  }

  .tells {
    grid-column: 1 / -1;
  }
}
</style>
