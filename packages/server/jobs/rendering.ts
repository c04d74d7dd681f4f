import type { Edition, Output, Progress } from '@ukiyo/contracts';
import { problemKey, type Problem } from '@ukiyo/core/problems';
import {
  createPrintEngine,
  editionPackage,
  epub,
  languagesPage,
  languagesScript,
  markdownFiles,
  onePage,
  packagePath,
  printPublication,
  siteAddress,
  siteFiles,
  type SiteOptions,
  type SiteResult,
} from '@ukiyo/press';
import { publishingFile } from '@ukiyo/intake';
import { imagesIn, writePublishing } from '../work/packaged.ts';
import { assetsOf, composeInputs, type Workplace } from './composing.ts';
import { fileInto, folderInto, type KeptFolder, type WrittenFolder } from './folders.ts';
import type { Inputs } from './inputs.ts';

/** What one maker left in its folder. */
export interface Rendered extends WrittenFolder {
  readonly pages: number;
  readonly problems: readonly Problem[];
}

type Composed = Awaited<ReturnType<typeof composeInputs>>;
/** All outputs that are made of one publication. */
export type PublicationOutput = Exclude<Output, 'bundle'>;

interface Order extends Workplace {
  readonly inputs: Inputs;
  readonly composed: Composed;
  readonly folder: string;
  readonly onProgress: (progress: Progress) => void;
}

/** One maker an output: a publication into a folder. Bad content is left out and reported. */
export const renderers: Readonly<Record<PublicationOutput, (order: Order) => Promise<Rendered>>> = {
  async print({ services, composed: { publication, design, rows }, folder, cache, onProgress }) {
    onProgress({ step: 'Setting pages', done: 0, total: 0 });
    cache.engine ??= createPrintEngine();
    const { pdf, pageCount, problems } = await printPublication(
      publication,
      assetsOf(services, rows),
      cache.engine,
      design,
    );
    return {
      ...(pdf ? await fileInto(folder, 'print', pdf) : { bytes: 0, fingerprint: '' }),
      pages: pageCount,
      problems,
    };
  },
  async site(order) {
    const { services, composed, folder, inputs } = order;
    const { edition } = inputs;
    if (edition.locales.length === 0) {
      const site = siteFiles(
        composed.publication,
        assetsOf(services, composed.rows),
        siteOptionsOf(order),
      );
      return {
        ...(await folderInto(folder, 'site', site.files, keptOf(order))),
        pages: site.pageCount,
        problems: site.problems,
      };
    }
    const further = edition.locales.filter(
      (locale, at, all) => locale !== edition.locale && all.indexOf(locale) === at,
    );
    const sites: SiteInLanguage[] = [{ locale: edition.locale, composed }];
    for (const locale of further)
      sites.push({
        locale,
        composed: await composeInputs({ ...inputs, edition: { ...edition, locale } }, order),
      });
    const made = sites.map((one) => ({
      locale: one.locale,
      site: siteFiles(
        one.composed.publication,
        assetsOf(services, composed.rows),
        inLanguage(one, sites, order),
      ),
    }));
    const written = await folderInto(folder, 'site', filesOf(made, edition), keptOf(order));
    // What is wrong in all languages is said once, as that of the first.
    const known = new Set(sites[0]!.composed.publication.problems.map(problemKey));
    const ofOthers = sites
      .slice(1)
      .flatMap(({ locale, composed: { publication } }) =>
        publication.problems
          .filter((one) => !known.has(problemKey(one)))
          .map((one) => ({ ...one, message: `${locale}: ${one.message}` })),
      );
    return {
      ...written,
      pages: made.reduce((sum, { site }) => sum + site.pageCount, 0),
      problems: [...ofOthers, ...made.flatMap(({ site }) => site.problems)],
    };
  },
  async page(order) {
    const { services, composed, folder } = order;
    const { html, problems } = onePage(
      composed.publication,
      assetsOf(services, composed.rows),
      siteOptionsOf(order),
    );
    return { ...(await fileInto(folder, 'page', html)), pages: 1, problems };
  },
  async epub(order) {
    const { services, composed, folder, inputs } = order;
    const { bytes, pageCount, problems } = epub(
      composed.publication,
      assetsOf(services, composed.rows),
      { ...siteOptionsOf(order), id: inputs.edition.id },
    );
    return { ...(await fileInto(folder, 'epub', bytes)), pages: pageCount, problems };
  },
  async markdown(order) {
    const { services, composed, folder, inputs } = order;
    const { publication, rows } = composed;
    const { files, pageCount, problems } = markdownFiles(
      publication,
      assetsOf(services, rows),
      inputs.edition,
    );
    return {
      ...(await folderInto(folder, 'markdown', files, keptOf(order))),
      pages: pageCount,
      problems,
    };
  },
  async dita(order) {
    const { services, composed, folder, inputs } = order;
    const { library, rows, texts } = composed;
    const { edition, facets } = inputs;
    const { sheets, plans, looks } = inputs.designs;
    const designs = {
      sheets: sheets.filter(({ id }) => id === edition.sheet),
      plans: plans.filter(({ id }) => id === edition.plan),
      looks: looks.filter(({ id }) => id === edition.look),
    };
    const paths = new Map(texts.map((text) => [text.id, packagePath(text)]));
    const source = assetsOf(services, rows);
    const assets = rows.map((row) => ({
      ...row,
      get bytes() {
        return source(row.id)!.bytes;
      },
    }));
    const lens = edition.lens === null ? undefined : library.lens(edition.lens);
    const files = editionPackage({
      map: edition.map,
      library,
      items: texts,
      assets,
      lens: lens && { ...lens, id: edition.lens! },
      facets,
      designImages: imagesIn(designs),
      variables: edition.variables,
    });
    files.set(
      publishingFile,
      writePublishing([edition], designs, inputs.editions, (id) => paths.get(id)),
    );
    return {
      ...(await folderInto(folder, 'dita', files, keptOf(order))),
      pages: files.size,
      problems: [],
    };
  },
};

/** The files of the last build of an edition. */
function keptOf({ inputs: { edition }, cache }: Order): KeptFolder {
  const key = `${edition.id} ${edition.output}`;
  const kept = cache.folders.get(key) ?? (new Map() as KeptFolder);
  cache.folders.set(key, kept);
  return kept;
}

interface SiteInLanguage {
  readonly locale: string;
  readonly composed: Composed;
}

/** The site of one language, which knows where the same topic stands in the others. */
function inLanguage(
  { locale, composed }: SiteInLanguage,
  sites: readonly SiteInLanguage[],
  order: Order,
): SiteOptions {
  const { edition } = order.inputs;
  const siblings = sites
    .filter((other) => other.locale !== locale)
    .map((other) => ({
      locale: other.locale,
      address: (anchor: string | undefined) => {
        const page =
          anchor === undefined
            ? undefined
            : siteAddress(other.composed.publication, anchor, edition);
        return `../${other.locale}/${page ?? 'index.html'}`;
      },
    }));
  return {
    ...siteOptionsOf({
      ...order,
      composed,
      inputs: { ...order.inputs, edition: { ...edition, locale } },
    }),
    siblings,
    address: edition.address === '' ? '' : `${edition.address.replace(/\/$/u, '')}/${locale}/`,
  };
}

function* filesOf(
  made: readonly { readonly locale: string; readonly site: SiteResult }[],
  edition: Edition,
): Generator<readonly [string, string | Uint8Array]> {
  yield [
    'index.html',
    languagesPage(
      edition.facts.title ?? edition.name,
      made.map(({ locale }) => locale),
    ),
  ];
  yield ['languages.js', languagesScript];
  for (const { locale, site } of made)
    for (const [path, content] of site.files) yield [`${locale}/${path}`, content];
}

/** All that an edition says of its site. */
export const siteDesignOptions = (
  edition: Edition,
  { design, look }: Pick<Composed, 'design' | 'look'>,
  synonyms: Inputs['synonyms'] = {},
): SiteOptions => ({
  sheet: design.sheet,
  look,
  choices: edition.choices,
  address: edition.address,
  naming: edition.naming,
  folders: edition.folders,
  synonyms: synonyms[edition.locale] ?? [],
  ...(edition.start === '' ? {} : { start: edition.start }),
});

const siteOptionsOf = ({ composed, inputs, cache, onProgress }: Order): SiteOptions => ({
  ...siteDesignOptions(inputs.edition, composed, inputs.synonyms),
  memory: cache.topics,
  onPage: (done, total) =>
    (done % 20 === 0 || done === total) && onProgress({ step: 'Writing pages', done, total }),
});
