/**
 * Runs one piece of work at a time, and after it only the newest of what was asked for meanwhile: what lies between is of no use to anybody.
 * @param work what fails says so itself
 */
export function latestOnly<Order>(work: (order: Order) => Promise<void>): (order: Order) => void {
  let isRunning = false;
  let next: { readonly order: Order } | undefined;
  const run = async (order: Order): Promise<void> => {
    isRunning = true;
    await work(order);
    isRunning = false;
    const following = next;
    next = undefined;
    if (following) void run(following.order);
  };
  return (order) => {
    if (isRunning) next = { order };
    else void run(order);
  };
}
