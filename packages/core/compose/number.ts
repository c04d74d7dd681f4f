import { childNamed } from '../markup/index.ts';
import type { Numbering } from '../styles/index.ts';
import { Counting, isCounted } from './counting.ts';
import type { PlacedMap, PlacedTopic } from './place.ts';
import { plainLine } from './plain.ts';
import type { Listed, Place, Target } from './publication.ts';
import { isCaptioned } from './resolve/anchors.ts';
import type { Landmark, ResolvedTopic } from './resolve/resolved.ts';

export interface NumberedMap extends PlacedMap {
  /** By anchor. */
  readonly targets: Readonly<Record<string, Target>>;
  readonly figures: readonly Listed[];
  readonly tables: readonly Listed[];
}

/**
 * Numbers parts, chapters, sections, figures, tables and examples, and names all that can be led
 * to. A pass of composing.
 */
export const numberPlaces = (placed: PlacedMap, numbering: Numbering): NumberedMap =>
  new Numbered(placed, numbering).number();

class Numbered {
  readonly #placed: PlacedMap;
  readonly #numbering: Numbering;
  readonly #counting: Counting;
  readonly #topics = new Map<string, readonly PlacedTopic[]>();
  readonly #targets: Record<string, Target> = {};
  readonly #figures: Listed[] = [];
  readonly #tables: Listed[] = [];

  constructor(placed: PlacedMap, numbering: Numbering) {
    this.#placed = placed;
    this.#numbering = numbering;
    this.#counting = new Counting(numbering);
    for (const topic of placed.topics)
      this.#topics.set(topic.place, [...(this.#topics.get(topic.place) ?? []), topic]);
  }

  number(): NumberedMap {
    const places = this.#places(this.#placed.places, undefined);
    const [targets, figures, tables] = [this.#targets, this.#figures, this.#tables];
    return { ...this.#placed, places, targets, figures, tables };
  }

  /** @param parent the number of the place above */
  #places(places: readonly Place[], parent: string | undefined): readonly Place[] {
    let ordinal = 0;
    return places.map((place) => {
      const { anchor, role, level } = place;
      if (role === 'section' && isCounted(place)) ordinal += 1;
      const number = isCounted(place)
        ? this.#counting.place({ role, level, parent, ordinal })
        : undefined;
      const title = plainLine(place.title) || place.label;
      const linkText = place.linkText ? { linkText: plainLine(place.linkText) } : {};
      this.#name({ anchor, place: anchor, kind: 'topic', title, ...linkText }, number);
      for (const { topic } of this.#topics.get(anchor) ?? []) {
        if (topic.anchor !== anchor) this.#name(alternateTarget(topic, anchor), undefined);
        for (const landmark of topic.landmarks) this.#landmark(landmark, anchor);
      }
      const children = this.#places(place.children, number);
      return { ...place, children, ...(number === undefined ? {} : { number }) };
    });
  }

  #name(target: Omit<Target, 'number'>, number: string | undefined): void {
    this.#targets[target.anchor] = number === undefined ? target : { ...target, number };
  }

  #landmark({ anchor, kind, title, opening, number: own }: Landmark, place: string): void {
    const isNumbered =
      isCaptioned(kind) && title.length > 0 && (kind !== 'example' || this.#numbering.examples);
    const number = isNumbered ? this.#counting.caption(kind) : own;
    if (isNumbered && kind !== 'example')
      (kind === 'figure' ? this.#figures : this.#tables).push({
        anchor,
        number: number ?? '',
        title,
      });
    const named = { anchor, place, kind, title: plainLine(title) };
    this.#name(opening === undefined ? named : { ...named, opening }, number);
  }
}

const alternateTarget = ({ anchor, content }: ResolvedTopic, place: string): Target => ({
  anchor,
  place,
  kind: 'topic',
  title: plainLine(childNamed(content, 'title', 'glossterm')?.children ?? []),
});
