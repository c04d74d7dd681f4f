import { topicRenderer } from './content.ts';
import type { SiteContext } from './context.ts';
import { tag, text } from './html.ts';
import { glossaryFile } from './files.ts';
import type { PageParts } from './page.ts';
import { saidHtml } from './readers.ts';

/** All terms with what they mean, one after the other. */
export function glossaryPage(site: SiteContext): PageParts {
  const { publication, pages, words, readers } = site;
  const renderer = topicRenderer(site);
  const entries = publication.glossary.flatMap(({ anchor, term, content }) => {
    const whose = readers.classOf(readers.whenAt(anchor));
    const href = pages.href(anchor);
    const said = saidHtml(readers.titleAt(anchor) ?? term);
    return [tag('dt', { class: whose }, href === undefined ? said : tag('a', { href }, said)), tag('dd', { class: whose }, renderer.render(content, 2))];
  });
  return { title: words.glossary, description: '', path: glossaryFile, main: tag('article', { class: 'all-terms' }, tag('h1', {}, text(words.glossary)), tag('dl', {}, ...entries)) };
}
