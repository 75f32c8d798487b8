import { beforeEach, describe, expect, it, vi } from 'vitest';
import { ref } from 'vue';
import { api } from '../../resources/app/api/client';
import type { FoundPerson } from '../../resources/app/api/types';
import { useFinding } from '../../resources/app/bench/person/useFinding';
import type { Playhead } from '../../resources/app/bench/time/usePlayhead';
import { area, ellipse } from './bench';

const frame = ref(10);
const shown = ref(10);
const playhead = { frame, shown, go: (to: number) => (frame.value = shown.value = to) } as unknown as Playhead;
const person = (n: number, doubts: FoundPerson['doubts'] = {}, whole = true): FoundPerson => {
  const iris = { ...area(`iris${n}`, [ellipse('s'), { id: 'k', kind: 'area', join: 'keep', of: `lids${n}`, opacity: 1, keys: [], motion: null } as never]), part: 'iris', motion: { ...area('x').motion, by: 'ride' as const, on: `face${n}` } };
  return { alike: null, whole, box: [0.2 * n, 0.1, 0.3, 0.4], areas: [area(`face${n}`), { ...area(`lids${n}`), motion: iris.motion }, iris], more: [], doubts, best: { teeth: null, eyes: 33 } };
};
const finding = (people: FoundPerson[], near: number | null = null) => {
  vi.spyOn(api, 'people').mockResolvedValue({ people, most: 8, near });
  return useFinding(1, playhead);
};

beforeEach(() => (frame.value = shown.value = 10));

describe('finding people', () => {
  it('ticks what is sure, and nothing that needs what is doubtful', async () => {
    const f = finding([person(1, { lids1: 'the eye is nearly closed' })]);
    await f.look();
    expect([...f.ticked.value]).toEqual(['face1']);
    expect(f.words.value).toBe('A face is seen. What is doubtful is not ticked.');
  });

  it('leaves parts by name to whom asks for them', async () => {
    const f = finding([{ ...person(1), more: ['iris1'] }]);
    await f.look();
    expect([...f.ticked.value]).toEqual(['face1', 'lids1']);
    f.tick(person(1).areas[2] as never);
    expect(f.ticked.value.has('iris1')).toBe(true);
  });

  it('ticks what is taken from a frame that shows it better, and does not offer that frame once more', async () => {
    const one = person(1);
    for (const a of one.areas.slice(1)) a.outline.at = 33;
    const f = finding([one]);
    await f.look();
    expect([...f.ticked.value].sort()).toEqual(['face1', 'iris1', 'lids1']);
    expect(f.better(one.areas[2] as never)).toBeNull();
  });

  it('takes along what an area needs, and leaves with it what needs it', async () => {
    const f = finding([person(1, { lids1: 'x' })]);
    await f.look();
    const [face, , iris] = f.person.value?.areas as [never, never, never];
    f.tick(iris);
    expect([...f.ticked.value].sort()).toEqual(['face1', 'iris1', 'lids1']);
    f.tick(face);
    expect([...f.ticked.value]).toEqual([]);
  });

  it('lets one of several be chosen, each with its own ticks', async () => {
    const f = finding([person(1), person(2, { iris2: 'x' })]);
    await f.look();
    expect(f.words.value).toContain('2 people are seen');
    vi.spyOn(api, 'people').mockResolvedValue({ people: f.people.value, most: 2, near: null });
    await f.look();
    expect(f.words.value).toContain('The 2 largest faces are shown');
    expect(f.ticked.value.has('iris1')).toBe(true);
    f.choose(1);
    expect([...f.ticked.value].sort()).toEqual(['face2', 'lids2']);
  });

  it('shows proposals on their own frame alone', async () => {
    const f = finding([person(1)]);
    await f.look();
    expect(f.here.value).toHaveLength(1);
    frame.value = 11;
    // The picture is late.
    expect(f.here.value).toHaveLength(1);
    shown.value = 11;
    expect(f.here.value).toEqual([]);
    expect(f.frame.value).toBe(10);
  });

  it('says when nobody, or only eyes, are seen', async () => {
    const f = finding([]);
    await f.look();
    expect([f.failed.value, f.words.value.startsWith('Nobody was found')]).toEqual([true, true]);
    const eyes = finding([person(1, {}, false)]);
    await eyes.look();
    expect([eyes.failed.value, eyes.words.value]).toEqual([false, 'No face is seen whole, but an eye.']);
  });

  it('offers another frame where nobody is seen, or what is seen is doubtful', async () => {
    const none = finding([], 44);
    await none.look();
    expect([none.words.value, none.near.value]).toEqual(['Nobody was found on this frame; on frame 44 somebody is seen.', 44]);
    const look = vi.spyOn(api, 'people').mockResolvedValue({ people: [person(1, { iris1: 'the eye is closed' })], most: 8, near: null });
    await none.lookOn(44);
    expect(look).toHaveBeenLastCalledWith(1, 44);
    expect([frame.value, none.near.value]).toEqual([44, null]);
    const [face, lids, iris] = none.person.value?.areas as [never, never, never];
    expect([none.better(face), none.better(lids), none.better(iris)]).toEqual([null, null, 33]);
  });

  it('tells why it did not work, and leaves nothing half found', async () => {
    vi.spyOn(api, 'people').mockRejectedValue(new Error('no such file'));
    const f = useFinding(1, playhead);
    await f.look();
    expect([f.failed.value, f.words.value, f.looking.value, f.person.value]).toEqual([true, 'Looking for people did not work: no such file', false, null]);
  });
});
