import { shallowRef } from 'vue';
import { api } from '../../api/client';
import type { KeptTreatment } from '../../api/types';
import { useNotices } from '../../useNotices';

/** The treatments that a job keeps under names. */
export function useKept(job: number) {
  const { fail } = useNotices();
  const all = shallowRef<KeptTreatment[]>([]);

  async function act(what: string, how: () => Promise<unknown>): Promise<boolean> {
    try {
      await how();
      all.value = await api.treatments(job);
      return true;
    } catch (reason) {
      fail(what, reason);
      return false;
    }
  }

  return {
    all,
    load: () => act('The kept treatments cannot be shown', () => Promise.resolve()),
    keep: (shot: number, wanted: { title: string; areas: string[]; touches: string[] | null; base: boolean; finish: boolean }) => act('The treatment was not kept', () => api.keepTreatment(shot, wanted)),
    /** From a file that another job wrote. */
    take: (file: File) => act(`${file.name} was not taken`, async () => api.takeTreatment(job, file.name.replace(/(\.recipe)?\.json$/, ''), await file.text())),
    remove: (id: number) => act('The treatment is still kept', () => api.removeTreatment(job, id)),
  };
}

export type Kept = ReturnType<typeof useKept>;

/** What is in one, in a few words. */
export const holds = (t: KeptTreatment): string => [...(t.base ? ['base'] : []), ...t.areas, ...(t.finish ? ['finish'] : [])].join(', ');
