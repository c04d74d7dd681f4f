import type { Caret, LiveAnswer, LivePerson } from '@ukiyo/contracts';

/** One editor that has the topic open. */
export interface Member {
  /** Its public name for other members; it gives no rights. */
  readonly client: string;
  readonly name: string;
  /** Sends a `LiveAnswer`, serialised once for all members. */
  readonly send: (answer: string) => void;
  /** Closes the line of an editor that has connected again on another one. */
  readonly end: () => void;
}

interface Placed {
  readonly place: number;
  caret?: Caret;
}

/** Members who arrive within this many ms are announced in one message. */
const shortestRest = 40;
/** Each member lengthens that time, so that a full room costs no more than a small one; in ms. */
const restForEach = 2;

export const tell = (members: Iterable<Member>, answer: LiveAnswer): void => {
  const written = JSON.stringify(answer);
  for (const member of members) member.send(written);
};

/** The editors of one topic and their carets. */
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

  /** An editor that connects again after its line broke replaces its earlier entry. */
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
