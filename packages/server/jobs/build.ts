import { readFileSync } from 'node:fs';
import { mkdir, readdir, rm, writeFile } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { outputs, type Edition, type Progress } from '@ukiyo/contracts';
import {
  allPlaces,
  pageTexts,
  wordsIn,
  type PageText,
  type Publication,
} from '@ukiyo/core/compose';
import { bySeverity, problem, type Problem } from '@ukiyo/core/problems';
import { bundleIndex } from '@ukiyo/press';
import type { ImpressionRow } from '../data/models.ts';
import { composeInputs, type Workplace } from './composing.ts';
import { recordInputs, type Inputs } from './inputs.ts';
import { folderInto } from './folders.ts';
import { renderers, type Rendered, type PublicationOutput } from './rendering.ts';

export interface BuildOutcome {
  readonly problems: readonly Problem[];
  readonly figures: ImpressionRow['figures'];
  readonly inputs: Record<string, number>;
  readonly fingerprint: string;
  /** False when there is nothing to open. */
  readonly hasFiles: boolean;
}

/** In the folder of an impression. */
export const inputsFile = 'inputs.json.gz';
export const pagesFile = 'pages.json';

/** What was made, with what was found out about it. */
interface Built extends Rendered {
  readonly texts: readonly PageText[];
  readonly topics: number;
  readonly words: number;
}

/** One build: its inputs, its folder, and the callback for progress. */
export interface Build extends Workplace {
  readonly inputs: Inputs;
  readonly folder: string;
  readonly onProgress: (progress: Progress) => void;
}

/**
 * Builds one edition into a folder: the files of its output, as `outputs` of contracts names them;
 * what went in and what stands on its pages are kept there too. Bad content is left out and
 * reported; the rest is built.
 */
export async function buildEdition(build: Build): Promise<BuildOutcome> {
  const started = performance.now();
  const { inputs, folder, onProgress } = build;
  const { output } = inputs.edition;
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const built = await (output === 'bundle' ? buildBundle(build) : buildOne(build, output));
  onProgress({ step: 'Keeping what went in', done: 0, total: 0 });
  await recordInputs(join(folder, inputsFile), inputs);
  await writeFile(join(folder, pagesFile), JSON.stringify(built.texts));
  const { pages, topics, words, bytes, fingerprint } = built;
  return {
    problems: bySeverity(built.problems),
    figures: { pages, topics, words, bytes, milliseconds: Math.round(performance.now() - started) },
    inputs: Object.fromEntries(inputs.texts.map(({ id, version }) => [id, version])),
    fingerprint,
    hasFiles: bytes > 0,
  };
}

/** Nothing is for the readers of the edition: there are no files, and one problem says why. */
function emptyBuild({ edition }: Inputs, { problems }: Publication): Built {
  const empty = problem(
    'error',
    'build.empty',
    'There is nothing to publish: nothing in the map is for the readers of this edition.',
    { item: edition.map },
  );
  const isSaid = problems.some(({ severity }) => severity === 'error');
  return {
    bytes: 0,
    pages: 0,
    fingerprint: '',
    problems: isSaid ? problems : [...problems, empty],
    texts: [],
    topics: 0,
    words: 0,
  };
}

async function buildOne(build: Build, output: PublicationOutput): Promise<Built> {
  const { inputs, onProgress } = build;
  onProgress({ step: 'Composing', done: 0, total: inputs.texts.length });
  const composed = await composeInputs(inputs, build);
  const { publication } = composed;
  if (publication.places.length === 0) return emptyBuild(inputs, publication);
  const made = await renderers[output]({ ...build, composed });
  await nameWhatWasBuilt(build, publication, composed.texts);
  const texts = pageTexts(publication);
  const topics = Object.values(publication.targets).filter(({ kind }) => kind === 'topic').length;
  return {
    ...made,
    problems: [...publication.problems, ...made.problems],
    texts,
    topics,
    words: wordsIn(texts, publication.locale),
  };
}

/** A name that is safe for files, of what a person typed. */
const fileNameOf = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/gu, '')
    .slice(0, 80) || 'edition';

/** An edition in a bundle, with its files by their paths in it; none where nothing was made. */
interface BundlePart {
  readonly edition: Edition;
  readonly built: Built;
  /** Where each file is on the disk now. */
  readonly files: ReadonlyMap<string, string>;
  /** What is opened first. */
  readonly opens: string;
}

/** Builds one of the editions that a bundle holds. */
async function buildPart(
  build: Build,
  edition: Edition,
  output: PublicationOutput,
  taken: ReadonlySet<string>,
): Promise<BundlePart> {
  const { folder, inputs } = build;
  await mkdir(folder, { recursive: true });
  const built = await buildOne({ ...build, inputs: { ...inputs, edition } }, output);
  let name = fileNameOf(edition.name);
  for (let count = 2; taken.has(name); count += 1) name = `${fileNameOf(edition.name)}-${count}`;
  const { file, opens } = outputs[output];
  const single = `${name}${extname(file)}`;
  if (built.bytes === 0) return { edition, built, files: new Map(), opens: '' };
  if (opens === file)
    return { edition, built, files: new Map([[single, join(folder, file)]]), opens: single };
  const paths = await filesBelow(join(folder, output));
  return {
    edition,
    built,
    files: new Map(paths.map((path) => [`${name}/${path}`, join(folder, output, path)])),
    opens: `${name}/${opens.split('/').slice(1).join('/')}`,
  };
}

/** Builds each edition of a bundle in its own folder. */
async function buildParts(build: Build, held: readonly Edition[]): Promise<BundlePart[]> {
  const parts: BundlePart[] = [];
  for (const [at, edition] of held.entries()) {
    // A bundle in a bundle would have no end.
    if (edition.output === 'bundle') continue;
    const which = `${edition.name} (${at + 1} of ${held.length})`;
    const part = {
      ...build,
      folder: join(build.folder, 'parts', String(at)),
      onProgress: (progress: Progress): void =>
        build.onProgress({ ...progress, step: `${which}: ${progress.step}` }),
    };
    const taken = parts.flatMap(({ files }) => [...files.keys()].map((path) => topOf(path)));
    parts.push(await buildPart(part, edition, edition.output, new Set(taken)));
  }
  return parts;
}
const topOf = (path: string): string => path.split(/[/.]/u)[0]!;

/** What the parts of a bundle come to together; each problem and page says of which it is. */
function sumOf(
  parts: readonly BundlePart[],
): Pick<Built, 'pages' | 'topics' | 'words' | 'problems' | 'texts'> {
  const sum = (figure: 'pages' | 'topics' | 'words'): number =>
    parts.reduce((total, { built }) => total + built[figure], 0);
  return {
    pages: sum('pages'),
    topics: sum('topics'),
    words: sum('words'),
    problems: parts.flatMap(({ edition: { name }, built }) =>
      built.problems.map((one) => ({ ...one, message: `${name}: ${one.message}` })),
    ),
    texts: parts.flatMap(({ edition: { name }, built }) =>
      built.texts.map(({ anchor, title, blocks }) => ({
        anchor: `${name}/${anchor}`,
        title: `${name}: ${title}`,
        blocks,
      })),
    ),
  };
}

/** Several editions in one archive, each under its name, with a page that leads to them. */
async function buildBundle(build: Build): Promise<Built> {
  const { inputs, folder, onProgress } = build;
  const { edition, editions } = inputs;
  const held = edition.holds.flatMap((id) => editions.find((one) => one.id === id) ?? []);
  const parts = await buildParts(build, held);
  const files = parts.flatMap((part) => [...part.files]);
  onProgress({ step: 'Putting them together', done: 0, total: files.length });
  function* contents(): Generator<readonly [string, string | Uint8Array]> {
    const entries = parts
      .filter((part) => part.files.size > 0)
      .map((part) => ({
        label: part.edition.name,
        detail: outputs[part.edition.output].label,
        href: part.opens,
      }));
    yield ['index.html', bundleIndex(edition.facts.title ?? edition.name, entries, edition.locale)];
    // One after the other: together they need not have room in memory.
    for (const [path, file] of files) yield [path, readFileSync(file)];
  }
  const whole =
    files.length === 0
      ? { bytes: 0, fingerprint: '' }
      : await folderInto(folder, 'bundle', contents());
  await rm(join(folder, 'parts'), { recursive: true, force: true });
  const missing = problem(
    'error',
    'bundle.missing',
    'An edition that it holds is not there any more. It is left out.',
  );
  const sum = sumOf(parts);
  return {
    ...whole,
    ...sum,
    problems: held.length < edition.holds.length ? [missing, ...sum.problems] : sum.problems,
  };
}

async function filesBelow(folder: string): Promise<string[]> {
  const found = await readdir(folder, { recursive: true, withFileTypes: true });
  return found
    .filter((entry) => entry.isFile())
    .map(({ parentPath, name }) => join(parentPath, name).slice(folder.length + 1))
    .sort();
}

/**
 * What went out can be found again: the texts of its map and topics, as they were, carry its name.
 */
async function nameWhatWasBuilt(
  { services, project, inputs: { edition } }: Build,
  publication: Publication,
  texts: readonly { readonly id: string; readonly version: number }[],
): Promise<void> {
  const used = new Set([
    edition.map,
    ...allPlaces(publication.places).map(({ origin }) => origin.item),
  ]);
  const versions = Object.fromEntries(
    texts.filter(({ id }) => used.has(id)).map(({ id, version }) => [id, version]),
  );
  await services.items.nameRevisions(project, versions, `Built into “${edition.name}”`);
}
