import {
  conditionsOf,
  isSubjectScheme,
  readDitaval,
  readSubjectScheme,
  type Facet,
  type Lens,
} from '@ukiyo/core/facets';
import { isMap, writeCanonical } from '@ukiyo/core/grammar';
import { alternateMark, readReference, rewriteReferences } from '@ukiyo/core/library';
import { childElements, findAll, readXml, type Attributes, type Element } from '@ukiyo/core/markup';
import { problem, type Problem } from '@ukiyo/core/problems';
import { decodeXml } from './decode.ts';
import type { PackageFiles } from './files.ts';
import { mediaTypeOf } from './media.ts';

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

/** Beside the DITA of a package: its editions, with what they wear. */
export const publishingFile = 'publishing.json';

const xmlEndings = /\.(dita|ditamap|bookmap|xml|ditaval)$/iu;

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
  const problems: Problem[] = [];
  const used = new Set(taken);
  /**
   * The next number to try, by what was wanted: of thousands that are called alike each is named at
   * once.
   */
  const next = new Map<string, number>();
  const idByPath = new Map<string, string>();
  const parsed: Parsed[] = [];
  const assets: PackagedAsset[] = [];
  const lenses: (Lens & { id: string })[] = [];
  const facets: Facet[] = [];
  let publishing = '';
  const claim = (wanted: string, path: string): string => {
    let id = wanted;
    let count = next.get(wanted) ?? 2;
    for (; used.has(id); count += 1) id = `${wanted}-${count}`;
    next.set(wanted, count);
    used.add(id);
    idByPath.set(path, id);
    return id;
  };
  const named = (path: string, found: readonly Problem[]): void =>
    void problems.push(...found.map((one) => ({ ...one, message: `${path}: ${one.message}` })));

  for (const path of [...files.keys()].sort()) {
    if (!isSafePath(path)) {
      problems.push(
        problem('error', 'package.path', `“${path}” leads out of the package. It is left out.`),
      );
      continue;
    }
    if (xmlEndings.test(path)) {
      const { text, problems: encoding } = decodeXml(files.get(path)!);
      named(path, encoding);
      if (/\.ditaval$/iu.test(path)) {
        const { lens, problems: found } = readDitaval(stem(path), text);
        named(path, found);
        if (lens) lenses.push({ ...lens, id: claim(slug(stem(path)), path) });
        continue;
      }
      const { document, problems: found } = readXml(text);
      named(path, found);
      const root = document?.root;
      if (root && isSubjectScheme(root)) {
        const scheme = readSubjectScheme(text);
        named(path, scheme.problems);
        facets.push(
          ...scheme.facets.filter(({ name }) => !facets.some((facet) => facet.name === name)),
        );
        continue;
      }
      const wanted = root?.attributes['id'];
      const id = claim(
        wanted !== undefined && /^[\p{L}_][\p{L}\p{N}._-]{0,149}$/u.test(wanted)
          ? wanted
          : slug(stem(path)),
        path,
      );
      const kind = root
        ? isMap(root.name)
          ? 'map'
          : 'topic'
        : /map$/iu.test(path)
          ? 'map'
          : 'topic';
      parsed.push(root ? { path, id, kind, root } : { path, id, kind, text });
      continue;
    }
    if (path === publishingFile) {
      publishing = new TextDecoder().decode(files.get(path));
      continue;
    }
    const mediaType = mediaTypeOf(path);
    if (mediaType === undefined) {
      if (!/(^|\/)(\.|readme|license)/iu.test(path))
        problems.push(
          problem(
            'info',
            'package.unknown-file',
            `“${path}” is no topic, map or image. It is left out.`,
          ),
        );
      continue;
    }
    assets.push(new PackagedAsset(claim(slug(stem(path)), path), path, mediaType, files));
  }

  const byPath = new Map(parsed.map((one) => [one.path, one]));
  const assetPaths = new Set(
    assets.map(({ folder, name }) => (folder === '' ? name : `${folder}/${name}`)),
  );
  const address = (from: string, value: string): string => {
    if (value.startsWith('#') || /^[a-z][a-z0-9+.-]*:/iu.test(value)) return value;
    const [file = '', fragment] = value.split('#');
    const path = resolvePath(from, decodePath(file));
    const id = idByPath.get(path);
    if (id === undefined) return value;
    if (assetPaths.has(path)) return `asset:${id}`;
    if (/\.ditaval$/iu.test(path)) return `lens:${id}`;
    const target = byPath.get(path);
    const element = fragment?.split('/').at(-1);
    const part =
      element === undefined || element === '' || element === target?.root?.attributes['id']
        ? ''
        : `/${element}`;
    return target ? `${target.kind}:${id}${part}` : value;
  };
  const standIns = new Map<string, Pick<ImportedAsset, 'alternateOf' | 'conditions'>>();
  /** A map that says nothing but which images stand in for which: it is kept with the images. */
  const isOfImages = ({ path, root, kind }: Parsed): boolean => {
    const entries =
      kind === 'map' && root ? childElements(root).filter(({ name }) => name === 'topicref') : [];
    const found = entries.flatMap((entry) => {
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
    if (entries.length === 0 || found.length < entries.length) return false;
    for (const { image, base, conditions } of found)
      standIns.set(image, { alternateOf: base, conditions });
    return true;
  };
  const texts = parsed.filter((one) => !isOfImages(one));
  const items = texts.map(({ path, id, kind, root, text }): ImportedItem => ({
    id,
    kind,
    ...split(path),
    text: root
      ? writeCanonical(rewriteReferences(root, (value) => address(path, value)))
      : (text ?? ''),
  }));
  return {
    items,
    assets: assets.map((asset) => Object.assign(asset, standIns.get(asset.id))),
    lenses,
    facets,
    publishing,
    ids: idByPath,
    problems,
  };
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
