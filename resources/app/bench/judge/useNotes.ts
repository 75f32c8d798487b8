import { computed, shallowRef } from 'vue';
import { api } from '../../api/client';
import type { FrameNote } from '../../api/types';
import { useNotices } from '../../useNotices';

/** What is asked for on frames of the shot; resolved, it is kept. */
export function useNotes(shotId: number) {
  const { fail } = useNotices();
  const all = shallowRef<FrameNote[]>([]);

  async function act(what: string, how: () => Promise<unknown>): Promise<void> {
    try {
      await how();
      all.value = await api.notes(shotId);
    } catch (reason) {
      fail(what, reason);
    }
  }

  return {
    all,
    open: computed(() => all.value.filter((n) => !n.resolved)),
    load: () => act('The notes cannot be shown', () => Promise.resolve()),
    add: (frame: number, text: string) => act('The note was not taken', () => api.note(shotId, frame, text)),
    resolve: (note: FrameNote, resolved: boolean) => act('The note was not changed', () => api.changeNote(shotId, note.id, { resolved })),
    remove: (note: FrameNote) => act('The note is still there', () => api.removeNote(shotId, note.id)),
  };
}

export type Notes = ReturnType<typeof useNotes>;
