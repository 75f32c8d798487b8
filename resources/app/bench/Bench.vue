<script setup lang="ts">
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, nextTick, onBeforeUnmount, onMounted, provide, ref, shallowRef, watch, watchEffect } from 'vue';
import { useRoute } from 'vue-router';
import { api } from '../api/client';
import type { Area, AreaColours, Cure, DrawnShape, Finding, Kind, MaybeKeyed, Pair, PictureRequest, Recipe, Shot, StartingPoint, Touch, View } from '../api/types';
import DeliverDialog from '../deliveries/DeliverDialog.vue';
import { useNotices } from '../useNotices';
import SmallSwitch from '../widgets/SmallSwitch.vue';
import FindPerson from './FindPerson.vue';
import FollowPanel from './FollowPanel.vue';
import FollowStrips from './FollowStrips.vue';
import JudgePanel, { type Cut } from './JudgePanel.vue';
import OutlinePanel from './OutlinePanel.vue';
import PickPanel, { type Sampling } from './PickPanel.vue';
import PictureStage from './PictureStage.vue';
import type { Drawing, Tool } from './PenLayer.vue';
import ScopePanel from './ScopePanel.vue';
import type { TouchHandle } from './TouchHandles.vue';
import TouchList from './TouchList.vue';
import WitnessRow from './WitnessRow.vue';
import { BENCH } from './context';
import { apply, IDENTITY } from './geometry';
import { extentOf, shapeAt } from './shapes';
import { useCompare } from './useCompare';
import { useFollowing, stillMotion } from './useFollowing';
import { labelOf, valueAt, withValue } from './touches';
import { SHORTCUTS, useKeys } from './useKeys';
import { useMotions, weakFrames } from './useMotions';
import { useOutlines } from './useOutlines';
import { usePictures } from './usePictures';
import { run, usePlayback, type Source } from './usePlayback';
import { usePlayhead } from './usePlayhead';
import { freshId, useRecipe } from './useRecipe';
import { useTelltales } from './useTelltales';
import { useWitnesses } from './useWitnesses';

const props = defineProps<{ shot: Shot; kinds: Kind[]; starts: StartingPoint[] }>();
const footage = props.shot.footage as NonNullable<Shot['footage']>;
const aspect = footage.width / footage.height;
const { fail, say } = useNotices();
const route = useRoute();

const store = useRecipe(props.shot.id);
const motions = useMotions(props.shot.id, store);
const playhead = usePlayhead(props.shot.from, props.shot.to, Number(sessionStorage.getItem(`frame ${props.shot.id}`) ?? Math.round((props.shot.from + props.shot.to) / 2)));
const pictures = usePictures(props.shot.id);
const compared = useCompare(props.shot.id, store.load);
const playback = usePlayback(props.shot.id, playhead, footage.fps, (picture, beside) => {
  pictures.show(picture);
  if (beside) compared.other.value = beside;
});
const stage = ref<InstanceType<typeof PictureStage>>();

/** What the right column shows: an area by its id, or base or finish; nothing until the recipe is there. */
const tab = ref('');
const step = ref(1);
const helping = ref(false);
const delivering = ref(false);
const naming = ref(false);
const finding = ref(false);
const people = ref<{ slug: string; name: string }[]>([]);
const newName = ref('Face');
const SURROUNDS = ['#2a2a2a', '#5a5a5a', '#9a9a9a'];
const surround = ref(Number(localStorage.getItem('surround') ?? 0));

const areas = computed<Area[]>(() => store.recipe.value?.areas ?? []);
const area = computed<Area | null>(() => areas.value.find((a) => a.id === tab.value) ?? null);
const letters = computed(() => Object.fromEntries(areas.value.map((a, i) => [a.id, i < 26 ? String.fromCharCode(65 + i) : String(i + 1)])));
const confidence = computed(() => Object.fromEntries(areas.value.map((a) => [a.id, motions.confidence(a.id)])));
const weak = computed(() => (area.value ? weakFrames(confidence.value[area.value.id] ?? [], props.shot.from) : []));

const telltales = useTelltales(props.shot.id, store, computed(() => step.value === 5));
/** A cure that the picture is shown with, before it is applied. */
const previewed = shallowRef<Cure | null>(null);
watch([() => store.revision.value, tab, step], () => (previewed.value = null));
async function cure(by: Cure, finding: Finding): Promise<void> {
  const of = area.value?.name ?? 'The frame';
  previewed.value = null;
  if (by.recipe) {
    const cured = by.recipe;
    store.edit((recipe) => void Object.assign(recipe, cured));
    await store.commit(`${finding.area === null ? 'Frame' : of}, ${finding.telltale}: ${by.words.charAt(0).toLowerCase()}${by.words.slice(1)}`);
  } else if (by.followFrom !== null && area.value) {
    playhead.go(by.followFrom);
    const forwards = finding.worst >= by.followFrom;
    await following.follow(forwards ? by.followFrom : props.shot.from, forwards ? props.shot.to : by.followFrom);
  }
}

/** The touch whose control is being dragged, or true for anything else that is. */
const dragged = ref<Touch | true | null>(null);
const dragging = (on: boolean): void => {
  dragged.value = on ? true : null;
};
const outlining = useOutlines(props.shot.id, store, motions, playhead, area, dragging);
const following = useFollowing(store, motions, playhead, area, outlining, dragging);
const staged = computed(() =>
  Object.fromEntries(areas.value.map((a) => [a.id, outlining.staged(a).map((s) => (a.id === tab.value && following.correcting.value ? { ...s, matrix: following.withLive(s.matrix, a.motion.pivot) } : s))])),
);
/** The spots that the chosen area's follower looks at. */
const spots = computed<Pair[]>(() => {
  const look = following.motion.value?.look;
  if (!area.value || step.value !== 2 || look?.by !== 'spots') return [];
  const m = motions.matrix(area.value.id, playhead.frame.value);
  return look.spots.map((p) => apply(m, p));
});

const { view, outlines } = useKeys({
  step: (by) => goTo(playhead.frame.value + by),
  jump: (by) => {
    const own = telltales.open.value.filter((f) => f.area === null || f.area === area.value?.id);
    const keys = area.value ? [...area.value.motion.keys, ...area.value.blinkGuard.keys, ...area.value.outline.shapes.flatMap((s) => s.keys)].map((k) => k.frame) : [];
    const next = [...new Set([...weak.value, ...keys, ...own.flatMap((f) => [f.worst, ...f.spans.map(([first]) => first)])])].sort((a, b) => a - b);
    const to = by > 0 ? next.find((f) => f > playhead.frame.value) : next.findLast((f) => f < playhead.frame.value);
    if (to !== undefined) goTo(to);
  },
  witness: (by) => {
    const frames = row.witnesses.value.map((w) => w.frame);
    const to = by > 0 ? frames.find((f) => f > playhead.frame.value) : frames.findLast((f) => f < playhead.frame.value);
    if (to !== undefined) goTo(to);
  },
  ends: (last) => goTo(last ? props.shot.to : props.shot.from),
  liveEnd,
  play: () => void playback.play(),
  undo: () => void store.undo(),
  redo: () => void store.redo(),
  fit: () => stage.value?.fit(),
  zoom: () => stage.value?.zoomTo(stage.value.zoom === 1 ? 2 : 1),
  split: () => compared.toggle('split'),
  stepOf: (n) => {
    if (area.value) step.value = n;
  },
  area: (letter) => {
    const found = areas.value.find((a) => letters.value[a.id] === letter);
    if (found) tab.value = found.id;
  },
  nudge: (dx, dy) => stage.value?.nudge(dx, dy) ?? false,
  remove: () => stage.value?.removeSelected() ?? false,
  all: () => stage.value?.selectAll() ?? false,
  help: () => (helping.value = !helping.value),
  escape: () => {
    if (outlining.tool.value) outlining.tool.value = null;
    else if (place.value) leavePlace();
    else if (!stage.value?.deselect()) following.correcting.value = false;
    playback.halt();
  },
});
const AREA_VIEWS: View[] = ['matte', 'tint', 'picked', 'without'];
const effectiveView = computed<View>(() => (AREA_VIEWS.includes(view.value) && !area.value ? 'result' : view.value));

/** Whether what is shown depends on which area is chosen. */
const viewsArea = computed(() => AREA_VIEWS.includes(effectiveView.value));

/** The recipe on screen, where it is not saved yet. */
const unsaved = (): { recipe?: Recipe } => (store.unsaved.value && store.recipe.value ? { recipe: store.recipe.value } : {});

/** A touch the picture is shown without, while its button is held. */
const without = ref<string | null>(null);
function switchedOff(recipe: Recipe, id: string): Recipe {
  const off = (list: Touch[]): Touch[] => list.map((t) => (t.id === id ? { ...t, on: false } : t));
  return { ...recipe, base: off(recipe.base), areas: recipe.areas.map((a) => ({ ...a, touches: off(a.touches) })), finish: off(recipe.finish) };
}

/** The area whose touches the chosen one has: its own, or those of the one it is linked to. */
const treated = computed<Area | null>(() => (area.value?.pair?.linked ? (areas.value.find((a) => a.id === area.value?.pair?.with) ?? null) : area.value));

// --- pictures -------------------------------------------------------------------------------------------------
const wantedHeight = ref(0);
const seen = shallowRef<[number, number, number, number] | null>(null);

function request(view_: View, height: number): PictureRequest {
  const r: PictureRequest = { frame: playhead.frame.value, view: view_, area: viewsArea.value || dragged.value !== null ? (area.value?.id ?? null) : null, height, ...unsaved() };
  if (view_ === 'difference') r.gain = compared.gain.value;
  if (previewed.value?.recipe && view_ !== 'original') r.recipe = previewed.value.recipe;
  if (without.value !== null && store.recipe.value) r.recipe = switchedOff(store.recipe.value, without.value);
  if (seen.value) r.window = seen.value;
  return r;
}

/** What the picture on the stage was asked for by; nothing is asked twice. */
let wantedKey = '';
function refresh(): void {
  if (wantedHeight.value === 0 || !store.recipe.value || playback.playing.value) return;
  const touch = dragged.value;
  if (touch !== null) {
    wantedKey = '';
    // While something is dragged: only where it can act, and reduced. The whole follows when it rests.
    const inside = touch !== true && touch.side === 'inside' && effectiveView.value === 'result' && pictures.main.value !== null;
    const reduced = Math.max(64, Math.round(Math.min(wantedHeight.value, footage.height) / 2));
    pictures.want({ ...request(effectiveView.value, reduced), ...(inside ? { reach: true } : {}) }, inside);
    return;
  }
  // What is on its way to the server is shown as soon as it is saved, not twice.
  if (store.isSaving.value && store.unsaved.value && !store.offline.value && previewed.value === null && without.value === null) return;
  void compare();
  const whole = request(effectiveView.value, wantedHeight.value);
  const key = JSON.stringify([whole, store.revision.value]);
  if (key === wantedKey && pictures.failure.value === null) return;
  wantedKey = key;
  const known = playback.ready.value.get(playhead.frame.value);
  if (known && !store.unsaved.value && !seen.value && !previewed.value) void createImageBitmap(known.file).then((image) => pictures.show({ image, place: known.place }));
  else pictures.want(whole);
}

/** What it is compared with, for the split line or beside it. */
const compare = (): Promise<void> => compared.show(request('result', wantedHeight.value), store.revision.value, area.value?.id ?? null);

/** Playing across the cut to the shot that is compared with. */
const cut = ref<Cut>(null);
/** How much of each shot is played across a cut, in seconds. */
const TAIL = 1.5;
/** What plays round and round: the frames chosen on the lane, the live span of the chosen area, or all. */
const loop = computed<Pair>(() => {
  if (following.span.value) return following.span.value;
  const live = area.value?.live;
  return live && live.to > live.from ? [Math.max(live.from, props.shot.from), Math.min(live.to, props.shot.to)] : [props.shot.from, props.shot.to];
});
const source = (shot: number, whole: PictureRequest, revision: number): Source => {
  const { frame: _frame, recipe: _recipe, window: _window, ...plain } = whole;
  return { key: JSON.stringify([shot, revision, plain]), shot, request: plain };
};
const mainSource = computed(() => source(props.shot.id, { frame: 0, view: effectiveView.value, area: viewsArea.value ? (area.value?.id ?? null) : null, height: wantedHeight.value, gain: effectiveView.value === 'difference' ? compared.gain.value : 1 }, store.revision.value));
const moments = computed(() => {
  const near = compared.neighbour.value;
  if (cut.value && near) {
    const many = Math.round(TAIL * footage.fps);
    const theirs = source(near.id, { frame: 0, view: effectiveView.value === 'original' ? 'original' : 'result', height: wantedHeight.value }, near.revision);
    const { from, to } = props.shot;
    return cut.value === 'into'
      ? [...run(mainSource.value, [Math.max(from, to - many + 1), to], null), ...run(theirs, [near.from, Math.min(near.to, near.from + many - 1)], null)]
      : [...run(theirs, [Math.max(near.from, near.to - many + 1), near.to], null), ...run(mainSource.value, [from, Math.min(to, from + many - 1)], null)];
  }
  const beside = compared.layout.value === null ? null : compared.asked({ ...mainSource.value.request, frame: 0 }, area.value?.id ?? null);
  return run(mainSource.value, loop.value, beside && { source: source(beside.shot, beside.request, near?.revision ?? store.revision.value), frameFor: (frame) => near?.frame ?? frame });
});
/** Nothing is made ready for playing while changes are not saved, or while tell-tales are waited for. */
const unasked = computed(() => !store.unsaved.value && wantedHeight.value > 0 && telltales.progress.value === null);
watch([moments, () => store.unsaved.value, unasked], () => {
  playback.aim(`${store.revision.value}${store.unsaved.value ? ' unsaved' : ''} ${wantedHeight.value}`, moments.value, unasked.value);
});
watch([compared.neighbour, compared.layout], () => {
  if (!compared.neighbour.value || compared.layout.value === null) cut.value = null;
});
async function playCut(how: Cut): Promise<void> {
  playback.halt();
  cut.value = how;
  await nextTick();
  if (how) await playback.play();
}
watch([() => playhead.frame.value, effectiveView, wantedHeight, seen, compared.layout, compared.against, compared.neighbour, compared.gain, () => store.recipe.value, dragged, without, previewed], refresh, { deep: false });
watch([() => JSON.stringify(store.recipe.value), () => store.unsaved.value, () => store.offline.value], refresh);
watch(tab, () => {
  if (effectiveView.value !== 'result' && effectiveView.value !== 'original') refresh();
});
watch(() => playback.playing.value, (playing) => {
  wantedKey = '';
  if (!playing) refresh();
});

const scopeRequest = shallowRef<PictureRequest | null>(null);
let scopeKey = '';
watchEffect(() => {
  if (!store.recipe.value || playback.playing.value) {
    scopeRequest.value = null;
    return;
  }
  if (store.isSaving.value && store.unsaved.value && dragged.value === null) return;
  const shown = (AREA_VIEWS.includes(effectiveView.value) && effectiveView.value !== 'without') || effectiveView.value === 'difference' ? 'result' : effectiveView.value;
  const r: PictureRequest = { frame: playhead.frame.value, view: shown, area: shown === 'without' ? (area.value?.id ?? null) : null, height: 180, ...unsaved() };
  const text = JSON.stringify(r);
  if (scopeRequest.value !== null && scopeKey === `${store.revision.value} ${text}`) return;
  scopeKey = `${store.revision.value} ${text}`;
  scopeRequest.value = JSON.parse(text) as PictureRequest;
});

const held = computed(() => dragged.value !== null || playback.playing.value || playback.preparing.value || store.unsaved.value);
const row = useWitnesses(props.shot.id, store, motions, playhead, area, effectiveView, held, telltales.open);
const { witnesses, urls, behind } = row;

onMounted(async () => {
  try {
    await store.load();
    if (tab.value === '') {
      // From the progress list one comes to the area and frame that a tell-tale stands for.
      const { area: wanted, frame } = route.query;
      tab.value = areas.value.find((a) => a.id === wanted)?.id ?? areas.value[0]?.id ?? 'base';
      step.value = wanted ? 5 : area.value && area.value.touches.length > 0 ? 4 : 1;
      if (frame) goTo(Number(frame));
    }
    refresh();
    await motions.poll();
    const job = await api.job(props.shot.jobId);
    people.value = job.people;
    compared.meet(job.shots);
    await compared.load();
  } catch (reason) {
    fail('The recipe cannot be read', reason);
  }
  window.addEventListener('beforeunload', leave);
});
onBeforeUnmount(() => {
  sessionStorage.setItem(`frame ${props.shot.id}`, String(playhead.frame.value));
  window.removeEventListener('beforeunload', leave);
});
function leave(e: BeforeUnloadEvent): void {
  sessionStorage.setItem(`frame ${props.shot.id}`, String(playhead.frame.value));
  if (store.unsaved.value) e.preventDefault();
}

function fullScreen(): void {
  void document.querySelector('[data-stage]')?.requestFullscreen();
}

function goTo(frame: number): void {
  playback.halt();
  playhead.go(frame);
}

// --- what panels need ------------------------------------------------------------------------------------------
const colours = shallowRef<AreaColours | null>(null);
let coloursKey = '';
/** Read where a panel shows them, once nothing is being dragged. */
watch([() => area.value?.id, () => playhead.frame.value, step, () => store.revision.value, () => store.unsaved.value, dragged, () => playback.playing.value], async () => {
  const of = area.value;
  if (!of || (step.value !== 3 && step.value !== 4) || dragged.value !== null || playback.playing.value || store.unsaved.value) return;
  const key = `${of.id} ${playhead.frame.value} ${store.revision.value}`;
  if (key === coloursKey) return;
  coloursKey = key;
  try {
    const found = await api.colours(props.shot.id, of.id, { frame: playhead.frame.value });
    if (key === coloursKey) colours.value = found;
  } catch {
    colours.value = null;
  }
}, { immediate: true });

const place = ref<{ words: string; take: (at: Pair | null) => void } | null>(null);
function choosePlace(words: string): Promise<Pair | null> {
  leavePlace();
  return new Promise((take) => (place.value = { words, take }));
}
function leavePlace(at: Pair | null = null): void {
  place.value?.take(at);
  place.value = null;
}
provide(BENCH, { shot: props.shot, store, frame: playhead.frame, area, colours, unsaved, choosePlace });

const sampling = computed<Sampling | null>(() => (outlining.tool.value === 'take' || outlining.tool.value === 'leave' ? outlining.tool.value : null));
const stageTool = computed<Tool | null>(() => (place.value ? 'place' : outlining.tool.value));
const samples = computed(() => (step.value === 3 ? (area.value?.pick?.samples ?? []).filter((s) => s.frame === playhead.frame.value) : []));
async function pickBy(asked: { follow: boolean; sign?: '+' | '-'; from?: Pair; to?: Pair }, label: string): Promise<void> {
  const of = area.value;
  if (!of) return;
  try {
    const pick = await api.pick(props.shot.id, of.id, { frame: playhead.frame.value, ...asked, ...unsaved() });
    await store.change(`${of.name}, pick: ${label}`, of.id, (a) => (a.pick = pick));
  } catch (reason) {
    fail('The colour was not taken', reason);
  }
}

/** Handles of the touches that act in a direction or from an offset. */
const handles = computed<TouchHandle[]>(() => {
  const of = area.value;
  const first = of?.outline.shapes.find((s): s is DrawnShape => s.kind !== 'area');
  if (!of || !first || step.value !== 4) return [];
  const { centre, half } = extentOf(shapeAt(first, playhead.frame.value));
  const matrix = outlining.staged(of).find((s) => s.shape.id === first.id)?.matrix ?? IDENTITY;
  return (treated.value?.touches ?? []).filter((t) => t.on && (t.kind === 'sidelight' || t.kind === 'conceal')).map((t) => ({
    id: t.id,
    kind: t.kind as TouchHandle['kind'],
    centre,
    half,
    matrix,
    values: Object.fromEntries(['direction', 'position', 'width', 'offsetX', 'offsetY'].filter((n) => n in t).map((n) => [n, valueAt(t[n] as MaybeKeyed, playhead.frame.value)])),
  }));
});
function touchByHandle(id: string, values: Record<string, number>): void {
  store.edit((recipe) => {
    const touch = recipe.areas.flatMap((a) => a.touches).find((t) => t.id === id);
    if (!touch) return;
    for (const [name, v] of Object.entries(values)) touch[name] = withValue(touch[name] as MaybeKeyed, playhead.frame.value, v);
    dragged.value = touch;
  });
}

// --- pairs -------------------------------------------------------------------------------------------------------
async function makeOther(): Promise<void> {
  const of = area.value;
  if (!of) return;
  try {
    const other = await api.other(props.shot.id, of.id, { frame: playhead.frame.value, ...unsaved() });
    store.edit((recipe) => void recipe.areas.splice(recipe.areas.findIndex((a) => a.id === of.id) + 1, 0, other));
    await store.commit(`${other.name}, linked to ${of.name}`);
    tab.value = other.id;
    if (other.motion.by === 'follow') {
      await motions.follow(other.id, null, playhead.frame.value, props.shot.from, props.shot.to);
      say(`${other.name} is made and followed`, `It takes its touches from ${of.name}.`);
    } else say(`${other.name} is made`, `It takes its touches from ${of.name}.`);
  } catch (reason) {
    fail('The other one was not made', reason);
  }
}
/** Unlinking copies the touches; linking again gives its own up. */
function link(on: boolean): void {
  const of = area.value;
  const from = areas.value.find((a) => a.id === of?.pair?.with);
  if (!of?.pair || !from) return;
  store.edit((recipe) => {
    const own = recipe.areas.find((a) => a.id === of.id);
    if (!own?.pair) return;
    own.pair.linked = on;
    own.touches = [];
    if (!on) for (const t of from.touches) own.touches.push({ ...(JSON.parse(JSON.stringify(t)) as Touch), id: freshId(recipe, 't') });
  });
  void store.commit(`${of.name} ${on ? 'linked to' : 'unlinked from'} ${from.name}`);
}

// --- areas ----------------------------------------------------------------------------------------------------
const PARTS: Record<string, string> = { face: 'face', 'left iris': 'iris', 'right iris': 'iris', teeth: 'teeth', lips: 'lips', skin: 'skin', neck: 'neck', spot: 'spot', surroundings: 'surroundings' };

async function addArea(): Promise<void> {
  const name = newName.value.trim();
  if (!name || !store.recipe.value) return;
  naming.value = false;
  const id = freshId(store.recipe.value, 'a');
  store.edit((recipe) => {
    recipe.areas.push({
      id,
      name,
      part: PARTS[name.toLowerCase()] ?? 'other',
      person: null,
      on: true,
      outline: { at: playhead.frame.value, invert: false, shapes: [] },
      motion: stillMotion(),
      pick: null,
      live: { from: props.shot.from, to: props.shot.to, fadeIn: 0, fadeOut: 0 },
      strength: 1,
      blinkGuard: { on: false, keys: [] },
      pair: null,
      touches: [],
    });
  });
  tab.value = id;
  step.value = 1;
  outlining.tool.value = 'ellipse';
  await store.commit(`Add ${name}`);
}

async function takeProposed(found: Area[]): Promise<void> {
  // Made while an area was still empty: that one gives way.
  const empty = area.value && area.value.outline.shapes.length === 0 && area.value.touches.length === 0 ? area.value.id : null;
  store.edit((recipe) => {
    recipe.areas = [...recipe.areas.filter((a) => a.id !== empty), ...found];
  });
  outlining.tool.value = null;
  tab.value = found[0]?.id ?? tab.value;
  await store.commit('Areas of a person');
}

function ofArea(label: string, change: (a: Area) => void): void {
  if (area.value) void store.change(`${area.value.name}: ${label}`, area.value.id, change);
}

function removeArea(): void {
  const gone = area.value;
  if (!gone) return;
  const rider = areas.value.find((a) => a.motion.on === gone.id);
  if (rider) {
    fail('It cannot be removed', new Error(`${rider.name} rides on it.`));
    return;
  }
  store.edit((recipe) => {
    recipe.areas = recipe.areas.filter((a) => a.id !== gone.id);
  });
  tab.value = areas.value[0]?.id ?? 'base';
  void store.commit(`Remove ${gone.name}`);
}

function liveEnd(last: boolean): void {
  ofArea(last ? 'live until here' : 'live from here', (a) => {
    if (last) a.live.to = Math.max(a.live.from, playhead.frame.value);
    else a.live.from = Math.min(a.live.to, playhead.frame.value);
  });
}

function drawn(drawing: Drawing): void {
  if (drawing.kind === 'place') {
    leavePlace(drawing.at);
    return;
  }
  if (drawing.kind === 'sample') {
    void pickBy({ follow: (area.value?.pick?.follow ?? null) !== null, sign: drawing.taken ? '+' : '-', from: drawing.from, to: drawing.to }, `sample ${drawing.taken ? '+' : '−'}`);
    return;
  }
  if (drawing.kind !== 'spot') {
    outlining.drawn(drawing);
    return;
  }
  following.addSpot(drawing.at);
  const look = following.motion.value?.look;
  if (look?.by === 'spots' && look.spots.length > 1) outlining.tool.value = null;
}

function guardKey(value: number): void {
  const frame = playhead.frame.value;
  ofArea(`blink guard, frame ${frame}`, (a) => {
    a.blinkGuard.keys = [...a.blinkGuard.keys.filter((k) => k.frame !== frame), { frame, value, ease: 'smooth' as const }].sort((x, y) => x.frame - y.frame);
  });
}

// --- words ----------------------------------------------------------------------------------------------------
const outlineWords = computed(() => {
  const shapes = area.value?.outline.shapes ?? [];
  const first = shapes[0];
  if (!first) return 'not drawn yet';
  const rest = shapes.slice(1).map((s) => `${{ add: 'plus', cut: 'less', keep: 'kept in' }[s.join]} ${s.kind === 'area' ? (areas.value.find((a) => a.id === s.of)?.name ?? s.of) : s.kind}`);
  const feather = first.kind === 'area' ? '' : ` · feather ${(first.featherIn * 100).toFixed(0)} / ${(first.featherOut * 100).toFixed(0)} %`;
  return `${[first.kind, ...rest].join(', ')}${feather}${area.value?.outline.invert ? ' · inverted' : ''}`;
});
const followWords = computed(() => {
  const a = area.value;
  if (!a) return '';
  const open = motions.openFor(a.id);
  if (open) return `following, ${open.steps.length} of ${open.to - open.from}`;
  if (a.motion.by === 'ride') return `rides on ${areas.value.find((other) => other.id === a.motion.on)?.name ?? a.motion.on}`;
  if (!a.motion.track) return a.motion.keys.length ? `by hand, ${a.motion.keys.length} keyframes` : 'not followed';
  const c = (confidence.value[a.id] ?? []).filter((v): v is number => v !== null);
  const worst = Math.min(...c);
  const at = (confidence.value[a.id] ?? []).indexOf(worst);
  return `${a.motion.model} · ${c.length}/${playhead.to - playhead.from + 1} · weakest ${playhead.from + at} at ${Math.round(worst * 100)} %`;
});
const treatWords = computed(() => {
  const touches = treated.value?.touches ?? [];
  return touches.length === 0 ? 'nothing yet' : touches.map((t) => `${labelOf(t.kind)}${t.side === 'outside' ? ' outside' : ''}`).join(', ');
});
const STEPS = ['Outline', 'Follow', 'Pick', 'Treat', 'Judge'];
const judgeWords = computed(() => {
  const own = telltales.open.value.filter((f) => f.area === area.value?.id || f.area === null).map((f) => f.telltale);
  return own.length > 0 ? `▲ ${own.join(', ')}` : telltales.known.value && effectiveView.value === 'result' ? 'nothing gives it away' : VIEW_WORDS[effectiveView.value];
});
const words = computed(() => [outlineWords.value, followWords.value, pickWords.value, treatWords.value, judgeWords.value]);
const pickWords = computed(() => {
  const pick = area.value?.pick;
  if (!pick) return 'all inside the outline';
  const n = pick.samples.length;
  return `${n ? `${n} sample${n === 1 ? '' : 's'}` : 'by ranges'}${pick.follow === null ? '' : ' · follows the light'}${pick.invert ? ' · inverted' : ''}`;
});
const VIEW_WORDS: Record<View, string> = { result: 'showing the result', original: 'showing the original', base: 'showing the base only', matte: 'showing the matte', tint: 'showing the matte as a tint', picked: 'showing the picked area over grey', difference: 'showing what was changed', without: 'showing without this area' };
const TOOL_WORDS: Record<Tool, string> = {
  ellipse: 'Drag across the picture to draw an ellipse.',
  box: 'Drag across the picture to draw a box.',
  path: 'Click for corners, click and drag for curves; close on the first point.',
  edges: 'Click along an edge: the path keeps to it. Close on the first point.',
  spot: 'Click a spot that can be told apart; a second one gives rotation and scale.',
  take: 'Click or drag over colours the pick should take.',
  leave: 'Click or drag over colours the pick should leave.',
  place: '',
};
const zoomWords = computed(() => `${Math.round(stage.value?.percent ?? 0)} %`);
const nextHint = computed(() => {
  if (areas.value.length === 0) return 'Set the base grade first, then add an area with + and draw it on the frame that shows it best.';
  if (!area.value) return 'Choose an area to see it held still along its motion.';
  return 'Draw the outline of the area; then it is shown here, held still along its motion.';
});

function setSurround(i: number): void {
  surround.value = i;
  localStorage.setItem('surround', String(i));
}
</script>

<template>
  <div class="bench">
    <section class="look">
      <header class="head">
        <RouterLink class="dim job" :to="`/jobs/${shot.jobId}`">{{ shot.job }}</RouterLink><span class="dim">/</span><b>{{ shot.name }}</b>
        <span class="grow"></span>
        <span class="mono frame"><span v-if="playback.preparing.value" class="dim">preparing {{ Math.round(playback.share.value * 100) }} %&ensp;</span><template v-if="playback.elsewhere.value !== null">{{ playback.elsewhere.value }} <span class="dim">of {{ compared.neighbour.value?.name }}</span></template><template v-else>{{ playhead.frame.value }} <span class="dim">of {{ shot.from }}–{{ shot.to }}</span></template></span>
        <button v-tooltip.bottom="cut ? 'Play across the cut (Space)' : `Play frames ${loop[0]} to ${loop[1]} (Space)`" type="button" class="btn small" :aria-pressed="playback.playing.value" @click="playback.play()">{{ playback.playing.value ? 'Stop' : playback.preparing.value ? 'Leave' : 'Play' }}</button>
        <span class="pills" role="group" aria-label="View">
          <button type="button" :aria-pressed="view === 'result' && compared.layout.value === null" @click="view = 'result'; compared.off()">Result</button>
          <button type="button" :aria-pressed="view === 'original'" @click="view = view === 'original' ? 'result' : 'original'">Original</button>
          <button v-tooltip.bottom="`Split against ${compared.words.value} (S)`" type="button" :aria-pressed="compared.layout.value === 'split'" @click="compared.toggle('split')">Split</button>
          <button type="button" :aria-pressed="effectiveView === 'matte'" :disabled="!area" @click="view = view === 'matte' ? 'result' : 'matte'">Matte</button>
        </span>
        <span class="pills mono" role="group" aria-label="Zoom">
          <button type="button" :aria-pressed="stage?.zoom === null" :title="zoomWords" @click="stage?.fit()">Fit</button>
          <button type="button" :aria-pressed="stage?.zoom === 1" @click="stage?.zoomTo(1)">100</button>
          <button type="button" :aria-pressed="stage?.zoom === 2" @click="stage?.zoomTo(2)">200</button>
        </span>
        <button v-tooltip.bottom="'Full screen; Esc leaves it'" type="button" class="btn small" @click="fullScreen">Full</button>
        <span class="surrounds" role="group" aria-label="Surround">
          <button v-for="(grey, i) in SURROUNDS" :key="grey" type="button" class="plain" :style="{ background: grey }" :aria-label="['dim', 'mid', 'light'][i]" :aria-pressed="surround === i" @click="setSurround(i)"></button>
        </span>
      </header>
      <PictureStage
        ref="stage"
        :aspect="aspect" :rows="footage.height"
        :main="pictures.main.value" :patch="pictures.patch.value" :other="compared.other.value" :layout="cut && playback.playing.value ? null : compared.layout.value"
        :shot-id="shot.id" :frame="playhead.frame.value" :areas="areas" :chosen="area?.id ?? null" :active="outlining.active.value" :letters="letters" :staged="staged"
        :outlines="outlines && !playback.playing.value && effectiveView !== 'original'" :tool="area ? stageTool : null" :handles="handles" :samples="samples" :correcting="following.correcting.value" :spots="spots" :surround="SURROUNDS[surround] ?? '#2a2a2a'"
        @look="(h, w) => { wantedHeight = h; seen = w; }" @drawn="drawn" @touch="touchByHandle" @touched="(_, what) => { dragged = null; void store.commit(`${area?.name ?? ''}, ${what}`); }" @said="say($event)" @choose="(a, s) => { tab = a; outlining.work(s); }"
        @change="outlining.change" @commit="outlining.commit" @point="outlining.addPoint" @removed="outlining.removePoints" @correct="following.correct" @corrected="following.corrected"
      >
        <p v-if="pictures.failure.value" class="over">▲ {{ pictures.failure.value }}</p>
        <p v-else-if="store.offline.value" class="over">▲ The server cannot be reached or broke down. Your change is kept here and saved when it is back.</p>
        <p v-else-if="previewed" class="over">Previewed: {{ previewed.words }}. Nothing is changed yet.</p>
        <p v-else-if="place" class="over">{{ place.words }} Esc leaves it.</p>
        <p v-else-if="outlining.tool.value && area" class="over">{{ TOOL_WORDS[outlining.tool.value] }} Esc leaves it.</p>
        <p v-else-if="following.correcting.value" class="over">Drag {{ area?.name }} right on this frame: inside to move, the letter to turn, a cross to scale. Esc ends it.</p>
        <p v-else-if="pictures.main.value === null" class="over">Making the picture…</p>
        <i v-if="pictures.busy.value && pictures.main.value" class="redoing" aria-label="The picture is being redone"></i>
      </PictureStage>
      <FollowStrips
        :from="shot.from" :to="shot.to" :frame="playhead.frame.value" :areas="areas" :chosen="area?.id ?? null" :letters="letters" :confidence="confidence"
        :states="Object.fromEntries(areas.map((a) => [a.id, motions.states(a.id)]))" :following="Object.fromEntries(areas.map((a) => [a.id, motions.openFor(a.id) !== null]))"
        :openness="Object.fromEntries(areas.map((a) => [a.id, motions.open(a.id)]))" :span="following.span.value" :ready="[...playback.ready.value.keys()]" :telltales="telltales.open.value" :witnesses="witnesses" @go="goTo" @choose="tab = $event" @span="following.chooseSpan"
      />
      <WitnessRow :witnesses="witnesses" :urls="urls" :frame="playhead.frame.value" :behind="behind" :hint="nextHint" :count="row.count.value" :choice="row.choice.value" @go="goTo" @show="row.show" @choose="row.choose" />
    </section>
    <aside class="do">
      <nav class="tabs" aria-label="Areas">
        <button v-for="a in areas" :key="a.id" type="button" class="plain tab" :class="{ on: tab === a.id, off: !a.on }" :aria-pressed="tab === a.id" :title="a.name" @click="tab = a.id"><b>{{ letters[a.id] }}</b><small>{{ a.name }}</small></button>
        <button v-tooltip.left="'Add an area'" type="button" class="plain tab add" aria-label="Add an area" :disabled="!store.recipe.value" @click="newName = areas.length ? '' : 'Face'; naming = true"><b>+</b></button>
        <span class="grow"></span>
        <button type="button" class="plain tab slim" :class="{ on: tab === 'base' }" :aria-pressed="tab === 'base'" @click="tab = 'base'">Base</button>
        <button type="button" class="plain tab slim" :class="{ on: tab === 'finish' }" :aria-pressed="tab === 'finish'" @click="tab = 'finish'">Finish</button>
      </nav>
      <div class="pane">
        <template v-if="area">
          <header class="title">
            <SmallSwitch :on="area.on" :label="`${area.name} on`" @toggle="ofArea(area.on ? 'off' : 'on', (a) => (a.on = !a.on))" />
            <b>{{ area.name }}</b>
            <span class="grow"></span>
            <span class="mono dim">live {{ area.live.from }}–{{ area.live.to }}</span>
            <button v-tooltip.left="'Remove this area'" type="button" class="plain dim" aria-label="Remove this area" @click="removeArea">×</button>
          </header>
          <div class="steps">
            <section v-for="(name, i) in STEPS" :key="name" class="step" :class="{ open: step === i + 1 }">
              <button type="button" class="plain line" :aria-expanded="step === i + 1" @click="step = step === i + 1 ? 0 : i + 1">
                <em class="mono">{{ i + 1 }}</em><b>{{ name }}</b><span>{{ words[i] }}</span><em>{{ step === i + 1 ? '⌄' : '›' }}</em>
              </button>
              <template v-if="step === i + 1">
                <OutlinePanel v-if="i === 0" :area="area" :areas="areas" :outlines="outlining" :frame="playhead.frame.value" :aspect="aspect" :matrix="motions.matrix(area.id, playhead.frame.value)" @go="goTo" @find="finding = true" />
                <FollowPanel
                  v-else-if="i === 1" :area="area" :areas="areas" :following="following" :frame="playhead.frame.value" :from="shot.from" :to="shot.to" :open="motions.openFor(area.id)" :last="motions.lastFor(area.id)" :weak="weak" :confidence="confidence[area.id] ?? []" :openness="motions.open(area.id)"
                  @stop="() => { const open = area && motions.openFor(area.id); if (open) void motions.stop(open); }" @go="goTo" @spot="outlining.tool.value = 'spot'"
                  @guard="ofArea('blink guard', (a) => (a.blinkGuard.on = !a.blinkGuard.on))" @guard-key="guardKey" @remove-guard-key="(frame) => ofArea('blink guard', (a) => (a.blinkGuard.keys = a.blinkGuard.keys.filter((k) => k.frame !== frame)))"
                />
                <PickPanel
                  v-else-if="i === 2" :area="area" :sampling="sampling" :view="effectiveView" :weak="weak"
                  @sample="outlining.draw($event)" @follow="pickBy({ follow: $event }, $event ? 'follows the light' : 'stays')" @view="view = $event" @go="goTo" @dragging="dragging"
                />
                <template v-else-if="i === 3">
                  <p v-if="area.pair" class="pair">
                    <template v-if="area.pair.linked">Treated as {{ treated?.name }}: changes go to both. <button type="button" class="btn small" @click="link(false)">Unlink</button></template>
                    <template v-else>Once treated as {{ areas.find((a) => a.id === area?.pair?.with)?.name }}. <button type="button" class="btn small" @click="link(true)">Link again</button></template>
                  </p>
                  <TouchList
                    v-if="treated" :key="treated.id" :store="store" :kinds="kinds" :where="treated.name" place="area" :part="area.part" :starts="starts" :touches="(r) => r.areas.find((a) => a.id === treated?.id)?.touches ?? []"
                    hint="Inside touches change the area, outside touches its surroundings." @dragging="dragged = $event" @without="without = $event"
                  >
                    <template #default="{ add, empty }">
                      <button v-if="empty" type="button" class="btn quiet" @click="add(['exposure', 'tone', 'colour'], 'inside')">Exposure, tone and colour</button>
                      <button v-if="['iris', 'lids', 'eye'].includes(area.part) && !area.pair && !areas.some((a) => a.pair?.with === area?.id) && area.outline.shapes.length" type="button" class="btn quiet" @click="makeOther">Make the other eye</button>
                    </template>
                  </TouchList>
                </template>
                <JudgePanel
                  v-else :view="effectiveView" :compare="compared" :frame="playhead.frame.value" :telltales="telltales" :area="area" :areas="areas" :from="shot.from" :to="shot.to" :previewed="previewed" :cut="cut" @cut="playCut"
                  @view="view = $event" @go="goTo" @choose="tab = $event" @preview="previewed = $event" @cure="cure"
                />
              </template>
            </section>
          </div>
        </template>
        <template v-else-if="tab === 'base' || tab === 'finish'">
          <header class="title"><b>{{ tab === 'base' ? 'Base' : 'Finish' }}</b><span class="dim">{{ tab === 'base' ? 'the whole frame, before all areas' : 'the whole frame, after all areas' }}</span></header>
          <div class="steps whole">
            <TouchList
              :key="tab" :store="store" :kinds="kinds" :where="tab === 'base' ? 'Base' : 'Finish'" :place="tab === 'base' ? 'base' : 'finish'" :starts="starts" :touches="(r) => (tab === 'base' ? r.base : r.finish)"
              :hint="tab === 'base' ? 'Decide here what the surroundings should look like; the face comes after.' : 'Last trims, after everything else; legal levels at the very end.'" @dragging="dragged = $event" @without="without = $event"
            >
              <template #default="{ add, empty }">
                <button v-if="empty" type="button" class="btn quiet" @click="add(['exposure', 'tone', 'colour'])">Exposure, tone and colour</button>
              </template>
            </TouchList>
          </div>
        </template>
        <ScopePanel :shot-id="shot.id" :request="scopeRequest" :area="area?.id ?? null" />
      </div>
      <footer>
        <button v-tooltip.top="store.saved.value?.undo ? `Undo: ${store.saved.value.undo}` : ''" type="button" class="btn quiet" :disabled="!store.saved.value?.undo" @click="store.undo()">Undo</button>
        <button v-tooltip.top="store.saved.value?.redo ? `Redo: ${store.saved.value.redo}` : ''" type="button" class="btn quiet" :disabled="!store.saved.value?.redo" @click="store.redo()">Redo</button>
        <span class="grow"></span>
        <span class="dim state" aria-live="polite">{{ store.unsaved.value ? 'saving…' : 'saved' }}</span>
        <button type="button" class="btn quiet" aria-label="Shortcuts" @click="helping = true">?</button>
        <button type="button" class="btn main" @click="delivering = true">Deliver</button>
      </footer>
    </aside>
    <Dialog v-model:visible="helping" modal header="Keys" :style="{ width: '440px' }">
      <dl class="keys"><template v-for="[key, does] in SHORTCUTS" :key="key"><dt class="mono">{{ key }}</dt><dd>{{ does }}</dd></template></dl>
    </Dialog>
    <Dialog v-model:visible="naming" modal header="Add an area" :style="{ width: '380px' }">
      <form class="naming" @submit.prevent="addArea">
        <div class="names"><button v-for="n in ['Face', 'Left iris', 'Right iris', 'Teeth', 'Lips', 'Skin', 'Neck', 'Spot', 'Surroundings']" :key="n" type="button" class="btn small" @click="newName = n">{{ n }}</button></div>
        <label for="area-name">Name</label>
        <InputText id="area-name" v-model="newName" autofocus maxlength="80" />
        <button type="button" class="plain dim finder" @click="naming = false; finding = true">Or find the person on this frame: face, lids, irises, lips, teeth and neck at once</button>
        <div class="row"><button type="button" class="btn" @click="naming = false">Leave it</button><button type="submit" class="btn main" :disabled="!newName.trim()">Add and draw it</button></div>
      </form>
    </Dialog>
    <FindPerson v-if="finding" :shot-id="shot.id" :frame="playhead.frame.value" :people="people" @close="finding = false" @take="takeProposed" />
    <DeliverDialog v-if="delivering" :shot="shot" @close="delivering = false" @ordered="say('Rendering', 'Its progress is under Deliveries.'); $router.push('/deliveries')" />
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 404px;
  height: 100%;
  overflow: hidden;
  user-select: none;
}

.look {
  display: grid;
  background: var(--g0);
  grid-template-rows: 40px minmax(0, 1fr) auto 112px;
  grid-template-columns: minmax(0, 1fr);
  min-width: 0;
}

.head {
  display: flex;
  gap: 10px;
  background: var(--g1);
  align-items: center;
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
  white-space: nowrap;
}

.head .job,
.head b {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}

.head .job {
  flex: 0 100 auto;
}

.head b {
  font-weight: 600;
}

.head > :not(.job, b, .grow) {
  flex: none;
}

.job:hover {
  color: var(--t1);
}

.surrounds {
  display: flex;
  gap: 3px;
}

.surrounds button {
  width: 12px;
  height: 12px;
  border: 1px solid var(--g0);
  border-radius: 2px;
}

.surrounds button[aria-pressed='true'] {
  border-color: var(--t1);
}

.over {
  position: absolute;
  top: 12px;
  left: 50%;
  max-width: 90%;
  padding: 4px 12px;
  background: var(--g0);
  border: 1px solid var(--line);
  border-radius: 2px;
  transform: translateX(-50%);
}

.redoing {
  position: absolute;
  top: 8px;
  right: 8px;
  width: 6px;
  height: 6px;
  background: var(--t1);
  border-radius: 50%;
  animation: appear 0s 0.25s both;
}

@keyframes appear {
  from {
    opacity: 0;
  }

  to {
    opacity: 1;
  }
}

.do {
  display: grid;
  grid-template-rows: minmax(0, 1fr) 44px;
  grid-template-columns: 52px minmax(0, 1fr);
  min-height: 0;
  background: var(--g2);
  border-left: 1px solid var(--line);
}

.tabs {
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-height: 0;
  padding: 8px 0;
  overflow-y: auto;
  background: var(--g0);
  border-right: 1px solid var(--line);
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
}

.tab b {
  font-size: 15px;
  font-weight: 600;
}

.tab small {
  max-width: 40px;
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

.tab.off b {
  opacity: 0.5;
  text-decoration: line-through;
}

.tab.add {
  border-style: dashed;
}

.tab.slim {
  height: 30px;
  font-size: 11px;
}

.pane {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}

.title {
  display: flex;
  gap: 8px;
  align-items: center;
  height: 41px;
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
}

.title b {
  font-size: 16px;
}

.steps {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
  scrollbar-color: var(--g4) transparent;
}

.steps.whole {
  padding-top: 10px;
}

.step {
  border-bottom: 1px solid var(--line);
}

.step.open {
  background: var(--g3);
}

.line {
  display: grid;
  grid-template-columns: 22px 66px minmax(0, 1fr) 14px;
  align-items: center;
  width: 100%;
  padding: 8px 16px;
}

.line em {
  color: var(--t3);
  font-style: normal;
}

.line b {
  font-weight: 600;
}

.line span {
  overflow: hidden;
  color: var(--t2);
  text-overflow: ellipsis;
  white-space: nowrap;
}

.pick {
  padding: 0 16px 12px;
}

footer {
  display: flex;
  grid-column: 1 / 3;
  gap: 8px;
  align-items: center;
  padding: 0 16px;
  background: var(--g1);
  border-top: 1px solid var(--line);
}

.state {
  font-size: 12px;
}

.keys {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 4px 12px;
}

dt {
  color: var(--t1);
}

dd {
  color: var(--t2);
}

.pair {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  padding: 2px 16px 8px;
  color: var(--t2);
}

.naming {
  display: grid;
  gap: 8px;
}

.finder:hover {
  color: var(--t1);
}

.names {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.row {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
  margin-top: 8px;
}

@media (width < 1150px) {
  .bench {
    grid-template-columns: minmax(0, 1fr) 352px;
  }

  .head .job,
  .head .job + .dim,
  .surrounds {
    display: none;
  }

  .head {
    gap: 6px;
    padding: 0 8px;
  }
}
</style>
