import { promiseTimeout } from '@vueuse/core';
import { ref } from 'vue';
import { api } from '../api/client';
import type { Upload } from '../api/types';
import { sendPieces } from './sendPieces';

const ASK_EVERY = 700;

/**
 * A bundle or a cut on its way in: sent, then taken in by the server, and what came of it.
 * @param jobId null for a bundle, which brings a job of its own
 */
export function useTakenIn(jobId: number | null, take: (upload: string) => Promise<Upload>, done: (job: number) => void) {
  const name = ref<string | null>(null);
  /** How far it is, in words, while it is on its way. */
  const doing = ref<string | null>(null);
  const told = ref<string[]>([]);
  const problem = ref<string | null>(null);

  async function send(file: File): Promise<void> {
    [name.value, doing.value, told.value, problem.value] = [file.name, 'coming in…', [], null];
    try {
      const upload = await api.beginUpload(jobId, file.name, file.size);
      await sendPieces(upload, file, (share) => (doing.value = `coming in, ${Math.round(share * 100)} %`), new AbortController().signal);
      let now = await take(upload.id);
      while (now.told?.state === 'reading') {
        doing.value = now.told.of ? `${now.told.done} of ${now.told.of} events brought in…` : 'being checked and taken in…';
        await promiseTimeout(ASK_EVERY);
        now = await api.upload(upload.id);
      }
      if (now.told?.state !== 'done') throw new Error(now.told?.message ?? 'It was not taken in.');
      told.value = now.told.told ?? [];
      if (now.told.job !== undefined) done(now.told.job);
    } catch (reason) {
      problem.value = reason instanceof Error ? reason.message : String(reason);
    } finally {
      doing.value = null;
    }
  }

  return { name, doing, told, problem, send, close: () => (name.value = null) };
}
