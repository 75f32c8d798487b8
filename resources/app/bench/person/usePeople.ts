import { ref } from 'vue';
import { api } from '../../api/client';
import type { Job, Person, Shot } from '../../api/types';
import { useNotices } from '../../useNotices';

/** The people of a job: made, renamed, removed; names in any script. */
export function usePeople(jobId: number) {
  const { fail } = useNotices();
  const list = ref<Person[]>([]);

  const adopt = (job: Job): void => {
    list.value = job.people;
  };
  async function act(what: string, how: () => Promise<Job>): Promise<boolean> {
    try {
      adopt(await how());
      return true;
    } catch (reason) {
      fail(what, reason);
      return false;
    }
  }

  return {
    list,
    adopt,
    nameOf: (slug: string | null): string => list.value.find((p) => p.slug === slug)?.name ?? '',
    /** Reads the job; gives its shots. */
    load: async (): Promise<Shot[]> => {
      const job = await api.job(jobId);
      adopt(job);
      return job.shots;
    },
    add: (name: string) => act('Nobody was added', () => api.addPerson(jobId, name)),
    rename: (slug: string, name: string) => act('The name was not taken', () => api.renamePerson(jobId, slug, name)),
    remove: (slug: string) => act('Nobody was removed', () => api.removePerson(jobId, slug)),
  };
}

export type People = ReturnType<typeof usePeople>;
