import { promiseTimeout } from '@vueuse/core';
import { ref } from 'vue';
import { api } from '../api/client';
import type { Upload } from '../api/types';
import { sendPieces } from './sendPieces';

const ASK_EVERY = 700;

/** A bundle on its way in: sent, then taken in by the server, and what came of it. */
export function useBundle(done: (job: number) => void) {
  const name = ref<string | null>(null);
  /** How much of it was sent, 0 to 1. */
  const share = ref(0);
  const told = ref<string[]>([]);
  const problem = ref<string | null>(null);

  async function send(file: File): Promise<void> {
    [name.value, share.value, told.value, problem.value] = [file.name, 0, [], null];
    try {
      const upload = await api.beginUpload(null, file.name, file.size);
      await sendPieces(upload, file, (s) => (share.value = s), new AbortController().signal);
      let now: Upload = await api.takeBundle(upload.id);
      while (now.told?.state === 'reading') {
        await promiseTimeout(ASK_EVERY);
        now = await api.upload(upload.id);
      }
      if (now.told?.state !== 'done') throw new Error(now.told?.message ?? 'The bundle was not taken in.');
      told.value = now.told.told ?? [];
      if (now.told.job !== undefined) done(now.told.job);
    } catch (reason) {
      problem.value = reason instanceof Error ? reason.message : String(reason);
    }
  }

  return { name, share, told, problem, send, close: () => (name.value = null) };
}
