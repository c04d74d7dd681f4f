import type { Lens } from '@ukiyo/core/facets';
import type { LibraryAsset, StoredItem } from '@ukiyo/core/library';

/** A number that looks random and is the same on every machine (mulberry32). */
function randomNumbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const words = (
  'tide station quay bracket sensor well mast antenna cabinet logger reading datum staff ' +
  'cable gland earth battery panel charger radio slot harbour office alarm limit display ' +
  'menu height wave level wall torque stud nut washer resin drill clamp ring collar bolt ' +
  'rope plumb bob water sea wind storm season care visit survey sheet'
).split(' ');

const times = (count: number, make: () => string): string =>
  Array.from({ length: count }, make).join('');

/** What its facets are filtered by. */
export const lens: Lens = {
  name: 'q',
  rules: [{ facet: 'product', value: 'tern-d', action: 'drop' }],
};

export interface SyntheticLibrary {
  readonly items: readonly StoredItem[];
  readonly assets: readonly (LibraryAsset & { readonly bytes: Uint8Array })[];
}

/** Writes the parts of topics at random. @param count of the topics that links lead to */
class Writer {
  readonly #random: () => number;
  readonly #count: number;
  constructor(count: number, seed: number) {
    this.#count = count;
    this.#random = randomNumbers(seed);
  }
  #below(limit: number): number {
    return Math.floor(this.#random() * limit);
  }
  #pick<Value>(list: readonly Value[]): Value {
    return list[this.#below(list.length)]!;
  }
  #word(): string {
    return this.#pick(words);
  }
  sentence(length = 8 + this.#below(10)): string {
    const text = Array.from({ length }, () => this.#word()).join(' ');
    return `${text[0]!.toUpperCase()}${text.slice(1)}.`;
  }
  #paragraph(): string {
    return (
      `<p>${this.sentence()} ${this.sentence()} <uicontrol>${this.#word()}</uicontrol> ` +
      `${this.sentence()} <xref href="topic:t${this.#below(this.#count)}"/> ${this.sentence()}</p>`
    );
  }
  #facet(): string {
    return this.#random() < 0.2 ? ` product="${this.#pick(['tern-q', 'tern-d'])}"` : '';
  }
  #note(): string {
    const type = ['warning', 'tip', 'notice'];
    return this.#random() < 0.3
      ? '<note conref="topic:lender/n1"/>'
      : `<note type="${this.#pick(type)}"${this.#facet()}>${this.sentence()}</note>`;
  }
  #index(): string {
    return `<indexterm>${this.#word()}<indexterm>${this.#word()}</indexterm></indexterm>`;
  }
  #row(): string {
    return (
      `<row${this.#facet()}><entry>${this.#word()}</entry><entry>${this.sentence(5)}</entry>` +
      `<entry>${this.#below(100)}</entry></row>`
    );
  }
  #step(): string {
    return (
      `<step${this.#facet()}><cmd>${this.sentence()}</cmd>` +
      `<info>${this.sentence()} <ph keyref="product"/> ${this.sentence()}</info></step>`
    );
  }
  #table(): string {
    const heads = times(3, () => `<entry>${this.#word()}</entry>`);
    return (
      `<table id="tab"><title>${this.sentence(4)}</title><tgroup cols="3"><colspec colname="a"/>` +
      `<colspec colname="b"/><colspec colname="c"/><thead><row>${heads}</row></thead>` +
      `<tbody>${times(6, () => this.#row())}</tbody></tgroup></table>`
    );
  }
  #figure(): string {
    return (
      `<fig id="fig"><title>${this.sentence(4)}</title><image href="asset:drawing" width="90mm">` +
      `<alt>${this.sentence(5)}</alt></image></fig>`
    );
  }
  #head(id: number): string {
    return (
      `<title>${this.sentence(4).slice(0, -1)} ${id}</title>` +
      `<shortdesc>${this.sentence()}</shortdesc><prolog><metadata><keywords>` +
      `${this.#index()}${this.#index()}</keywords></metadata></prolog>`
    );
  }
  #section(): string {
    const items = times(4, () => `<li>${this.sentence()}</li>`);
    return (
      `<section><title>${this.sentence(3).slice(0, -1)}</title>${this.#paragraph()}` +
      `${this.#paragraph()}<ul>${items}</ul>${this.#note()}</section>`
    );
  }
  topic(id: number): string {
    const extra = id % 2 === 0 ? this.#table() : this.#figure();
    if (id % 3 === 0)
      return (
        `<task id="t${id}">${this.#head(id)}<taskbody><prereq>${this.#paragraph()}` +
        `${this.#note()}</prereq><steps>${times(9, () => this.#step())}</steps>` +
        `<result>${extra}${this.#paragraph()}</result></taskbody></task>`
      );
    const sections = times(3, () => this.#section());
    const head = this.#head(id);
    return id % 3 === 1
      ? `<concept id="t${id}">${head}<conbody>${this.#paragraph()}${extra}${sections}</conbody>` +
          '</concept>'
      : `<reference id="t${id}">${head}<refbody>${sections}${extra}</refbody></reference>`;
  }
}

/** A book map of chapters of 25 topics. */
function bookMap(count: number): string {
  const chapters = Array.from({ length: Math.ceil(count / 25) }, (_, chapter) => {
    const first = chapter * 25;
    const inside = Array.from(
      { length: Math.min(25, count - first) - 1 },
      (__, offset) => `<topicref href="topic:t${first + offset + 1}"/>`,
    ).join('');
    return `<chapter href="topic:t${first}">${inside}</chapter>`;
  }).join('');
  return (
    '<bookmap id="map"><booktitle><mainbooktitle>Synthetic Manual</mainbooktitle></booktitle>' +
    `<frontmatter><booklists><toc/></booklists></frontmatter>${chapters}<backmatter><booklists>` +
    '<figurelist/><tablelist/><indexlist/></booklists></backmatter><keydef keys="product">' +
    '<topicmeta><keywords><keyword>Tern</keyword></keywords></topicmeta></keydef></bookmap>'
  );
}

const drawing = {
  id: 'drawing',
  name: 'drawing.svg',
  mediaType: 'image/svg+xml',
  width: 300,
  height: 120,
  bytes: new TextEncoder().encode(
    '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="120" viewBox="0 0 300 120">' +
      '<rect x="10" y="10" width="280" height="100" fill="#dfe8f4" stroke="#12305f"/>' +
      '<circle cx="150" cy="60" r="40" fill="none" stroke="#c8402a"/></svg>',
  ),
};

/**
 * A library of `count` topics with the structure of real ones: tasks, concepts and references of
 * about 5 kB, each with a table or a figure, notes borrowed from a lender, links, index entries,
 * facets and variables, in a book map of chapters of 25 topics.
 */
export function syntheticLibrary(count: number, seed = 7): SyntheticLibrary {
  const writer = new Writer(count, seed);
  const lender =
    '<topic id="lender"><title>Lender</title><body>' +
    `<note id="n1" type="danger">${writer.sentence()}</note></body></topic>`;
  const topics = Array.from({ length: count }, (_, id): StoredItem => ({
    id: `t${id}`,
    kind: 'topic',
    text: writer.topic(id),
  }));
  return {
    items: [
      { id: 'map', kind: 'map', text: bookMap(count) },
      { id: 'lender', kind: 'topic', text: lender },
      ...topics,
    ],
    assets: [drawing],
  };
}

/** One concept of so many blocks: sections of paragraphs, lists, notes and now and then a table. */
export function longTopic(id: string, title: string, blocks: number): string {
  const words = (
    'the tide comes in over the sill and the gauge follows it slowly until the bell rings ' +
    'twice'
  ).split(' ');
  let made = 0;
  const sentence = (): string => `${words.slice(made % 5, 9 + (made % 8)).join(' ')}.`;
  const block = (name: string, inside = sentence(), attributes = ''): string => {
    made += 1;
    return `<${name}${attributes}>${inside}</${name}>`;
  };
  const tableRow = (): string => block('strow', block('stentry') + block('stentry'));
  const sections: string[] = [];
  while (made < blocks) {
    const table =
      sections.length % 10 === 9 ? `<simpletable>${times(4, tableRow)}</simpletable>` : '';
    const list = block('ul', Array.from({ length: 4 }, () => block('li')).join(''));
    sections.push(
      block(
        'section',
        block('title') +
          block('p', `${sentence()} <b>Twice</b> <xref href="topic:alarms"/> ${sentence()}`) +
          block('p') +
          list +
          block(
            'note',
            sentence(),
            ` product="${sections.length % 2 === 0 ? 'tern-q' : 'tern-d'}"`,
          ) +
          block('p') +
          table,
      ),
    );
  }
  return (
    `<concept id="${id}"><title>${title}</title><shortdesc>Long.</shortdesc>` +
    `<conbody>${sections.join('')}</conbody></concept>`
  );
}
