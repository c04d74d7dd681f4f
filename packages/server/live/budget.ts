/**
 * How much a line may say: enough for the quickest hand and a large paste, too little to keep
 * others waiting.
 */
export interface Budget {
  /** Units that come back in a second. */
  readonly perSecond: number;
  /** Units that can be saved up. */
  readonly most: number;
}

/** A leaky bucket: takes what is used, and says how long to rest until nothing is owed. */
export function meter({ perSecond, most }: Budget): (units: number, now: number) => number {
  let left = most;
  let since = 0;
  return (units, now) => {
    left = Math.min(most, left + ((now - since) * perSecond) / 1000) - units;
    since = now;
    return left >= 0 ? 0 : (-left * 1000) / perSecond;
  };
}
