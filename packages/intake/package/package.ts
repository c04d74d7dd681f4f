import {
  conditionsOf,
  isSubjectScheme,
  readDitaval,
  readSubjectScheme,
  withFlagImages,
  type Facet,
  type Lens,
} from '@ukiyo/core/facets';
import {
  generalise,
  isMap,
  keepingSurroundings,
  profilingAttributes,
  writeCanonical,
} from '@ukiyo/core/grammar';
import {
  alternateMark,
  readReference,
  referenceAttributesOf,
  rewriteReferences,
} from '@ukiyo/core/library';
import {
  childElements,
  findAll,
  readXml,
  walk,
  type Attributes,
  type Element,
} from '@ukiyo/core/markup';
import { attachmentTypeOf } from '@ukiyo/core/media';
import { problem, type Problem } from '@ukiyo/core/problems';
import { decodeXml } from './decode.ts';
import type { PackageFiles } from './files.ts';
import { isWhatItSays, mediaTypeOf } from './media.ts';

export interface ImportedItem {
  readonly id: string;
  readonly kind: 'topic' | 'map';
  /** Without slashes at either end; empty for the top. */
  readonly folder: string;
  readonly name: string;
  readonly text: string;
}

/**
 * `bytes` are read when they are asked for: the images of a library need not be in memory together.
 */
export interface ImportedAsset {
  readonly id: string;
  readonly folder: string;
  readonly name: string;
  readonly mediaType: string;
  readonly bytes: Uint8Array;
  /** The image for which it stands in, and for whom. */
  readonly alternateOf?: string;
  readonly conditions?: Attributes;
}

export interface PackageContent {
  readonly items: readonly ImportedItem[];
  readonly assets: readonly ImportedAsset[];
  readonly lenses: readonly (Lens & { readonly id: string })[];
  /** What subject-scheme maps bind, in the order of their files. */
  readonly facets: readonly Facet[];
  /**
   * What is published and how it looks, as `publishing.json` says it; empty where there is none.
   */
  readonly publishing: string;
  /** Ids of topics, maps and lenses by their paths. */
  readonly ids: ReadonlyMap<string, string>;
  readonly problems: readonly Problem[];
}

class PackagedAsset implements ImportedAsset {
  readonly folder: string;
  readonly name: string;
  alternateOf?: string;
  conditions?: Attributes;
  readonly #read: () => Uint8Array;
  constructor(
    readonly id: string,
    path: string,
    readonly mediaType: string,
    files: PackageFiles,
  ) {
    ({ folder: this.folder, name: this.name } = split(path));
    this.#read = () => files.get(path)!;
  }
  get bytes(): Uint8Array {
    return this.#read();
  }
}

interface Parsed {
  readonly path: string;
  readonly id: string;
  readonly kind: 'topic' | 'map';
  readonly root?: Element;
  /** Of a file that cannot be read. */
  readonly text?: string;
}

/** The list of facets in a package that a library gives out. */
const facetsFile = 'facets.ditamap';

/** Beside the DITA of a package: its editions, with their designs. */
export const publishingFile = 'publishing.json';

const xmlEndings = /\.(dita|ditamap|bookmap|xml|ditaval)$/iu;

function generalised(one: Parsed, props: readonly string[]): Parsed {
  if (!one.root) return one;
  const root = generalise(one.root, props);
  return { ...one, root, kind: isMap(root.name) ? 'map' : 'topic' };
}

/** What the files of a package are, each by itself: the first pass. */
class Sorting {
  readonly problems: Problem[] = [];
  readonly parsed: readonly Parsed[];
  readonly #read: Parsed[] = [];
  readonly assets: PackagedAsset[] = [];
  readonly lenses: (Lens & { id: string })[] = [];
  readonly lensPaths = new Map<string, string>();
  readonly facets: Facet[] = [];
  publishing = '';
  readonly ids = new Map<string, string>();
  readonly #attachable: string[] = [];
  readonly #files: PackageFiles;
  readonly #used: Set<string>;
  /**
   * The next number to try, by what was wanted: of thousands that are called alike each is named at
   * once.
   */
  readonly #next = new Map<string, number>();
  /** Schemes that others extend, by their paths. */
  readonly #schemes = new Map<string, Element | undefined>();

  constructor(files: PackageFiles, taken: ReadonlySet<string>) {
    this.#files = files;
    this.#used = new Set(taken);
    for (const path of [...files.keys()].sort()) this.#take(path);
    this.#takeAttachments();
    const props = this.#specialisedProps();
    this.parsed = this.#read.map((one) => generalised(one, props));
  }

  #take(path: string): void {
    const mediaType = mediaTypeOf(path);
    if (!isSafePath(path))
      this.#tell('error', 'package.path', `“${path}” leads out of the package. It is left out.`);
    else if (xmlEndings.test(path)) this.#takeXml(path);
    else if (path === publishingFile)
      this.publishing = new TextDecoder().decode(this.#files.get(path));
    else if (mediaType !== undefined) {
      const id = this.#claim(slug(stem(path)), path);
      this.assets.push(new PackagedAsset(id, path, mediaType, this.#files));
    } else if (attachmentTypeOf(path) !== undefined) this.#attachable.push(path);
    else this.#takeUnknown(path);
  }

  #takeUnknown(path: string): void {
    if (/(^|\/)(\.|readme|license)/iu.test(path)) return;
    const message = `“${path}” is no topic, map or image. It is left out.`;
    this.#tell('info', 'package.unknown-file', message);
  }

  /** Documents and files of code come along where something leads to them. */
  #takeAttachments(): void {
    if (this.#attachable.length === 0) return;
    const named = new Set<string>();
    for (const { path, root } of this.#read)
      if (root)
        walk(root, (element) => {
          for (const attribute of referenceAttributesOf(element)) {
            const value = element.attributes[attribute];
            if (value !== undefined) named.add(resolvePath(path, decodePath(value.split('#')[0]!)));
          }
        });
    for (const path of this.#attachable) {
      if (!named.has(path)) this.#takeUnknown(path);
      else if (!isWhatItSays(attachmentTypeOf(path)!, this.#files.get(path)!))
        this.#tell(
          'error',
          'package.file',
          `“${path}” is not what its ending says. It is left out.`,
        );
      else {
        const id = this.#claim(slug(stem(path)), path);
        this.assets.push(new PackagedAsset(id, path, attachmentTypeOf(path)!, this.#files));
      }
    }
  }

  /** Attributes by which filters and subject schemes of the package decide, beside the usual. */
  #specialisedProps(): readonly string[] {
    const named = [
      ...this.lenses.flatMap(({ rules }) => rules.flatMap(({ facet }) => facet ?? [])),
      ...this.facets.map(({ name }) => name),
    ];
    const known: readonly string[] = [...profilingAttributes, 'rev'];
    return named.filter((name) => !known.includes(name));
  }

  #takeXml(path: string): void {
    const { text, problems } = decodeXml(this.#files.get(path)!);
    this.#tellOf(path, problems);
    if (/\.ditaval$/iu.test(path)) return this.#takeLens(path, text);
    const { document, problems: found } = readXml(text);
    this.#tellOf(path, found);
    if (document && isSubjectScheme(document.root)) {
      this.#takeFacets(path, text);
      // The list of facets that a library gives out is read again whole.
      if (path === facetsFile) return;
    }
    const root = document && keepingSurroundings(document);
    const wanted = root?.attributes['id'];
    const isName = wanted !== undefined && /^[\p{L}_][\p{L}\p{N}._-]{0,149}$/u.test(wanted);
    const id = this.#claim(isName ? wanted : slug(stem(path)), path);
    const kind = /map$/iu.test(path) ? 'map' : 'topic';
    this.#read.push(root ? { path, id, kind, root } : { path, id, kind, text });
  }

  #takeLens(path: string, text: string): void {
    const { lens, problems } = readDitaval(stem(path), text);
    this.#tellOf(path, problems);
    if (!lens) return;
    const id = this.#claim(slug(stem(path)), path);
    this.lenses.push({ ...lens, id });
    this.lensPaths.set(id, path);
  }

  #takeFacets(path: string, text: string): void {
    const { facets, problems } = readSubjectScheme(text, (href) =>
      this.#schemeAt(resolvePath(path, decodePath(href.split('#')[0]!))),
    );
    this.#tellOf(path, problems);
    const known = new Set(this.facets.map(({ name }) => name));
    this.facets.push(...facets.filter(({ name }) => !known.has(name)));
  }

  #schemeAt(path: string): Element | undefined {
    const file = this.#files.get(path);
    if (file && !this.#schemes.has(path))
      this.#schemes.set(path, readXml(decodeXml(file).text).document?.root);
    return this.#schemes.get(path);
  }

  #claim(wanted: string, path: string): string {
    let id = wanted;
    let count = this.#next.get(wanted) ?? 2;
    for (; this.#used.has(id); count += 1) id = `${wanted}-${count}`;
    this.#next.set(wanted, count);
    this.#used.add(id);
    this.ids.set(path, id);
    return id;
  }

  #tell(severity: Problem['severity'], code: string, message: string): void {
    this.problems.push(problem(severity, code, message));
  }

  #tellOf(path: string, found: readonly Problem[]): void {
    this.problems.push(...found.map((one) => ({ ...one, message: `${path}: ${one.message}` })));
  }
}

/** What a reference in a file leads to, as an address of the library. */
type Address = (from: string, value: string) => string;

/** References between files become addresses; others stay as they are. */
function addressing({ ids, parsed, assets }: Sorting): Address {
  const byPath = new Map(parsed.map((one) => [one.path, one]));
  const assetPaths = new Set(
    assets.map(({ folder, name }) => (folder === '' ? name : `${folder}/${name}`)),
  );
  return (from, value) => {
    if (value.startsWith('#') || /^[a-z][a-z0-9+.-]*:/iu.test(value)) return value;
    const [file = '', fragment] = value.split('#');
    const path = resolvePath(from, decodePath(file));
    const id = ids.get(path);
    if (id === undefined) return value;
    if (assetPaths.has(path))
      return fragment === undefined ? `asset:${id}` : `asset:${id}#${fragment}`;
    if (/\.ditaval$/iu.test(path)) return `lens:${id}`;
    const target = byPath.get(path);
    return target ? `${target.kind}:${id}${partOf(fragment, target.root)}` : value;
  };
}

/**
 * What an address says after the id of its file, for a fragment `topic/element` or `topic` (DITA
 * 1.3, 2.4.1.2 “URI-based addressing”). The first topic of a file is not named: it is the file.
 */
function partOf(fragment: string | undefined, root: Element | undefined): string {
  const [topic = '', element] = (fragment ?? '').split('/');
  const isFirst = topic === '' || topic === '.' || topic === root?.attributes['id'];
  if (element === undefined) return isFirst ? '' : `/${topic}`;
  return isFirst ? `/${element}` : `/${topic}/${element}`;
}

interface StandIn {
  readonly image: string;
  readonly base: string;
  readonly conditions: Attributes;
}

/**
 * A map that says nothing but which images stand in for which: it is kept with the images.
 * @returns nothing for any other file
 */
function standInsOf({ path, root, kind }: Parsed, address: Address): readonly StandIn[] {
  if (kind !== 'map' || !root) return [];
  const entries = childElements(root).filter(({ name }) => name === 'topicref');
  const found = entries.flatMap((entry): StandIn[] => {
    const mark = findAll(
      entry,
      ({ name, attributes }) => name === 'data' && attributes['name'] === alternateMark,
    )[0];
    const [image, base] = [entry, mark].map((one) =>
      readReference(address(path, one?.attributes['href'] ?? ''), ''),
    );
    return image?.kind === 'asset' && base?.kind === 'asset'
      ? [{ image: image.id, base: base.id, conditions: conditionsOf(entry) }]
      : [];
  });
  return found.length < entries.length ? [] : found;
}

/**
 * Reads a package of standard DITA files (OASIS DITA 1.3). References between its files become
 * addresses; folders, file names and, where they are free, ids are kept. A file that cannot be read
 * is kept as it is and reported. Problems: `package.path`, `package.unknown-file`, `xml.*`,
 * `ditaval.*`
 * @param files by path with forward slashes
 * @param taken ids already in the library that the package must not use
 */
export function readPackage(
  files: PackageFiles,
  taken: ReadonlySet<string> = new Set(),
): PackageContent {
  const sorted = new Sorting(files, taken);
  const address = addressing(sorted);
  const standIns = new Map<string, StandIn>();
  const items: ImportedItem[] = [];
  for (const one of sorted.parsed) {
    const found = standInsOf(one, address);
    for (const standIn of found) standIns.set(standIn.image, standIn);
    if (found.length > 0) continue;
    const { path, id, kind, root, text = '' } = one;
    const rewritten = root && rewriteReferences(root, (value) => address(path, value));
    items.push({ id, kind, ...split(path), text: rewritten ? writeCanonical(rewritten) : text });
  }
  for (const asset of sorted.assets) {
    const standIn = standIns.get(asset.id);
    if (!standIn) continue;
    asset.alternateOf = standIn.base;
    asset.conditions = standIn.conditions;
  }
  const { assets, facets, publishing, ids, problems } = sorted;
  const lenses = sorted.lenses.map((lens) => {
    const path = sorted.lensPaths.get(lens.id)!;
    return withFlagImages(lens, (image) => {
      const found = address(path, image);
      if (found.startsWith('asset:')) return found;
      const message = `${path}: the image “${image}” is not in the package. It is left out.`;
      problems.push(problem('warning', 'ditaval.unknown-look', message));
      return undefined;
    });
  });
  return { items, assets, lenses, facets, publishing, ids, problems };
}

function isSafePath(path: string): boolean {
  return !path.startsWith('/') && !/^[a-z]:|\\|\0/iu.test(path) && !path.split('/').includes('..');
}

function decodePath(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}

function resolvePath(from: string, relative: string): string {
  const steps = from.split('/').slice(0, -1);
  for (const step of relative.split('/')) {
    if (step === '..') steps.pop();
    else if (step !== '.' && step !== '') steps.push(step);
  }
  return steps.join('/');
}

function split(path: string): { folder: string; name: string } {
  const slash = path.lastIndexOf('/');
  return { folder: path.slice(0, Math.max(0, slash)), name: path.slice(slash + 1) };
}

const stem = (path: string): string => split(path).name.replace(/\.[^.]+$/u, '');

/** Characters of an id that is made of a file name. */
const longestId = 150;

function slug(text: string): string {
  const plain = text
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .replace(/^[-.]+|[-.]+$/gu, '')
    .slice(0, longestId);
  return /^[\p{L}_]/u.test(plain) ? plain : `x-${plain}`;
}
