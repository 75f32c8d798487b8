import { expect, it, vi } from 'vitest';
import { api } from '../../resources/app/api/client';
import type { Job } from '../../resources/app/api/types';
import type { People } from '../../resources/app/bench/person/usePeople';
import { useJob } from '../../resources/app/jobs/useJob';

vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ fail: () => null, say: () => null }) }));
vi.mock('primevue/useconfirm', () => ({ useConfirm: () => ({ require: () => null }) }));

const told = (name: string): Job => ({ id: 1, name, people: [], shots: [] });

it('shows the job as it was told last, whichever answer comes last', async () => {
  const answers: ((job: Job) => void)[] = [];
  vi.spyOn(api, 'job').mockImplementation(() => new Promise((take) => answers.push(take)));
  vi.spyOn(api, 'orderShots').mockResolvedValue(told('arranged'));
  const { job, load, arrange } = useJob(1, { adopt: () => null } as unknown as People);
  const [first, second] = [load(), load()];
  answers[1]?.(told('second'));
  await second;
  answers[0]?.(told('first'));
  await first;
  expect(job.value?.name).toBe('second');
  const third = load();
  await arrange(0, 0);
  answers[2]?.(told('third'));
  await third;
  expect(job.value?.name).toBe('arranged');
});
