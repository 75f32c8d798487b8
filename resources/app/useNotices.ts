import { useToast } from 'primevue/usetoast';
import { ApiError } from './api/client';

/** Short messages in the corner. */
export function useNotices() {
  const toast = useToast();

  return {
    say: (summary: string, detail = '') => toast.add({ severity: 'secondary', summary, detail, life: 4000 }),
    /** A failure in the server's own words. */
    fail: (what: string, reason: unknown) => {
      if (reason instanceof DOMException && reason.name === 'AbortError') return;
      const detail = reason instanceof Error ? reason.message : String(reason);
      toast.add({ severity: 'secondary', summary: `▲ ${what}`, detail, life: reason instanceof ApiError && reason.transient ? 4000 : 9000 });
    },
  };
}
