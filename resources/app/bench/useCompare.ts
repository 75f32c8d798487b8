import { computed, ref, shallowRef } from 'vue';
import { api, type Picture } from '../api/client';
import type { Against, PictureRequest, Version } from '../api/types';
import { useNotices } from '../useNotices';

export type Layout = 'split' | 'side' | null;

/** What the picture is compared with, how the two are laid, and the versions kept of the shot. */
export function useCompare(shotId: number, changed: () => Promise<void>) {
  const { fail, say } = useNotices();
  const layout = ref<Layout>(null);
  const against = ref<Against>('original');
  const gain = ref(4);
  const versions = shallowRef<Version[]>([]);
  const other = shallowRef<Picture | null>(null);
  let key = '';

  const words = computed(() => {
    const a = against.value;
    if (typeof a === 'number') return versions.value.find((v) => v.id === a)?.name ?? 'a version';
    return { original: 'the original', base: 'the base alone', without: 'without this area' }[a];
  });

  /** The picture compared with, for the same frame, size and window; nothing is asked twice. */
  async function show(request: PictureRequest, revision: number, area: string | null): Promise<void> {
    if (layout.value === null) return;
    const a = against.value;
    const { recipe, ...plain } = request;
    const wanted: PictureRequest = { ...plain, view: typeof a === 'number' ? 'result' : a, area: a === 'without' ? area : null };
    if (typeof a === 'number') wanted.version = a;
    // The base and what is around an area change with the recipe on screen.
    else if (a !== 'original' && recipe) wanted.recipe = recipe;
    const now = JSON.stringify([wanted, a === 'original' || typeof a === 'number' ? 0 : revision]);
    if (now === key) return;
    key = now;
    try {
      const picture = await api.picture(shotId, wanted);
      if (now === key) other.value = picture;
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
    show,
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
      await api.restoreVersion(shotId, version.id);
      await changed();
      say(`Back to ${version.name}`, 'Undo brings back what was there.');
    }),
    /** A small picture of a version. */
    thumb: async (version: Version, frame: number): Promise<string> => URL.createObjectURL((await api.pictureFile(shotId, { frame, view: 'result', height: 90, version: version.id })).file),
  };
}

export type Compare = ReturnType<typeof useCompare>;
