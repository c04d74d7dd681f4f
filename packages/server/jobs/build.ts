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
import type { Services } from '../app/services.ts';
import type { ImpressionRow } from '../data/models.ts';
import { composeInputs, type BuildCache } from './composing.ts';
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

/**
 * Builds one edition into a folder: the files of its output, as `outputs` of contracts names them;
 * what went in and what stands on its pages are kept there too. Bad content is left out and
 * reported; the rest is built.
 */
export async function buildEdition(
  services: Services,
  project: string,
  inputs: Inputs,
  folder: string,
  cache: BuildCache,
  onProgress: (progress: Progress) => void,
): Promise<BuildOutcome> {
  const started = performance.now();
  const { edition, texts } = inputs;
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const built = await (edition.output === 'bundle'
    ? buildBundle(services, project, inputs, folder, cache, onProgress)
    : buildOne(services, project, inputs, edition.output, folder, cache, onProgress));
  onProgress({ step: 'Keeping what went in', done: 0, total: 0 });
  await recordInputs(join(folder, inputsFile), inputs);
  await writeFile(join(folder, pagesFile), JSON.stringify(built.texts));
  const { pages, topics, words, bytes, fingerprint } = built;
  return {
    problems: bySeverity(built.problems),
    figures: { pages, topics, words, bytes, milliseconds: Math.round(performance.now() - started) },
    inputs: Object.fromEntries(texts.map(({ id, version }) => [id, version])),
    fingerprint,
    hasFiles: bytes > 0,
  };
}

async function buildOne(
  services: Services,
  project: string,
  inputs: Inputs,
  output: PublicationOutput,
  folder: string,
  cache: BuildCache,
  onProgress: (progress: Progress) => void,
): Promise<Built> {
  onProgress({ step: 'Composing', done: 0, total: inputs.texts.length });
  const composed = await composeInputs(inputs, project, cache);
  const { publication } = composed;
  if (publication.places.length === 0) {
    const empty = problem(
      'error',
      'build.empty',
      'There is nothing to publish: nothing in the map is for the readers of this edition.',
      { item: inputs.edition.map },
    );
    const isSaid = publication.problems.some(({ severity }) => severity === 'error');
    return {
      bytes: 0,
      pages: 0,
      fingerprint: '',
      problems: isSaid ? publication.problems : [...publication.problems, empty],
      texts: [],
      topics: 0,
      words: 0,
    };
  }
  const made = await renderers[output]({
    services,
    project,
    inputs,
    composed,
    folder,
    cache,
    onProgress,
  });
  await nameWhatWasBuilt(services, project, inputs.edition, publication, composed.texts);
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

/** Several editions in one archive, each under its name, with a page that leads to them. */
async function buildBundle(
  services: Services,
  project: string,
  inputs: Inputs,
  folder: string,
  cache: BuildCache,
  onProgress: (progress: Progress) => void,
): Promise<Built> {
  const { edition } = inputs;
  const held = edition.holds.flatMap((id) => inputs.editions.find((one) => one.id === id) ?? []);
  const problems: Problem[] =
    held.length < edition.holds.length
      ? [
          problem(
            'error',
            'bundle.missing',
            'An edition that it holds is not there any more. It is left out.',
          ),
        ]
      : [];
  const parts: { name: string; built: Built }[] = [];
  const files = new Map<string, string>();
  const entries: { label: string; detail: string; href: string }[] = [];
  const inside = join(folder, 'parts');
  for (const [at, part] of held.entries()) {
    // A bundle in a bundle would have no end.
    if (part.output === 'bundle') continue;
    const say = (progress: Progress): void =>
      onProgress({
        ...progress,
        step: `${part.name} (${at + 1} of ${held.length}): ${progress.step}`,
      });
    const own = join(inside, String(at));
    await mkdir(own, { recursive: true });
    const built = await buildOne(
      services,
      project,
      { ...inputs, edition: part },
      part.output,
      own,
      cache,
      say,
    );
    parts.push({ name: part.name, built });
    if (built.bytes === 0) continue;
    const taken = new Set([...files.keys()].map((path) => path.split(/[/.]/u)[0]!));
    let name = fileNameOf(part.name);
    for (let count = 2; taken.has(name); count += 1) name = `${fileNameOf(part.name)}-${count}`;
    const { label, file, opens } = outputs[part.output];
    const hasFolder = opens !== file;
    for (const path of hasFolder ? await filesBelow(join(own, part.output)) : [''])
      files.set(
        hasFolder ? `${name}/${path}` : `${name}${extname(file)}`,
        hasFolder ? join(own, part.output, path) : join(own, file),
      );
    entries.push({
      label: part.name,
      detail: label,
      href: hasFolder
        ? `${name}/${opens.split('/').slice(1).join('/')}`
        : `${name}${extname(file)}`,
    });
  }
  onProgress({ step: 'Putting them together', done: 0, total: files.size });
  function* contents(): Generator<readonly [string, string | Uint8Array]> {
    yield ['index.html', bundleIndex(edition.facts.title ?? edition.name, entries, edition.locale)];
    // One after the other: together they need not have room in memory.
    for (const [path, file] of files) yield [path, readFileSync(file)];
  }
  const whole =
    files.size === 0
      ? { bytes: 0, fingerprint: '' }
      : await folderInto(folder, 'bundle', contents());
  await rm(inside, { recursive: true, force: true });
  const sum = (figure: 'pages' | 'topics' | 'words'): number =>
    parts.reduce((total, { built }) => total + built[figure], 0);
  return {
    ...whole,
    pages: sum('pages'),
    topics: sum('topics'),
    words: sum('words'),
    problems: [
      ...problems,
      ...parts.flatMap(({ name, built }) =>
        built.problems.map((one) => ({ ...one, message: `${name}: ${one.message}` })),
      ),
    ],
    texts: parts.flatMap(({ name, built }) =>
      built.texts.map(({ anchor, title, blocks }) => ({
        anchor: `${name}/${anchor}`,
        title: `${name}: ${title}`,
        blocks,
      })),
    ),
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
  services: Services,
  project: string,
  edition: Edition,
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
