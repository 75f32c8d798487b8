import { useToast } from 'primevue/usetoast';
import { ApiError } from './api/client';

/** What a person can do about a notice at once. */
export interface NoticeAct { words: string; act: () => void }

/** Short messages in the corner. */
export function useNotices() {
  const toast = useToast();

  return {
    say: (summary: string, detail = '', act?: NoticeAct) => toast.add({ severity: 'secondary', summary, detail, life: act ? 8000 : 4000, ...(act ? { act } : {}) }),
    /** A failure in the server's own words. */
    fail: (what: string, reason: unknown) => {
      if (reason instanceof DOMException && reason.name === 'AbortError') return;
      const detail = reason instanceof Error ? reason.message : String(reason);
      toast.add({ severity: 'secondary', summary: `▲ ${what}`, detail, life: reason instanceof ApiError && reason.transient ? 4000 : 9000 });
    },
  };
}
