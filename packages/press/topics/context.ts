import type { Place, ResolvedElement } from '@ukiyo/core/compose';
import { letterDeclarations } from '@ukiyo/core/facets';
import { classesOf } from '@ukiyo/core/grammar';
import type { Attributes, Element, Node } from '@ukiyo/core/markup';
import { calledNotes } from '../blocks/index.ts';
import type { Block, Normalizing } from '../blocks/index.ts';
import type { SiteLook, StyleSheet } from '@ukiyo/core/styles';
import type { Words } from '@ukiyo/core/words';
import { appliedStyles, partLanguageOf, type AppliedStyles } from '../shared/index.ts';
import type { TopicQuestions, SiteParts } from './questions.ts';
import { isEmpty, tag, withHtmlAttribute, type Html, type OwnAttributes } from '../html/index.ts';
import type { KeptTopics } from './memory.ts';
import type { SiteReaders } from './readers.ts';

/** What all pages of a site share. */
export interface HtmlContext extends SiteParts {
  readonly words: Words;
  readonly sheet: StyleSheet;
  readonly look: SiteLook;
  /** The item of which each element says where it stands, for who writes it. */
  readonly traced?: string;
  /** Whether a browser shows it, with a script beside it; else it is read as it stands. */
  readonly isSite: boolean;
  /** It is looked at in a frame of the workshop. */
  readonly isProof?: boolean;
  /** The address of the site on the web; empty when the edition has none. */
  readonly address: string;
  /** The topic that is the home page, where one is. */
  readonly start?: Place;
  /** The same site in other languages. */
  readonly siblings?: readonly Sibling[];
  /** Topics of this site as they were made before. */
  readonly kept?: KeptTopics;
}

/** The same site in another language. */
export interface Sibling {
  readonly locale: string;
  /**
   * Where something stands there, or its home page where it is not there; relative to the folder of
   * this site.
   */
  address(anchor: string | undefined): string;
}

/**
 * What all makers of a topic share while they walk it. Of the rest of the site they know what they
 * ask.
 */
export interface PageContext extends Pick<HtmlContext, 'words' | 'sheet' | 'isSite'> {
  readonly questions: TopicQuestions;
  readonly normalizing: Normalizing;
  readonly locale: string;
  readonly readers: Pick<SiteReaders, 'number'>;
  readonly styles: AppliedStyles;
  /** Of the topics before it on its page. */
  readonly notesBefore: number;
  /** Of the topic so far, in order. */
  readonly footnotes: Html[];
  /** Those that are shown where links lead to them. */
  readonly calledNotes: ReadonlyMap<string, ResolvedElement>;
  /** Keys of terms whose first form has been said. */
  readonly metTerms: Set<string>;
  /** The numbers of those that have been shown, by their anchors. */
  readonly noteNumbers: Map<string, number>;
  /** Of the headings inside it: `h2` to `h6`. */
  readonly headingTag: string;
  /** Where links to this element come to; once only. */
  idOf(element: Element): string | undefined;
  /** The class of what is for some readers only. */
  forWhom(element: Element): string | undefined;
  /**
   * With the place of the element in its text, where that is traced; what is made begins with an
   * element.
   */
  traceOf(element: Element, made: Html): Html;
  /** As the lens marks it. */
  marked(element: Element, name: 'span' | 'div', content: Html): Html;
  /** In the style of the team’s own that the element has. */
  styled(element: Element, name: 'span' | 'div', make: () => Html): Html;
}

/** A topic being rendered: what is known of its page, and how the parts in a part are rendered. */
export interface Rendering extends PageContext {
  /** Where only words can stand, as in a link: links and footnotes are words alone. */
  readonly isInLink: boolean;
  readonly blocks: (blocks: readonly Block[]) => Html;
  /** The same, where text that stands alone needs no paragraph around it. */
  readonly tight: (blocks: readonly Block[]) => Html;
  readonly lines: (nodes: readonly Node[]) => Html;
}

/** Names of classes, without those that are undefined or empty. */
export const classOf = (...names: readonly (string | undefined)[]): string | undefined =>
  names.filter(Boolean).join(' ') || undefined;

const nothingOwn: OwnAttributes = { classes: [], others: {} };

/**
 * The named styles of an element as classes, its language, and whether it is to be translated.
 * @param locale around it
 */
export function ownOf(attributes: Attributes, locale: string): OwnAttributes {
  const classes = classesOf(attributes);
  const language = partLanguageOf(attributes, locale);
  const { translate } = attributes;
  if (classes.length === 0 && !language && translate === undefined) return nothingOwn;
  const isSaid = translate === 'yes' || translate === 'no';
  return { classes, others: { ...language, ...(isSaid ? { translate } : {}) } };
}

/** Deeper than this browsers would give up. */
const deepest = 120;

/** A topic, and where it is on its page. */
interface TopicOnPage {
  readonly content: ResolvedElement;
  readonly level: number;
  readonly notesBefore: number;
}

export function pageContext(
  site: HtmlContext,
  questions: TopicQuestions,
  { content, level, notesBefore }: TopicOnPage,
): PageContext {
  const { words, sheet, isSite, readers, publication } = site;
  const styles = appliedStyles(site.sheet);
  const seen = new Set<string>();
  return {
    words,
    sheet,
    isSite,
    readers,
    locale: publication.locale,
    questions,
    normalizing: {
      target: questions.target,
      fileText: (id) => questions.asset(id)?.text,
      deepest,
    },
    styles,
    notesBefore,
    footnotes: [],
    calledNotes: calledNotes(content.children, questions.link),
    metTerms: new Set(),
    noteNumbers: new Map(),
    headingTag: `h${level}`,
    idOf(element) {
      const { anchor } = element as ResolvedElement;
      if (anchor === undefined || seen.has(anchor)) return undefined;
      seen.add(anchor);
      return anchor;
    },
    forWhom(element) {
      const { when } = element as ResolvedElement;
      return when === undefined ? undefined : site.readers.classOf(when);
    },
    traceOf(element, made) {
      const { origin } = element as ResolvedElement;
      return site.traced === undefined || origin?.item !== site.traced
        ? made
        : withHtmlAttribute(made, 'data-at', origin.path.join('.'));
    },
    marked(element, name, content) {
      const look = (element as ResolvedElement).marked;
      if (!look || isEmpty(content)) return content;
      const style = [
        ...(look.color === undefined ? [] : [`color:${look.color}`]),
        ...(look.background === undefined ? [] : [`background:${look.background}`]),
        ...letterDeclarations(look.letters),
      ].join(';');
      return tag(
        name,
        { class: look.bar === true ? 'marked barred' : 'marked', style: style || undefined },
        content,
      );
    },
    styled(element, name, make) {
      const own = styles.of(element);
      const made = styles.within(element, make);
      return own === undefined || isEmpty(made) ? made : tag(name, { class: `style-${own}` }, made);
    },
  };
}
