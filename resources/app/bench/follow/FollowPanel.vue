<script setup lang="ts">
/** How the area moves: followed, riding on another, or staying; how surely, and what was put right by hand. */
import Checkbox from 'primevue/checkbox';
import ProgressBar from 'primevue/progressbar';
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Area, Channel, Model, Motion } from '../../api/types';
import PillChoice from '../../widgets/PillChoice.vue';
import RulerSlider from '../../widgets/RulerSlider.vue';
import { useBench } from '../bench';
import { isFound } from '../outline/shapes';

const props = defineProps<{ area: Area }>();
const { areas, following, motions, outlines, playhead, goTo } = useBench();
const { frame, from, to } = playhead;
const { weak } = following;

const MODELS: { name: string; value: Model }[] = [
  { name: 'Move only', value: 'position' },
  { name: 'Move, turn and scale', value: 'similarity' },
  { name: '… and shear', value: 'affine' },
  { name: '… and perspective', value: 'perspective' },
  { name: 'Relief: a head that turns', value: 'relief' },
  { name: 'Each point of the path', value: 'outline' },
  { name: 'Iris and lids', value: 'iris' },
];
const CHANNELS: { name: string; value: Channel; models: Model[] }[] = [
  { name: 'Position', value: 'position', models: [] },
  { name: 'Rotation', value: 'rotation', models: ['position', 'iris'] },
  { name: 'Scale', value: 'scale', models: ['position'] },
  { name: 'Shear', value: 'shear', models: ['position', 'similarity', 'outline', 'iris'] },
  { name: 'Perspective', value: 'perspective', models: ['position', 'similarity', 'affine', 'outline', 'iris'] },
];
const BY: { label: string; value: Motion['by'] }[] = [
  { label: 'Follows', value: 'follow' },
  { label: 'Rides', value: 'ride' },
  { label: 'Stays', value: 'none' },
];
const motion = computed(() => following.motion.value ?? props.area.motion);
const model = computed<Model>(() => motion.value.model ?? 'similarity');
const drawn = computed(() => props.area.outline.shapes.length > 0);
const open = computed(() => motions.openFor(props.area.id));
const person = computed(() => motions.personFor(props.area.id));
/** Other areas ride on this one. */
const carries = computed(() => areas.all.value.some((a) => a.motion.by === 'ride' && a.motion.on === props.area.id));
const last = computed(() => motions.lastFor(props.area.id));
const total = computed(() => (open.value ? open.value.to - open.value.from + 1 : 1));
const span = following.span;
const first = computed(() => Math.max(from, span.value?.[0] ?? from));
const end = computed(() => Math.min(to, span.value?.[1] ?? to));
const confidence = computed(() => motions.confidence(props.area.id));
/** Areas this one can ride on: all but itself and those that ride on it. */
const hosts = computed(() => {
  const ridesOnThis = (id: string): boolean => {
    const on = areas.find(id)?.motion.on;
    return id === props.area.id || (on !== undefined && ridesOnThis(on));
  };
  return areas.all.value.filter((a) => !ridesOnThis(a.id)).map((a) => ({ name: a.name, value: a.id }));
});
const ways = computed(() => BY.map((b) => ({ ...b, disabled: b.value === 'ride' && hosts.value.length === 0 })));
const sources = computed(() => areas.all.value.filter((a) => a.id !== props.area.id && a.motion.track).map((a) => ({ name: a.name, value: a.id })));
/** What closes over it. */
const shutter = computed(() => (props.area.part === 'teeth' ? 'mouth is' : 'lids are'));
const hasLids = computed(() => motions.open(props.area.id).some((v) => v !== null));
const guardKey = computed(() => props.area.blinkGuard.keys.find((k) => k.frame === frame.value) ?? null);
const channels = computed(() =>
  CHANNELS.filter((c) => motion.value.by === 'ride' || !c.models.includes(model.value)).map((c) => (c.value === 'perspective' && motion.value.by === 'follow' && model.value === 'relief' ? { ...c, name: 'Depth' } : c)),
);

function chooseBy(by: Motion['by'] | null): void {
  if (by === 'ride') {
    const host = hosts.value[0];
    if (host) following.by('ride', host.value);
  } else if (by) following.by(by);
}
function stop(): void {
  if (open.value) void motions.stop(open.value);
}
</script>

<template>
  <div class="panel">
    <p v-if="!drawn" class="dim">There is no outline yet. Draw one, on the frame that shows the thing best.</p>
    <p v-else-if="isFound(area.outline.shapes)" class="dim">People are found anew on every frame: there is nothing to follow.</p>
    <template v-else>
      <div class="line">
        <span class="label">{{ following.shapeId.value ? 'The shape' : 'The area' }}</span>
        <PillChoice :options="ways" :value="motion.by" label="How it moves" @choose="chooseBy" />
        <Select v-if="motion.by === 'ride'" :model-value="motion.on" :options="hosts" option-label="name" option-value="value" aria-label="Rides on" @update:model-value="following.by('ride', $event)" />
      </div>
      <template v-if="person">
        <ProgressBar :value="Math.round((100 * person.done) / person.of)" :show-value="false" aria-label="Following the person" style="height: 4px" />
        <div class="acts">
          <span v-if="person.follow.message" class="dim">{{ person.follow.message }}</span>
          <span v-else class="dim">following the person, <span class="mono">{{ Math.round((100 * person.done) / person.of) }} %</span></span>
          <span class="grow"></span>
          <button type="button" class="btn" @click="motions.stop(person.follow)">Stop</button>
        </div>
      </template>
      <template v-else-if="motion.by !== 'ride'">
        <div class="line">
          <span class="label">Motion</span>
          <Select :model-value="model" :options="MODELS" option-label="name" option-value="value" aria-label="Motion" @update:model-value="following.setModel($event)" />
        </div>
        <template v-if="model !== 'outline' && model !== 'iris'">
          <div class="line">
            <span class="label">Looks at</span>
            <span class="pills" role="group" aria-label="Looks at">
              <button type="button" :aria-pressed="motion.look?.by !== 'spots'" @click="following.setLook({ by: 'outline', margin: 0 }, true)">Outline</button>
              <button v-tooltip.bottom="'Click a spot on the picture; a second one gives rotation and scale'" type="button" :aria-pressed="motion.look?.by === 'spots'" @click="outlines.tool.value = 'spot'">{{ motion.look?.by === 'spots' && motion.look.spots.length > 1 ? 'Two spots' : 'Spots' }}</button>
            </span>
          </div>
          <RulerSlider v-if="motion.look?.by === 'spots'" label="Spot size" :value="motion.look.radius" :least="0.005" :most="0.15" :neutral="0.005" :digits="1" :scale="100" unit="%" @change="motion.look?.by === 'spots' && following.setLook({ ...motion.look, radius: $event }, false)" @commit="following.set('spot size', () => undefined)" />
          <RulerSlider v-else label="Look round" :value="motion.look?.margin ?? 0" :least="0" :most="0.25" :neutral="0" :digits="1" :scale="100" unit="%" @change="following.setLook({ by: 'outline', margin: $event }, false)" @commit="following.set('look round', () => undefined)" />
        </template>
        <p v-if="model === 'relief'" class="dim">Learns from its turning how far each place stands out: what lies on it turns with it.</p>
        <p v-else-if="model === 'iris'" class="dim">Finds the iris by its round edge, and how far the lids are open.</p>
        <p v-else-if="model === 'outline'" class="dim">Each part of the path keeps to its own edge; for lips and other soft things.</p>
        <template v-if="open">
          <ProgressBar :value="Math.round((100 * open.steps.length) / total)" :show-value="false" :aria-label="`Following ${area.name}`" style="height: 4px" />
          <div class="acts">
            <span v-if="open.message" class="dim">{{ open.message }}</span>
            <span v-else class="dim">following, <span class="mono">{{ open.steps.length }} of {{ total - 1 }}</span> frames</span>
            <span class="grow"></span>
            <button type="button" class="btn" @click="stop">Stop</button>
          </div>
        </template>
        <template v-else>
          <div class="acts">
            <button type="button" class="btn" :disabled="frame <= first" @click="following.follow(Math.min(first, frame), frame)">← Back</button>
            <button type="button" class="btn main" :disabled="frame < first || frame > end" @click="following.follow(first, end)">Follow both ways</button>
            <button type="button" class="btn" :disabled="frame >= end" @click="following.follow(frame, Math.max(end, frame))">On →</button>
          </div>
          <div v-if="carries" class="acts">
            <button v-tooltip.bottom="'The head first, then eyes, lids, lips and teeth, each in its own way'" type="button" class="btn" :disabled="frame < first || frame > end" @click="following.followPerson(first, end)">Follow it and what is on it</button>
          </div>
          <div v-if="span || following.nextKey.value !== null" class="acts">
            <span v-if="span" class="dim">only frames <span class="mono">{{ first }}–{{ end }}</span></span>
            <button v-if="span" type="button" class="btn small" @click="following.chooseSpan(null)">All frames</button>
            <button v-if="following.nextKey.value !== null && motion.track" type="button" class="btn small" @click="following.follow(frame, following.nextKey.value)">On to keyframe {{ following.nextKey.value }}</button>
          </div>
        </template>
        <p v-if="last?.state === 'failed' && !open" class="fail">▲ {{ last.message }}</p>
      </template>
      <template v-if="motion.track || motion.by === 'ride'">
        <div class="line">
          <span class="label">Use</span>
          <span class="pills tight" role="group" aria-label="Parts of the motion used"><button v-for="c in channels" :key="c.value" type="button" :aria-pressed="motion.use.includes(c.value)" @click="following.toggleChannel(c.value)">{{ c.name }}</button></span>
        </div>
        <div v-if="motion.track" class="line">
          <span class="label">Weakest</span>
          <span v-if="weak.length === 0" class="dim">no weak frame</span>
          <button v-for="w in weak" :key="w" type="button" class="btn small mono" @click="goTo(w)">{{ w }} · {{ Math.round((confidence[w - from] ?? 0) * 100) }} %</button>
        </div>
      </template>
      <p v-else class="dim">Starts from frame {{ frame }}, the one you are on. Drag on its lane below to follow only some frames.</p>
      <div class="line">
        <span class="label">By hand</span>
        <button type="button" class="btn small" :aria-pressed="following.correcting.value" @click="following.correctHere()">{{ following.correcting.value ? `Drag it right on frame ${frame}` : 'Correct on this frame' }}</button>
        <button v-for="k in following.keys.value" :key="k.frame" type="button" class="btn small mono" :aria-pressed="k.frame === frame" @click="goTo(k.frame)">{{ k.frame }}</button>
        <button v-if="following.keys.value.some((k) => k.frame === frame)" type="button" class="btn small" @click="following.removeKey(frame)">Remove {{ frame }}</button>
      </div>
      <div v-if="sources.length && motion.by !== 'ride'" class="line">
        <span class="label">Copy from</span>
        <Select placeholder="another area’s motion" :model-value="null" :options="sources" option-label="name" option-value="value" aria-label="Copy a motion from" @update:model-value="following.copyFrom($event)" />
      </div>
      <div v-if="hasLids" class="line">
        <span class="label">Blink guard</span>
        <label class="tick"><Checkbox :model-value="area.blinkGuard.on" binary @update:model-value="following.toggleGuard()" /> fades it while the {{ shutter }} closed</label>
        <template v-if="area.blinkGuard.on">
          <button type="button" class="btn small" @click="following.keyGuard(0)">Gone here</button>
          <button type="button" class="btn small" @click="following.keyGuard(1)">There here</button>
          <button v-if="guardKey" type="button" class="btn small" @click="following.keyGuard(null)">{{ area.part === 'teeth' ? 'By the mouth again' : 'By the lids again' }}</button>
        </template>
      </div>
    </template>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding: 0 16px 12px;
}

.line,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}

.acts {
  gap: 8px;
}

.label {
  width: 72px;
  color: var(--t2);
}

@media (width < 1150px) {
  .acts .btn {
    padding: 4px 8px;
  }
}

.tight button {
  padding: 2px 6px;
  font-size: 12px;
}

.fail {
  color: var(--t1);
}

p {
  font-size: 12px;
}
</style>
