import { useIntervalFn } from '@vueuse/core';
import { computed, ref, shallowRef } from 'vue';
import { api } from '../../api/client';
import type { Area, Carry, CarryTarget, Touch } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { Areas } from '../areas/useAreas';
import type { RecipeStore } from '../recipe/useRecipe';

const ASK_EVERY = 700;

const isOpen = (carry: Carry): boolean => carry.state === 'waiting' || carry.state === 'working';
/** Something that is worth carrying is done there. */
const isTreated = (area: Area): boolean => area.touches.length > 0 || area.pair?.linked === true;

/** Carrying what is done in this shot to others: chosen here, proposed in the background, then taken or left. */
export function useCarrying(shot: number, job: number, store: RecipeStore, areas: Areas) {
  const { fail } = useNotices();
  const targets = shallowRef<CarryTarget[]>([]);
  /** The light of the other shots is looked at. */
  const looking = ref(false);
  const carries = shallowRef<Carry[]>([]);
  const chosen = ref<Set<string>>(new Set());
  const shots = ref<Set<number>>(new Set());
  /** Ids of shots that were chosen before the panel was opened; none for those that know the person, and once they were asked for. */
  const wanted = ref<Set<number>>(new Set());
  /** Touches that stay behind. */
  const left = ref<Set<string>>(new Set());
  const base = ref(false);
  const finish = ref(false);
  const replace = ref(false);
  const match = ref(true);
  const person = ref<string | null>(null);
  const sending = ref(false);

  /** Areas of the person that something is done in. */
  const offered = computed(() => areas.all.value.filter((a) => a.person === person.value && isTreated(a)));
  /** The touches of what is chosen; a linked area has those of the one it is linked to. */
  const touchesOf = (area: Area): Touch[] => (area.pair?.linked ? (areas.find(area.pair.with)?.touches ?? []) : area.touches);
  const all = computed(() => [...(base.value ? (store.recipe.value?.base ?? []) : []), ...offered.value.filter((a) => chosen.value.has(a.id)).flatMap(touchesOf), ...(finish.value ? (store.recipe.value?.finish ?? []) : [])].map((t) => t.id));
  /** Ids of the touches that go along; null where all do. */
  const only = computed(() => (all.value.some((id) => left.value.has(id)) ? all.value.filter((id) => !left.value.has(id)) : null));
  const open = computed(() => carries.value.some(isOpen));
  const proposed = computed(() => carries.value.filter((c) => c.state === 'proposed'));
  const taken = computed(() => carries.value.filter((c) => c.state === 'taken'));
  const something = computed(() => (chosen.value.size > 0 || base.value || finish.value) && only.value?.length !== 0);
  const ready = computed(() => shots.value.size > 0 && something.value);

  async function act(what: string, how: () => Promise<void>): Promise<void> {
    try {
      await how();
    } catch (reason) {
      fail(what, reason);
    }
  }
  const { pause, resume } = useIntervalFn(() => void act('How far it is cannot be told', ask), ASK_EVERY, { immediate: false });
  async function ask(): Promise<void> {
    carries.value = await api.carries(shot);
    if (!open.value) pause();
  }
  const put = (carry: Carry): void => {
    carries.value = carries.value.map((c) => (c.id === carry.id ? carry : c));
  };

  /** Offers all of a person, to the shots that are wanted, or to those that know them. */
  async function choosePerson(slug: string | null): Promise<void> {
    person.value = slug;
    chosen.value = new Set(offered.value.map((a) => a.id));
    looking.value = true;
    await act('The other shots cannot be shown', async () => {
      const found = await api.carryTargets(shot, slug);
      if (person.value !== slug) return;
      targets.value = found;
      shots.value = new Set(targets.value.filter((t) => (wanted.value.size ? wanted.value.has(t.id) : t.knows)).map((t) => t.id));
    });
    if (person.value === slug) looking.value = false;
  }
  async function begin(): Promise<void> {
    const one = areas.chosen.value ?? areas.all.value.find(isTreated);
    await Promise.all([choosePerson(one?.person ?? null), act('What was carried before cannot be shown', ask)]);
    if (open.value) resume();
    // What is settled needs no more looking at.
    else if (proposed.value.length === 0) carries.value = [];
  }
  function toggle<T>(set: { value: Set<T> }, one: T): void {
    const next = new Set(set.value);
    if (!next.delete(one)) next.add(one);
    set.value = next;
  }
  /** Asks for proposals of what is saved. */
  async function propose(): Promise<void> {
    sending.value = true;
    await act('It cannot be carried', async () => {
      await store.settled();
      carries.value = await api.carry(shot, { areas: [...chosen.value], touches: only.value, base: base.value, finish: finish.value, replace: replace.value, match: match.value, shots: [...shots.value] });
      wanted.value = new Set();
      resume();
    });
    sending.value = false;
  }
  /** Asks for a proposal of a kept treatment for this shot, for whom is chosen. */
  async function lay(treatment: number): Promise<void> {
    await act('It cannot be laid on', async () => {
      await store.settled();
      carries.value = await api.layTreatment(job, treatment, { shots: [shot], person: person.value, replace: replace.value });
      resume();
    });
  }
  /** What was taken here is in this very recipe. */
  async function refresh(which: Carry[]): Promise<void> {
    if (which.some((c) => c.shot.id === shot)) await act('The recipe cannot be read anew', async () => store.adopt(await api.recipe(shot)));
  }
  /** Every one of them, each by itself: one that fails keeps none from its place. */
  async function each(which: Carry[], what: string, how: (id: number) => Promise<Carry>): Promise<void> {
    for (const carry of which) await act(`${what}: ${carry.shot.name}`, async () => put(await how(carry.id)));
    await refresh(which);
  }

  return {
    targets, looking, wanted, carries, chosen, left, only, touchesOf, shots, base, finish, replace, match, person, offered, open, proposed, taken, something, ready, sending, begin, choosePerson, propose, lay,
    tick: (id: string) => toggle(chosen, id),
    /** Leaves a touch behind, or takes it along again. */
    leaveTouch: (id: string) => toggle(left, id),
    tickShot: (id: number) => toggle(shots, id),
    take: (which: Carry[]) => each(which, 'It was not taken', api.takeCarry),
    takeBack: (which: Carry[]) => each(which, 'It was not taken back', api.takeCarryBack),
    leave: (which: Carry[]) => each(which, 'It was not left', api.leaveCarry),
    /** Chooses anew. */
    again: () => (carries.value = []),
    rest: pause,
  };
}

export type Carrying = ReturnType<typeof useCarrying>;
