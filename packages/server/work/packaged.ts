import { isDeepStrictEqual } from 'node:util';
import {
  EditionInput,
  PackagedPublishing,
  type DesignKind,
  type Designs,
  type Edition,
} from '@ukiyo/contracts';
import { problem, type Problem } from '@ukiyo/core/problems';
import { lensPath } from '@ukiyo/press';
import type { Transaction } from 'sequelize';
import type { DesignStore } from '../data/designs.ts';
import type { EditionStore } from '../data/editions.ts';

const kinds = ['sheets', 'plans', 'looks'] as const satisfies readonly DesignKind[];

/** What `publishing.json` of a package says. Editions that hold others come after them. */
export function writePublishing(
  editions: readonly Edition[],
  designs: Designs,
  all: readonly Edition[],
  pathOf: (item: string) => string | undefined,
): Uint8Array {
  const nameOf = (id: string): string[] =>
    all.flatMap((edition) => (edition.id === id ? [edition.name] : []));
  const outward = ({
    id: _id,
    since: _since,
    map,
    start,
    lens,
    holds,
    ...same
  }: Edition): PackagedPublishing['editions'][number] => ({
    ...same,
    map: pathOf(map) ?? map,
    start: pathOf(start) ?? start,
    lens: lens === null ? null : lensPath(lens),
    holds: holds.flatMap(nameOf),
  });
  const own = (
    kept: readonly { readonly id: string; readonly version: number; readonly content: unknown }[],
  ) =>
    // What ships is everywhere.
    kept.filter(({ version }) => version > 0).map(({ id, content }) => ({ id, content }));
  const written = {
    editions: editions
      .toSorted((a, b) => Number(a.holds.length > 0) - Number(b.holds.length > 0))
      .map(outward),
    sheets: own(designs.sheets),
    plans: own(designs.plans),
    looks: own(designs.looks),
  };
  return Buffer.from(`${JSON.stringify(written, null, 1)}\n`);
}

/** Ids of the images that designs show. */
export function imagesIn(designs: Designs): string[] {
  const named = [...JSON.stringify(designs).matchAll(/"asset:([^"]+)"/gu)].map(([, id]) => id!);
  return [
    ...named,
    ...designs.looks.flatMap(({ content: { logo, favicon } }) =>
      [logo?.asset, favicon].flatMap((id) => id ?? []),
    ),
  ];
}

interface PublishingStores {
  readonly editions: EditionStore;
  readonly designs: DesignStore;
  readonly transaction: Transaction;
}

/**
 * Takes in what `publishing.json` says: designs that have not been changed here, and editions whose
 * names are free.
 * @param idOf of a topic, map or lens by its path in the package
 * @returns problems `package.publishing` and `package.exists`, and how many editions are new
 */
export async function takePublishing(
  project: string,
  text: string,
  idOf: (path: string) => string | undefined,
  { editions, designs, transaction }: PublishingStores,
): Promise<{ readonly count: number; readonly problems: readonly Problem[] }> {
  const content = read(text);
  if (typeof content === 'string')
    return {
      count: 0,
      problems: [
        problem(
          'error',
          'package.publishing',
          `publishing.json cannot be read: ${content} Editions and designs are left out.`,
        ),
      ],
    };
  const problems: Problem[] = [];
  const there = (what: string): void =>
    void problems.push(
      problem('info', 'package.exists', `${what} is in the project already. It is left as it is.`),
    );
  const known = await designs.read(project, transaction);
  for (const kind of kinds) {
    for (const { id, content: design } of content[kind]) {
      const own = known[kind].find((one) => one.id === id);
      if (own && isDeepStrictEqual(own.content, design)) continue;
      if ((own?.version ?? 0) > 0) there(`“${design.name}” (${id})`);
      else await designs.save(project, { kind, id, version: 0, content: design }, transaction);
    }
  }
  const ids = new Map(
    (await editions.editions(project, transaction)).map(({ name, id }) => [name, id]),
  );
  let count = 0;
  for (const edition of content.editions) {
    if (ids.has(edition.name)) {
      there(`The edition “${edition.name}”`);
      continue;
    }
    const input = EditionInput.safeParse({
      ...edition,
      map: idOf(edition.map) ?? edition.map,
      start: idOf(edition.start) ?? edition.start,
      lens: edition.lens === null ? null : (idOf(edition.lens) ?? edition.lens),
      holds: edition.holds.flatMap((name) => ids.get(name) ?? []),
    });
    if (!input.success) {
      problems.push(
        problem(
          'error',
          'package.publishing',
          `The edition “${edition.name}” cannot be made: ` +
            `${input.error.issues[0]?.message ?? ''} It is left out.`,
        ),
      );
      continue;
    }
    ids.set(edition.name, (await editions.createEdition(project, input.data, transaction)).id);
    count += 1;
  }
  return { count, problems };
}

/** What it says, or why it says nothing. */
function read(text: string): PackagedPublishing | string {
  if (text === '') return PackagedPublishing.parse({});
  try {
    const { data, error } = PackagedPublishing.safeParse(JSON.parse(text));
    const [first] = error?.issues ?? [];
    return data ?? `${first?.path.join('.') ?? ''}: ${first?.message ?? ''}.`;
  } catch {
    return 'it is not JSON.';
  }
}
