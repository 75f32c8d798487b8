import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ref } from 'vue';
import type { Areas } from '../../resources/app/bench/areas/useAreas';
import { useViews } from '../../resources/app/bench/judge/useViews';

const chosen = ref<{ id: string } | null>({ id: 'a' });
const areas = { chosen } as unknown as Areas;

beforeEach(() => {
  vi.useFakeTimers();
  chosen.value = { id: 'a' };
});
afterEach(() => vi.useRealTimers());

describe('views by keys', () => {
  it('a key held shows its view while held', () => {
    const views = useViews(areas);
    views.press('o', 'original');
    expect(views.shown.value).toBe('original');
    vi.advanceTimersByTime(400);
    views.release('o');
    expect(views.shown.value).toBe('result');
  });

  it('tapped it stays until tapped again', () => {
    const views = useViews(areas);
    views.press('m', 'matte');
    vi.advanceTimersByTime(80);
    views.release('m');
    expect(views.shown.value).toBe('matte');
    views.press('m', 'matte');
    views.release('m');
    expect(views.shown.value).toBe('result');
  });

  it('a second key changes nothing while one is down, and a lost window puts back what was', () => {
    const views = useViews(areas);
    views.show('difference');
    views.press('o', 'original');
    views.press('l', 'outlines');
    views.release('l');
    expect([views.shown.value, views.outlines.value]).toEqual(['original', true]);
    views.lost();
    expect(views.shown.value).toBe('difference');
    views.press('l', 'outlines');
    vi.advanceTimersByTime(400);
    expect(views.outlines.value).toBe(false);
    views.release('l');
    expect(views.outlines.value).toBe(true);
  });

  it('views of an area fall back to the result where none is chosen', () => {
    const views = useViews(areas);
    views.show('picked');
    expect([views.shown.value, views.ofArea.value]).toEqual(['picked', true]);
    chosen.value = null;
    expect([views.shown.value, views.ofArea.value]).toEqual(['result', false]);
  });
});
