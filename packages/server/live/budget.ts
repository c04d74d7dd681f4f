/**
 * How much one connection may send: enough for fast typing and a large paste, too little to make
 * others wait.
 */
export interface Budget {
  /** Units regained each second. */
  readonly perSecond: number;
  /** Units that can be saved up. */
  readonly most: number;
}

/** A leaky bucket: counts what is used, and gives the wait until nothing is owed. */
export function meter({ perSecond, most }: Budget): (units: number, now: number) => number {
  let left = most;
  let since = 0;
  return (units, now) => {
    left = Math.min(most, left + ((now - since) * perSecond) / 1000) - units;
    since = now;
    return left >= 0 ? 0 : (-left * 1000) / perSecond;
  };
}
