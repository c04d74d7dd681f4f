import type { Caret, LiveAnswer, LivePerson } from '@ukiyo/contracts';

/** One editor that has the topic open. */
export interface Member {
  /** As everybody hears of it; nothing can be done with it. */
  readonly client: string;
  readonly name: string;
  /** Sends a `LiveAnswer` that is written as JSON already: most go to everybody. */
  readonly send: (answer: string) => void;
  /** Ends the line of an editor that has come again on another one. */
  readonly end: () => void;
}

interface Placed {
  readonly place: number;
  caret?: Caret;
}

/**
 * Who is there is told together: everybody hears of many who come at once in one message. In
 * milliseconds.
 */
const shortestRest = 40;
/**
 * And the longer, the more there are to tell it to, so that a full room costs no more than a small
 * one.
 */
const restForEach = 2;

export const tell = (members: Iterable<Member>, answer: LiveAnswer): void => {
  const written = JSON.stringify(answer);
  for (const member of members) member.send(written);
};

/** The editors of one topic, and where each of them is. */
export class Presence {
  readonly #members = new Map<Member, Placed>();
  readonly #moved = new Set<Member>();
  #haveChanged = false;
  #timer: ReturnType<typeof setTimeout> | undefined;

  get members(): Iterable<Member> {
    return this.#members.keys();
  }
  get isEmpty(): boolean {
    return this.#members.size === 0;
  }

  /** An editor that comes again after its line broke takes the place of its former self. */
  enter(member: Member): void {
    const formers = [...this.#members.keys()].filter(({ client }) => client === member.client);
    for (const former of formers) {
      this.#members.delete(former);
      former.end();
    }
    const places = new Set([...this.#members.values()].map(({ place }) => place));
    let place = 0;
    while (places.has(place)) place += 1;
    this.#members.set(member, { place });
    this.#tellSoon(true);
  }
  leave(member: Member): void {
    if (this.#members.delete(member)) this.#tellSoon(true);
  }
  moveCaret(member: Member, caret: Caret): void {
    const placed = this.#members.get(member);
    if (!placed) return;
    placed.caret = caret;
    this.#moved.add(member);
    this.#tellSoon(false);
  }
  clear(): void {
    clearTimeout(this.#timer);
    this.#timer = undefined;
    this.#members.clear();
  }

  #tellSoon(haveChanged: boolean): void {
    this.#haveChanged ||= haveChanged;
    const rest = Math.max(shortestRest, this.#members.size * restForEach);
    this.#timer ??= setTimeout(() => this.#tellNow(), rest);
  }
  #tellNow(): void {
    this.#timer = undefined;
    const moved = [...this.#moved];
    this.#moved.clear();
    if (this.#haveChanged) {
      this.#haveChanged = false;
      const people = [...this.#members].map(([{ client, name }, { place, caret }]): LivePerson => ({
        client,
        name,
        place,
        ...(caret ? { caret } : {}),
      }));
      return tell(this.members, { kind: 'people', people });
    }
    const carets = moved.flatMap((member) => {
      const caret = this.#members.get(member)?.caret;
      return caret ? [{ client: member.client, caret }] : [];
    });
    if (carets.length > 0) tell(this.members, { kind: 'carets', carets });
  }
}
