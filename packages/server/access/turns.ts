/** A person has so many requests waiting that further ones are refused. */
export class TooMuch extends Error {}

/**
 * So much of one person may wait; a page of a site with its images asks for some dozens at once.
 */
const mostWaiting = 100;

/**
 * Takes turns between those who ask: of many that one person has asked for, one is done, then one
 * of the next person. What one person asks for is done in the order in which it was asked.
 */
export class Turns {
  readonly #waiting = new Map<string, (() => Promise<void>)[]>();
  #isBusy = false;
  #count = 0;

  /** What is asked for and not done. */
  get waiting(): number {
    return this.#count;
  }

  /** @throws TooMuch when the person has asked for too much already */
  take<Value>(person: string, act: () => Promise<Value>): Promise<Value> {
    const own = this.#waiting.get(person) ?? [];
    if (own.length >= mostWaiting) return Promise.reject(new TooMuch());
    this.#count += 1;
    return new Promise<Value>((resolve, reject) => {
      own.push(() => act().then(resolve, reject));
      this.#waiting.set(person, own);
      if (!this.#isBusy) void this.#work();
    });
  }

  async #work(): Promise<void> {
    this.#isBusy = true;
    for (let next = this.#next(); next; next = this.#next()) {
      await next();
      this.#count -= 1;
    }
    this.#isBusy = false;
  }
  /** The first of the person whose turn it is, who then comes last. */
  #next(): (() => Promise<void>) | undefined {
    const [first] = this.#waiting;
    if (!first) return undefined;
    const [person, own] = first;
    const next = own.shift();
    this.#waiting.delete(person);
    if (own.length > 0) this.#waiting.set(person, own);
    return next;
  }
}
