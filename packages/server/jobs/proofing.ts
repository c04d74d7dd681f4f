import type { Edition, Proof, ProofOrder, SpecimenOrder } from '@ukiyo/contracts';
import { allPlaces, type Publication } from '@ukiyo/core/compose';
import { paperSize } from '@ukiyo/core/styles';
import { createPrintEngine, layoutOf, proofPublication, proofTopic, specimen, type PrintDesign, type PrintEngine, type ProofPages } from '@ukiyo/press';
import type { Services } from '../app/services.ts';
import { assetsOf, composeEdition, designOf, workbench, type Workbench } from './build.ts';

/** What one wants to see set. */
export type ProofQuestion = ({ readonly kind: 'specimen' } & SpecimenOrder) | ({ readonly kind: 'topic'; readonly edition: string } & ProofOrder);
export type ProofAnswers = { readonly specimen: Proof; readonly topic: Proof | undefined };

type Layout = ReturnType<typeof layoutOf>;
/** What is kept between proofs. */
interface ProofBench extends Workbench {
  /** Where everything stood when an edition was last set as a whole, and how that edition was. */
  readonly layouts: Map<string, { readonly pages: Layout; readonly publication: Publication }>;
  readonly specimens: Map<string, Publication>;
  /** Runs when nothing was asked for a while. */
  later: NodeJS.Timeout | undefined;
}
export const proofBench = (): ProofBench => ({ ...workbench(), layouts: new Map(), specimens: new Map(), later: undefined });

const paperOf = ({ plan }: PrintDesign): { width: number; height: number } => paperSize(plan);
const proofOf = (pages: ProofPages, design: PrintDesign, started: number, isPlaced: boolean): Proof => ({
  svg: pages.svg,
  paper: paperOf(design),
  pageCount: pages.pageCount,
  skip: pages.skip,
  places: pages.traces.map(({ path, sheet, y }) => ({ path: path === '' ? [] : path.split('.').map(Number), page: sheet - pages.skip, y })),
  placed: isPlaced,
  problems: [...pages.problems],
  milliseconds: Math.round(performance.now() - started),
  engineMilliseconds: Math.round(pages.engineMilliseconds),
});

/** A whole layout is made once nobody has asked for this long, in milliseconds: it takes the process for seconds. */
const restBefore = 1200;

/**
 * Sets what is asked for, without writing anything.
 * A topic is set alone, and stands as the last layout of the whole says; that layout is made again when there is time for it.
 */
export async function proof(services: Services, project: string, question: ProofQuestion, bench: ProofBench): Promise<Proof | undefined> {
  const started = performance.now();
  const engine = (bench.engine ??= createPrintEngine());
  clearTimeout(bench.later);
  if (question.kind === 'specimen') {
    const { locale, sheet } = question;
    const key = JSON.stringify([locale, sheet.numbering]);
    const publication = bench.specimens.get(key) ?? specimen(locale, sheet.numbering);
    // One is enough: the next order is most likely like this one.
    bench.specimens.clear();
    bench.specimens.set(key, publication);
    const rows = await services.assets.rows(project);
    return proofOf(proofPublication(publication, assetsOf(services, rows), engine, question), question, started, true);
  }
  const edition = await services.editions.edition(project, question.edition);
  if (!edition) return undefined;
  const written = question.text === undefined ? undefined : { id: question.item, text: question.text };
  const { publication, rows } = await composeEdition(services, project, edition, bench, undefined, written);
  const design = await designOf(services, project, edition);
  const place = allPlaces(publication.places).find(({ content, origin }) => content?.origin.item === question.item || origin.item === question.item);
  const layout = bench.layouts.get(edition.id);
  const pages = place && proofTopic(publication, place.anchor, layout?.pages ?? [], assetsOf(services, rows), engine, design);
  // What goes wrong there goes wrong again when the topic is asked for, and is said then.
  bench.later = setTimeout(() => void layOut(services, project, edition, bench, engine).catch(() => undefined), restBefore);
  if (!pages) return { svg: '', paper: paperOf(design), pageCount: 0, skip: 0, places: [], placed: false, problems: [], milliseconds: Math.round(performance.now() - started), engineMilliseconds: 0 };
  return proofOf(pages, design, started, layout !== undefined);
}

/** Sets an edition as it is stored as a whole, unless nothing has changed since. */
async function layOut(services: Services, project: string, edition: Edition, bench: ProofBench, engine: PrintEngine): Promise<void> {
  const { publication, rows } = await composeEdition(services, project, edition, bench);
  if (bench.layouts.get(edition.id)?.publication === publication) return;
  const pages = layoutOf(publication, assetsOf(services, rows), engine, await designOf(services, project, edition));
  bench.layouts.set(edition.id, { pages, publication });
}
