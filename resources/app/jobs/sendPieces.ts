import { promiseTimeout } from '@vueuse/core';
import { api, ApiError } from '../api/client';
import type { Upload } from '../api/types';

const PIECE = 4 * 1024 * 1024;
/** How long to wait before a piece is sent again, and how often in a row. */
const AGAIN = 1000;
const TRIES = 20;

/** Sends a file in pieces from where its upload stands, again after a break in the line. */
export async function sendPieces(upload: Upload, file: File, shared: (share: number) => void, signal: AbortSignal): Promise<void> {
  let sent = upload.received;
  let breaks = 0;
  while (sent < file.size) {
    try {
      sent = (await api.sendPiece(upload.id, sent, file.slice(sent, sent + PIECE), signal)).received;
      breaks = 0;
    } catch (reason) {
      if (!(reason instanceof ApiError) || !reason.transient || ++breaks > TRIES) throw reason;
      await promiseTimeout(AGAIN);
    }
    shared(sent / file.size);
  }
}
