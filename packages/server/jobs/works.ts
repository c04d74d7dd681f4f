import { mkdtemp, readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type {
  CopiesShared,
  CopySharing,
  ImportReport,
  ImpressionComparison,
  SourceOrder,
  VariableChange,
} from '@ukiyo/contracts';
import { comparePages, type PageText } from '@ukiyo/core/compose';
import type { Problem } from '@ukiyo/core/problems';
import { unpackZip } from '@ukiyo/intake';
import type { Services } from '../app/services.ts';
import type { RenamedValue } from '../work/renaming.ts';
import type { StandInOrder } from '../work/replacing.ts';
import { pagesFile } from './build.ts';
import { archiveInto } from './folders.ts';

/**
 * Reads a package and takes it into a project; a fault of the package itself takes nothing.
 * @param file in a folder of its own, which the caller removes, with all that is unpacked beside it
 */
async function importPackage(
  { packages }: Services,
  project: string,
  file: string,
  author: string,
): Promise<ImportReport | { readonly refused: Problem }> {
  const files = await unpackZip(file, await mkdtemp(join(dirname(file), 'unpacked-')));
  return 'code' in files ? { refused: files } : packages.take(project, files, author);
}

async function exportPackage({ packages }: Services, project: string, file: string): Promise<void> {
  await archiveInto(file, await packages.give(project));
}

/**
 * What differs between the pages of two impressions; undefined where those of one were not
 * recorded.
 */
async function compareImpressions(
  { impressionFolder }: Services,
  earlier: string,
  later: string,
): Promise<ImpressionComparison['pages'] | undefined> {
  const pagesOf = async (id: string): Promise<PageText[] | undefined> => {
    const text = await readFile(join(impressionFolder(id), pagesFile), 'utf8').catch(() => '');
    return text === '' ? undefined : (JSON.parse(text) as PageText[]);
  };
  const [before, after] = [await pagesOf(earlier), await pagesOf(later)];
  return before && after && comparePages(before, after);
}

/**
 * Everything that reads or changes many texts at once, or files of any size. The thread that
 * answers requests does none of it: it asks a clerk.
 */
export const works = {
  importPackage,
  exportPackage,
  compareImpressions,
  recount: ({ items }: Services, project: string) => items.recount(project),
  renameValue: (
    { renameValue }: Services,
    project: string,
    change: Parameters<Services['renameValue']>[1],
    author: string,
  ): Promise<RenamedValue | undefined> => renameValue(project, change, author),
  mergeCopies: (
    { mergeCopies }: Services,
    project: string,
    sharing: CopySharing,
    author: string,
  ): Promise<CopiesShared | undefined> => mergeCopies(project, sharing, author),
  replaceItem: (
    { replacing }: Services,
    project: string,
    { id, by }: { readonly id: string; readonly by: string },
    author: string,
  ) => replacing.replace(project, id, by, author),
  standIn: ({ replacing }: Services, project: string, order: StandInOrder, author: string) =>
    replacing.standIn(project, order, author),
  readAlternates: ({ alternates }: Services, project: string, id: string) =>
    alternates.read(project, id),
  readVariables: ({ variables }: Services, project: string) => variables.read(project),
  changeVariables: (
    { variables }: Services,
    project: string,
    order: { readonly set: string; readonly change: VariableChange },
    author: string,
  ) => variables.change(project, order.set, order.change, author),
  renameVariable: (
    { variables }: Services,
    project: string,
    names: { readonly from: string; readonly to: string },
    author: string,
  ) => variables.rename(project, names.from, names.to, author),
  readSource: (
    { sources }: Services,
    project: string,
    order: { readonly folder: string; readonly order: SourceOrder },
    author: string,
  ) => sources.read(project, order.folder, author, order.order),
  lookAtSource: ({ sources }: Services, project: string, folder: string) =>
    sources.look(project, folder),
} as const;

export type Works = typeof works;
