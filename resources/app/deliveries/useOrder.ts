import { ref } from 'vue';
import { useNotices } from '../useNotices';
import { useSlip } from './useSlip';

/** Placing an order: sent once at a time, known by its slip. */
export function useOrder(failed: string, done: () => void) {
  const { fail } = useNotices();
  const slipOf = useSlip();
  const sending = ref(false);

  async function place<T extends object>(order: T, send: (order: T & { slip: string }) => Promise<unknown>): Promise<void> {
    sending.value = true;
    try {
      await send({ ...order, slip: slipOf(order) });
      done();
    } catch (reason) {
      fail(failed, reason);
    } finally {
      sending.value = false;
    }
  }
  return { sending, place };
}
