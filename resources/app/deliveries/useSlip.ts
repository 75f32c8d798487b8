/**
 * A word that an order is known by: sent again after a lost answer, the same order is not placed twice; one that asks for something else
 * is another order.
 */
export function useSlip(): (order: unknown) => string {
  let last = '';
  let slip = '';
  return (order) => {
    const now = JSON.stringify(order);
    if (now !== last) {
      last = now;
      slip = Math.random().toString(36).slice(2, 14).padEnd(10, '0');
    }
    return slip;
  };
}
