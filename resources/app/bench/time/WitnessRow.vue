<script setup lang="ts">
/** Crops of the chosen area held still along its motion, spread over the shot; click one to go to its frame. */
import { computed } from 'vue';
import { useBench } from '../bench';
import { COUNTS, WITNESS, type Choice } from './useWitnesses';

const { areas, playhead, goTo, witnesses: row } = useBench();
const { witnesses, urls, behind, count, choice } = row;

const CHOICES: { value: Choice; name: string; words: string }[] = [
  { value: 'even', name: 'even', words: 'Evenly spread, with a few that want a look' },
  { value: 'weak', name: 'weak', words: 'Where the follow is weakest' },
  { value: 'telltales', name: 'tell', words: 'Where a tell-tale rings' },
];
const hint = computed(() => {
  if (areas.all.value.length === 0) return 'Set the base grade first, then find the people with W, or add an area with + and draw it on the frame that shows it best.';
  return areas.chosen.value ? 'Draw the outline of the area; then it is shown here, held still along its motion.' : 'Choose an area to see it held still along its motion.';
});
</script>

<template>
  <section class="row" :class="{ behind }" aria-label="Witnesses">
    <button v-for="w in witnesses" :key="w.frame" type="button" class="plain witness" :class="{ now: w.frame === playhead.frame.value, marked: w.word, many: witnesses.length > 9 }" :title="w.word" :aria-label="`Frame ${w.frame}${w.word ? `, ${w.word}` : ''}`" :aria-current="w.frame === playhead.frame.value" @click="goTo(w.frame)">
      <img v-if="urls.get(w.frame)" :src="urls.get(w.frame)" alt="">
      <i v-else></i>
      <span class="mono">{{ w.frame }}{{ w.word && ` ▲\u2009${w.word}` }}</span>
      <img v-if="urls.get(w.frame)" class="large" :src="urls.get(w.frame)" :width="WITNESS.width * 1.5" :height="WITNESS.height * 1.5" alt="">
    </button>
    <div v-if="witnesses.length" class="choices">
      <span class="pills" role="group" aria-label="How many witnesses"><button v-for="n in COUNTS" :key="n" type="button" :aria-pressed="count === n" @click="count = n">{{ n }}</button></span>
      <span class="pills" role="group" aria-label="Which witnesses"><button v-for="c in CHOICES" :key="c.value" v-tooltip.left="c.words" type="button" :aria-pressed="choice === c.value" @click="choice = c.value">{{ c.name }}</button></span>
    </div>
    <p v-if="witnesses.length === 0" class="dim">{{ hint }}</p>
  </section>
</template>

<style scoped>
.row {
  display: flex;
  gap: 8px;
  height: 112px;
  padding: 0 16px 8px;
  background: var(--g0);
}

.witness {
  position: relative;
  flex: 1;
  min-width: 0;
}

.many span {
  font-size: 10px;
}

.choices {
  display: grid;
  flex: none;
  grid-template-columns: 30px 38px;
  gap: 4px;
  align-content: start;
  width: 72px;
}

.choices .pills {
  display: grid;
}

.choices button {
  min-height: 25px;
  padding: 0;
  font-size: 11px;
  text-align: center;
}

img,
i {
  display: block;
  width: 100%;
  height: 80px;
  object-fit: cover;
  background: var(--g1);
  border: 1px solid #000;
}

.witness:hover img {
  border-color: var(--t3);
}

.witness .large {
  position: absolute;
  bottom: 100%;
  left: 50%;
  z-index: 5;
  display: none;
  width: auto;
  max-width: none;
  height: auto;
  transform: translateX(-50%);
  pointer-events: none;
}

.witness:first-child .large {
  left: 0;
  transform: none;
}

.witness:hover .large,
.witness:focus-visible .large {
  display: block;
}

.witness.now img:not(.large) {
  outline: 2px solid var(--t1);
  outline-offset: 1px;
}

span {
  display: block;
  margin-top: 4px;
  color: var(--t3);
  overflow: hidden;
  font-size: 11px;
  line-height: 16px;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.marked span {
  color: var(--t1);
  font-weight: 600;
}

p {
  align-self: center;
  width: 100%;
  text-align: center;
}
</style>
