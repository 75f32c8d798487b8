import { describe, expect, it, vi } from 'vitest';
import { useOrder } from '../../resources/app/deliveries/useOrder';
import { useSlip } from '../../resources/app/deliveries/useSlip';

const said: string[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ fail: (words: string) => said.push(words) }) }));

describe('placing an order', () => {
  it('knows the same order again and takes another one for another', () => {
    const slip = useSlip();
    const first = slip({ shots: [1, 2], format: 'vp9' });
    expect(slip({ shots: [1, 2], format: 'vp9' })).toBe(first);
    expect(slip({ shots: [1, 2], format: 'png' })).not.toBe(first);
    expect(first.length).toBeGreaterThanOrEqual(8);
    expect(first.length).toBeLessThanOrEqual(28);
  });

  it('sends it with the same slip after an answer was lost, and says what went wrong', async () => {
    const done = vi.fn();
    const { place, sending } = useOrder('It was not taken', done);
    const slips: string[] = [];
    const send = vi.fn((order: { format: string; slip: string }) => {
      slips.push(order.slip);
      return slips.length === 1 ? Promise.reject(new Error('gone')) : Promise.resolve();
    });
    await place({ format: 'vp9' }, send);
    expect([said, done.mock.calls.length, sending.value]).toEqual([['It was not taken'], 0, false]);
    await place({ format: 'vp9' }, send);
    expect([slips[0] === slips[1], done.mock.calls.length]).toEqual([true, 1]);
  });
});
