import { flushPromises, mount } from '@vue/test-utils';
import { expect, it, vi } from 'vitest';
import { api } from '../../resources/app/api/client';
import type { Job, Shot } from '../../resources/app/api/types';
import type { People } from '../../resources/app/bench/person/usePeople';
import PeopleRows from '../../resources/app/jobs/PeopleRows.vue';
import { useJob } from '../../resources/app/jobs/useJob';

const said: string[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ fail: (what: string) => said.push(what), say: (what: string) => said.push(what) }) }));
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

it('tells what notes were changed from, shows what became of them, and says where somebody else wrote too', async () => {
  const shot = { id: 7, name: 'gh010', notes: 'Warmer', archived: false } as Shot;
  vi.spyOn(api, 'job').mockResolvedValue({ ...told('a'), shots: [shot] });
  const changed = vi.spyOn(api, 'changeShot').mockResolvedValueOnce({ ...shot, notes: 'Warmer\nSofter' }).mockResolvedValueOnce({ ...shot, notes: 'Theirs\nMine' });
  const { job, load, note } = useJob(1, { adopt: () => null } as unknown as People);
  await load();
  await note(shot, 'Warmer');
  expect(changed).not.toHaveBeenCalled();
  await note(shot, 'Warmer\nSofter');
  expect([changed.mock.calls[0], job.value?.shots[0]?.notes, said]).toEqual([[7, { notes: 'Warmer\nSofter', base: 'Warmer' }], 'Warmer\nSofter', []]);
  await note(job.value?.shots[0] as Shot, 'Mine');
  expect([job.value?.shots[0]?.notes, said]).toEqual(['Theirs\nMine', ['Somebody else changed these notes meanwhile']]);
});

it('tells in which shots somebody is probably seen whom nothing is outlined of there', async () => {
  const areas = [{ id: 'a', person: 'maren', part: 'face', name: 'Face' }];
  const shots = [
    { id: 1, name: 'first', state: 'ready', revision: 1, progress: { areas } },
    { id: 2, name: 'second', state: 'ready', revision: 0, progress: null },
  ] as unknown as Shot[];
  const asked = vi.spyOn(api, 'likely').mockImplementation((_, slug) => (slug === 'maren' ? Promise.resolve([{ shot: 2, frame: 12 }, { shot: 9, frame: 0 }]) : Promise.reject(new Error('busy'))));
  const people = [{ slug: 'maren', name: 'Maren' }, { slug: 'kei', name: 'Kei' }];
  const link = { props: ['to'], template: '<a :data-to="JSON.stringify(to)"><slot /></a>' };
  const rows = mount(PeopleRows, { props: { job: { ...told('a'), people, shots } }, global: { stubs: { RouterLink: link, FaceInShot: true, RulerSlider: true } } });
  await flushPromises();
  expect(asked.mock.calls).toEqual([[1, 'maren'], [1, 'kei']]);
  expect(rows.findAll('.likely a').map((a) => [a.text(), JSON.parse(a.attributes('data-to') ?? '')])).toEqual([['second', { path: '/shots/2', query: { frame: 12 } }]]);
  rows.unmount();
});
