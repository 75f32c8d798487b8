import { ref } from 'vue';
import { api, ApiError } from '../api/client';
import type { Shot } from '../api/types';
import { sendPieces } from './sendPieces';

/** Frames of a file to use; all where both are left out. */
export interface Span { from?: number; to?: number }

export interface Incoming {
  key: number;
  name: string;
  share: number;
  error: string | null;
  stop: AbortController;
}

/** Files on their way in: sent in pieces, taken up again after a break in the line. */
export function useUploads(jobId: number, arrived: (shot: Shot) => void) {
  const incoming = ref<Incoming[]>([]);
  let keys = 0;

  async function send(file: File, span: Span): Promise<void> {
    incoming.value.push({ key: ++keys, name: file.name, share: 0, error: null, stop: new AbortController() });
    const entry = incoming.value[incoming.value.length - 1] as Incoming;
    try {
      if (file.size === 0) throw new ApiError(422, 'The file is empty.');
      const upload = await api.beginUpload(jobId, file.name, file.size);
      await sendPieces(upload, file, (share) => (entry.share = share), entry.stop.signal);
      arrived(await api.finishUpload(upload.id, span));
      drop(entry.key);
    } catch (reason) {
      if (reason instanceof DOMException && reason.name === 'AbortError') drop(entry.key);
      else entry.error = reason instanceof Error ? reason.message : String(reason);
    }
  }

  function drop(key: number): void {
    incoming.value = incoming.value.filter((other) => other.key !== key);
  }

  return {
    incoming,
    send,
    stop: (entry: Incoming) => {
      entry.stop.abort();
      drop(entry.key);
    },
  };
}
