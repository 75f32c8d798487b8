import { useConfirm } from 'primevue/useconfirm';
import { ref } from 'vue';
import { api } from '../api/client';
import type { Job, Shot } from '../api/types';
import type { People } from '../bench/person/usePeople';
import { useNotices } from '../useNotices';

/** A job with its shots: their names, notes and order; what is removed is asked for once more. */
export function useJob(jobId: number, people: People) {
  const { fail, say } = useNotices();
  const confirm = useConfirm();
  const job = ref<Job | null>(null);
  const missing = ref<string | null>(null);

  /** How often the job was asked for or told: an answer that another one has overtaken is old. */
  let turn = 0;

  function adopt(found: Job): void {
    turn += 1;
    job.value = found;
    people.adopt(found);
  }
  async function load(): Promise<void> {
    const mine = (turn += 1);
    try {
      const found = await api.job(jobId);
      if (mine === turn) adopt(found);
    } catch (reason) {
      if (job.value === null) missing.value = reason instanceof Error ? reason.message : String(reason);
      else fail('The job cannot be refreshed', reason);
    }
  }
  async function act(what: string, how: () => Promise<unknown>): Promise<void> {
    try {
      await how();
    } catch (reason) {
      fail(what, reason);
    }
  }

  async function change(shot: Shot, values: { name: string } | { notes: string; base: string } | { archived: boolean }): Promise<Shot> {
    const { name, notes, archived } = await api.changeShot(shot.id, values);
    if (job.value) job.value.shots = job.value.shots.map((s) => (s.id === shot.id ? { ...s, name, notes, archived } : s));
    return { ...shot, notes };
  }

  const take = (shot: Shot): Promise<void> => act('The shot was not removed', async () => {
    await api.removeShot(shot.id);
    await load();
  });

  return {
    job,
    missing,
    load,
    rename: (shot: Shot, name: string) => act('The name was not taken', () => change(shot, { name })),
    note: (shot: Shot, notes: string) => act('The note was not saved', async () => {
      if (notes === shot.notes) return;
      const kept = await change(shot, { notes, base: shot.notes });
      if (kept.notes !== notes) say('Somebody else changed these notes meanwhile', 'What both of you wrote is kept.');
    }),
    /** Puts shots away, or takes them out again. */
    putAway: (shots: Shot[], archived: boolean) => act('Not all were put away', async () => {
      for (const shot of shots) await change(shot, { archived });
    }),
    /** Moves a shot to the place of another. */
    arrange: (from: number, to: number) => act('The order was not taken', async () => {
      if (!job.value) return;
      const shots = [...job.value.shots];
      shots.splice(to, 0, ...shots.splice(from, 1));
      job.value.shots = shots;
      adopt(await api.orderShots(jobId, shots.map((s) => s.id)));
    }),
    /** In the order of the cut; what is in none behind it, as it stood. */
    arrangeByCut: () => act('The order was not taken', async () => {
      const rank = (s: Shot): number => (s.cut && !s.cut.retired ? s.cut.number : Infinity);
      const shots = [...(job.value?.shots ?? [])].sort((a, b) => (rank(a) === rank(b) ? 0 : rank(a) - rank(b)));
      adopt(await api.orderShots(jobId, shots.map((s) => s.id)));
    }),
    accept: (shot: Shot) => act('The shot was not taken', async () => {
      await api.acceptShot(shot.id);
      await load();
    }),
    read: (shot: Shot) => act('The file was not read again', async () => {
      await api.readShot(shot.id);
      await load();
    }),
    /** A shot that was never worked on has nothing to lose. */
    remove: (shot: Shot): void => (shot.state === 'failed' || shot.state === 'doubtful' ? void take(shot) : confirm.require({
      header: `Remove ${shot.name}?`,
      message: 'Its treatment with all of its history and its deliveries are deleted; its footage too, where no other shot uses it. This cannot be undone.',
      acceptLabel: 'Remove the shot',
      rejectLabel: 'Keep it',
      accept: () => take(shot),
    })),
  };
}
