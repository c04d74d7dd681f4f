import {
  isSubjectScheme,
  readSubjectScheme,
  withFlagImages,
  writeDitaval,
  writeSubjectScheme,
  type Facet,
  type Lens,
  type SchemeAt,
} from '@ukiyo/core/facets';
import { isTopic, respecialise, withSurroundings, writeCanonical } from '@ukiyo/core/grammar';
import {
  alternateMark,
  elementById,
  nestedTopicAround,
  readReference,
  rewriteReferences,
} from '@ukiyo/core/library';
import { element, readXml, type Attributes, type Element } from '@ukiyo/core/markup';

export interface PackagedItem {
  readonly id: string;
  readonly folder: string;
  readonly name: string;
  readonly text: string;
}

export interface PackagedAsset {
  readonly id: string;
  readonly folder: string;
  readonly name: string;
  readonly bytes: Uint8Array;
  /** The image for which it stands in, and for whom. */
  readonly alternateOf?: string | null;
  readonly conditions?: Attributes;
}

const encoder = new TextEncoder();

/** Where a text or image stands in a package. */
export const packagePath = ({
  folder,
  name,
}: {
  readonly folder: string;
  readonly name: string;
}): string => (folder === '' ? name : `${folder}/${name}`);

/**
 * The files of a package of standard DITA: addresses become relative paths again, folders, names
 * and ids are kept.
 */
export function ditaFiles(
  items: readonly PackagedItem[],
  assets: readonly PackagedAsset[],
  lenses: readonly (Lens & { id: string })[],
  facets: readonly Facet[] = [],
): Map<string, Uint8Array> {
  const trees = items.map((item) => ({
    item,
    path: packagePath(item),
    root: readXml(item.text).document?.root,
  }));
  const byId = new Map(trees.map((tree) => [tree.item.id, tree]));
  const assetPaths = new Map(assets.map((asset) => [asset.id, packagePath(asset)]));
  const files = new Map<string, Uint8Array>();

  for (const { item, path, root } of trees) {
    if (!root) {
      files.set(path, encoder.encode(item.text));
      continue;
    }
    const outward = rewriteReferences(root, (value) => {
      const reference = readReference(value, item.id);
      if (reference.kind === 'asset') {
        const file = assetPaths.get(reference.id);
        const [, fragment] = value.split('#', 2);
        if (file === undefined) return value;
        return relativePath(path, file) + (fragment === undefined ? '' : `#${fragment}`);
      }
      if (reference.kind === 'lens') return relativePath(path, lensPath(reference.id));
      if (reference.kind !== 'item' || value.startsWith('#')) return value;
      const target = byId.get(reference.id);
      if (!target) return value;
      return `${relativePath(path, target.path)}${fragmentFor(reference.element, target.root)}`;
    });
    const whole = respecialise(outward);
    const file = withSurroundings(whole.name, root.attributes, writeCanonical(whole));
    files.set(path, encoder.encode(file));
  }
  for (const asset of assets) files.set(packagePath(asset), asset.bytes);
  const standIns = assets.filter(
    ({ alternateOf }) => alternateOf != null && assetPaths.has(alternateOf),
  );
  if (standIns.length > 0)
    files.set(
      imageAlternatesFile,
      encoder.encode(
        withSurroundings(
          'map',
          {},
          writeCanonical(
            imageAlternates(standIns, (id) =>
              relativePath(imageAlternatesFile, assetPaths.get(id)!),
            ),
          ),
        ),
      ),
    );
  const flagged = (lens: Lens & { id: string }): Lens =>
    withFlagImages(lens, (image) => {
      const file = assetPaths.get(image.slice('asset:'.length));
      return file === undefined ? undefined : relativePath(lensPath(lens.id), file);
    });
  for (const lens of lenses)
    files.set(
      lensPath(lens.id),
      encoder.encode(`<?xml version="1.0" encoding="UTF-8"?>\n${writeDitaval(flagged(lens))}`),
    );
  const list = facetList(
    trees.flatMap(({ root }) => root ?? []),
    (href) => {
      const target = readReference(href, '');
      return target.kind === 'item' ? byId.get(target.id)?.root : undefined;
    },
    facets,
  );
  if (list !== undefined) files.set('facets.ditamap', encoder.encode(list));
  return files;
}

/** The facets that no subject scheme among the maps says; undefined where there are none. */
function facetList(
  roots: readonly Element[],
  schemeAt: SchemeAt,
  facets: readonly Facet[],
): string | undefined {
  const said = new Set(
    roots
      .filter(isSubjectScheme)
      .flatMap((root) => readSubjectScheme(writeCanonical(root), schemeAt).facets)
      .map((facet) => JSON.stringify(facet)),
  );
  const others = facets.filter((facet) => !said.has(JSON.stringify(facet)));
  return others.length === 0
    ? undefined
    : '<?xml version="1.0" encoding="UTF-8"?>\n' +
        '<!DOCTYPE subjectScheme PUBLIC "-//OASIS//DTD DITA Subject Scheme Map//EN" ' +
        '"subjectScheme.dtd">\n' +
        writeSubjectScheme(others);
}

/**
 * A part of a topic as files name it: elements with the topic in which they stand (DITA 1.3,
 * 2.4.1.2 “URI-based addressing”).
 */
function fragmentFor(part: string | undefined, root: Element | undefined): string {
  if (part === undefined) return '';
  const found = root && elementById(root, part);
  if (part.includes('/') || !found || isTopic(found.element.name)) return `#${part}`;
  const topic = nestedTopicAround(root, found.path) ?? root;
  const id = topic.attributes['id'];
  return id === undefined ? `#${part}` : `#${id}/${part}`;
}

/** Images have no text of their own that could say for what they stand in: a map does. */
const imageAlternatesFile = 'image-alternates.ditamap';
function imageAlternates(
  assets: readonly PackagedAsset[],
  hrefOf: (id: string) => string,
): Element {
  const entries = assets.map(({ id, name, alternateOf, conditions = {} }) =>
    element(
      'topicref',
      {
        href: hrefOf(id),
        format: /[^.]*$/u.exec(name)![0],
        'processing-role': 'resource-only',
        ...conditions,
      },
      [
        element('topicmeta', {}, [
          element('data', { name: alternateMark, href: hrefOf(alternateOf!) }),
        ]),
      ],
    ),
  );
  return element('map', {}, [element('title', {}, ['Alternates of images']), ...entries]);
}

/** Where a lens stands in a package. */
export const lensPath = (id: string): string => `lenses/${id}.ditaval`;

function relativePath(from: string, to: string): string {
  const steps = from.split('/').slice(0, -1);
  const target = to.split('/');
  while (steps.length > 0 && steps[0] === target[0] && target.length > 1) {
    steps.shift();
    target.shift();
  }
  return [...steps.map(() => '..'), ...target].map(encodeURIComponent).join('/');
}
