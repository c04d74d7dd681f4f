import type { ResolvedElement } from '@ukiyo/core/compose';
import type { Node } from '@ukiyo/core/markup';
import type { Media } from '@ukiyo/core/media';
import type { Grid, GridCell, GridRow } from '@ukiyo/core/tables';
import type { Words } from '@ukiyo/core/words';

/** The words of a language that are plain strings. */
export type WordName = {
  [Name in keyof Words]: Words[Name] extends string ? Name : never;
}[keyof Words];

/**
 * A block of a topic, as paper and screen share it. `element` is what it was made of: its anchor,
 * style, marks and condition hold for the whole block. `nodes` are text with inline elements.
 */
export type Block =
  | Paragraph
  | Picture
  | Code
  | Section
  | List
  | Steps
  | Definitions
  | Figure
  | Table
  | MediaBlock
  /** A short description, and text whose line breaks count. */
  | LineBlock<'lead'>
  | LineBlock<'lines'>
  | Command
  | Container<'quote'>
  | Container<'note'>
  | Equation
  | TermForm
  | Hazard
  | Stated
  /** What a step has beside its command: information, an example, its result. */
  | Container<'step-detail'>
  | Container<'group'>
  | Flattened;

interface Lines {
  readonly nodes: readonly Node[];
}
interface Blocks {
  readonly blocks: readonly Block[];
}
interface LineBlock<Kind extends string> extends Lines {
  readonly kind: Kind;
  readonly element: ResolvedElement;
}
/** What is to be done in a step. */
interface Command extends LineBlock<'command'> {
  readonly importance?: 'optional' | 'required';
}
interface Container<Kind extends string> extends Blocks {
  readonly kind: Kind;
  readonly element: ResolvedElement;
}

/** Content nested deeper than its renderer can follow: its text alone. */
interface Flattened {
  readonly kind: 'flattened';
  readonly element: ResolvedElement;
  readonly text: string;
}

/** A block of one kind. */
export type BlockOf<Kind extends Block['kind']> = Extract<Block, { readonly kind: Kind }>;

/** Without an element where text stands beside blocks. */
interface Paragraph extends Lines {
  readonly kind: 'paragraph';
  readonly element?: ResolvedElement;
}

/** An image on a line of its own, or several of which each reader gets one. */
export interface Picture {
  readonly kind: 'picture';
  /** The paragraph in which it stands alone. */
  readonly element?: ResolvedElement;
  readonly images: readonly ResolvedElement[];
}

interface Code extends Lines {
  readonly kind: 'code';
  readonly element: ResolvedElement;
  /** Of the code, as its `outputclass` names it: `language-json`. */
  readonly language?: string;
}

/** The title of a section, figure or table, with the number that it has. */
export interface Caption {
  readonly title: ResolvedElement;
  readonly number?: string;
}

interface Section extends Blocks {
  readonly kind: 'section';
  readonly element: ResolvedElement;
  readonly caption?: Caption;
  /** The word for what it is; shown where it has no title. */
  readonly label?: WordName;
}

/** An item of a list, a definition or a cell. */
export interface ListItem extends Blocks {
  readonly element: ResolvedElement;
}

export interface List {
  readonly kind: 'list';
  readonly element: ResolvedElement;
  readonly form: 'bulleted' | 'numbered' | 'plain';
  readonly items: readonly ListItem[];
}

/** Steps of a procedure; a section between steps interrupts the list, and the numbers continue. */
interface Steps {
  readonly kind: 'steps';
  readonly element: ResolvedElement;
  readonly isNumbered: boolean;
  /** Steps of a step. */
  readonly isNested: boolean;
  readonly runs: readonly StepRun[];
}

/** A run of steps, or a section between two runs. */
export type StepRun =
  | { readonly kind: 'steps'; readonly start: number; readonly items: readonly ListItem[] }
  | ({ readonly kind: 'between' } & ListItem);

interface Definitions {
  readonly kind: 'definitions';
  readonly element: ResolvedElement;
  readonly entries: readonly Definition[];
}
export interface Definition {
  readonly element: ResolvedElement;
  /** Whether it heads the others. */
  readonly isHead?: true;
  readonly terms: readonly ResolvedElement[];
  readonly meanings: readonly ListItem[];
}

export interface Figure extends Blocks {
  readonly kind: 'figure';
  readonly element: ResolvedElement;
  readonly caption?: Caption;
  readonly description?: readonly Node[];
  /** The image that its areas lie on, one of its blocks. */
  readonly picture?: Picture;
  readonly areas: readonly ResolvedElement[];
}

/** A CALS table may have several grids, with columns of their own. */
interface Table {
  readonly kind: 'table';
  readonly element: ResolvedElement;
  readonly caption?: Caption;
  readonly description?: readonly Node[];
  readonly grids: readonly TableGrid[];
}
export interface TableGrid extends Pick<Grid, 'columns' | 'problems'> {
  readonly head: readonly TableRow[];
  readonly body: readonly TableRow[];
}
export interface TableRow extends Pick<GridRow, 'element'> {
  readonly cells: readonly TableCell[];
  /** Columns in which no cell stands, not even one from above. */
  readonly gaps: readonly number[];
}
export interface TableCell extends GridCell, Blocks {
  readonly edges: CellEdges;
}
/** Rules around a cell that are asked for or refused; undefined where the style says so. */
export interface CellEdges {
  readonly above?: boolean;
  readonly before?: boolean;
}

/** Another form of a term, after the word for what it is. */
interface TermForm extends LineBlock<'form'> {
  readonly word: WordName;
}

/** An equation on a line of its own, with its number beside it. */
interface Equation extends LineBlock<'equation'> {
  readonly number?: readonly Node[];
}

/** A hazard statement: symbols beside one message or several (ANSI Z535.6). */
interface Hazard {
  readonly kind: 'hazard';
  readonly element: ResolvedElement;
  readonly symbols: readonly Picture[];
  readonly panels: readonly HazardPanel[];
}
/** What the hazard is, what can happen, and how to avoid it, in this order. */
export interface HazardPanel {
  readonly element: ResolvedElement;
  readonly parts: readonly ListItem[];
}

/** An element that says one thing by being there, such as that nothing is required. */
interface Stated {
  readonly kind: 'stated';
  readonly element: ResolvedElement;
  readonly word: WordName;
}

interface MediaBlock {
  readonly kind: 'media';
  readonly element: ResolvedElement;
  /** Undefined where its element says too little to play anything. */
  readonly media?: Media;
}
