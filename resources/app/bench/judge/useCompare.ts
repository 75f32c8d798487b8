import { computed, ref, shallowRef } from 'vue';
import { api, type Picture } from '../../api/client';
import type { Against, PictureRequest, Shot, Version } from '../../api/types';
import { useNotices } from '../../useNotices';
import { decoded } from '../picture/useReels';
import type { RecipeStore } from '../recipe/useRecipe';

export type Layout = 'split' | 'side' | null;

/** Another shot of the job to compare with, and the frame of it that is shown. */
export interface Neighbour { id: number; name: string; from: number; to: number; revision: number; frame: number }

/** What the picture is compared with, how the two are laid, and the versions kept of the shot. */
export function useCompare(shotId: number, store: RecipeStore) {
  const { fail, say } = useNotices();
  const layout = ref<Layout>(null);
  const against = ref<Against>('original');
  const gain = ref(4);
  const versions = shallowRef<Version[]>([]);
  /** The pictures it is compared with, each laid over those before; none while there is none. */
  const other = shallowRef<Picture[]>([]);
  const neighbours = shallowRef<Neighbour[]>([]);
  const neighbour = computed(() => (typeof against.value === 'string' && against.value.startsWith('shot ') ? (neighbours.value.find((n) => `shot ${n.id}` === against.value) ?? null) : null));
  let key = '';

  const words = computed(() => {
    const a = against.value;
    if (typeof a === 'number') return versions.value.find((v) => v.id === a)?.name ?? 'a version';
    return neighbour.value?.name ?? { original: 'the original', base: 'the base alone', without: 'without this area' }[a as 'original' | 'base' | 'without'];
  });

  /** What to ask for, to show what this request is compared with. */
  function asked(request: PictureRequest, area: string | null): { shot: number; request: PictureRequest } {
    const a = against.value;
    const { recipe, window, revision: _looked, ...plain } = request;
    const wanted: PictureRequest = { ...plain, view: 'result', area: null };
    const near = neighbour.value;
    if (near) return { shot: near.id, request: { ...wanted, frame: near.frame } };
    if (window) wanted.window = window;
    if (typeof a === 'number') wanted.revision = versions.value.find((v) => v.id === a)?.revision ?? 0;
    else {
      wanted.view = a as 'original' | 'base' | 'without';
      if (a === 'without') wanted.area = area;
      if (a !== 'original' && recipe) wanted.recipe = recipe;
    }
    return { shot: shotId, request: wanted };
  }

  /** The picture compared with, for the same frame, size and window; nothing is asked twice. */
  async function show(request: PictureRequest, revision: number, area: string | null): Promise<void> {
    if (layout.value === null) return;
    const of = asked(request, area);
    // The base and what is around an area change with the recipe on screen.
    const now = JSON.stringify([of, of.request.recipe || against.value === 'base' || against.value === 'without' ? revision : 0]);
    if (now === key) return;
    key = now;
    try {
      const picture = await decoded(await api.picture(of.shot, of.request));
      if (now === key) other.value = [picture];
    } catch (reason) {
      if (now === key) key = '';
      fail('What it is compared with cannot be shown', reason);
    }
  }

  async function load(): Promise<void> {
    versions.value = await api.versions(shotId);
  }
  async function act(what: string, how: () => Promise<unknown>): Promise<void> {
    try {
      await how();
      await load();
    } catch (reason) {
      fail(what, reason);
    }
  }

  return {
    layout,
    against,
    gain,
    versions,
    other,
    words,
    neighbours,
    neighbour,
    asked,
    show,
    /** The shots of the job there are to compare with; each stands on its first frame. */
    meet: (shots: Shot[]): void => {
      neighbours.value = shots.filter((s) => s.id !== shotId && s.state === 'ready').map((s) => ({ id: s.id, name: s.name, from: s.from, to: s.to, revision: s.revision, frame: s.from }));
    },
    /** Goes to a frame of the shot compared with. */
    turn: (frame: number): void => {
      neighbours.value = neighbours.value.map((n) => (n === neighbour.value ? { ...n, frame } : n));
    },
    load,
    toggle: (how: Exclude<Layout, null>): void => {
      layout.value = layout.value === how ? null : how;
    },
    /** Compares with something, by the split line unless they are laid otherwise already. */
    choose: (what: Against): void => {
      against.value = what;
      layout.value ??= 'split';
    },
    amplify: (by: number): void => {
      gain.value = by;
    },
    off: (): void => {
      layout.value = null;
    },
    keep: (name: string) => act('The version was not kept', async () => {
      await api.keepVersion(shotId, name);
      say(`Kept as ${name}`);
    }),
    rename: (id: number, name: string) => act('The name was not taken', () => api.renameVersion(shotId, id, name)),
    remove: (id: number) => act('The version is still there', async () => {
      await api.removeVersion(shotId, id);
      if (against.value === id) against.value = 'original';
    }),
    restore: (version: Version) => act('It was not gone back to', async () => {
      await store.restore((shot, base) => api.restoreVersion(shot, base, version.id));
      say(`Back to ${version.name}`, 'Undo brings back what was there.');
    }),
    /** A small picture of a version. */
    thumb: async (version: Version, frame: number): Promise<Blob> => (await api.picture(shotId, { frame, view: 'result', height: 90, revision: version.revision })).file,
  };
}

export type Compare = ReturnType<typeof useCompare>;
