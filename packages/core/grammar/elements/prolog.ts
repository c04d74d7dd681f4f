import { row, type ElementDefinition } from '../definition.ts';

/** Facts about a topic or map. */
export const prologElements: readonly ElementDefinition[] = [
  row(
    'prolog',
    'Facts',
    'author*, source?, publisher?, copyright*, critdates?, permissions?, metadata*, ' +
      'resourceid*, ux-window*, (data | data-about | foreign)*',
    'Facts about the topic.',
  ),
  row('author', 'Author', '(@keyWording | @phrase)*', {
    help: 'Who wrote it.',
    attributes: 'href keyref format scope type',
  }),
  row('source', 'Source', '(@keyWording | @phrase)*', {
    help: 'What it was made from.',
    attributes: 'href keyref format scope type',
  }),
  row('publisher', 'Publisher', '(@keyWording | @phrase)*', {
    help: 'Who publishes it.',
    attributes: 'href keyref format scope type',
  }),
  row('copyright', 'Copyright', 'copyryear+, copyrholder', {
    help: 'Who holds the rights since when.',
    attributes: 'type',
  }),
  row('copyryear', 'Year', 'empty', { help: 'A year of the copyright.', attributes: 'year!' }),
  row('copyrholder', 'Holder', '(@keyWording | @phrase)*', 'Who holds the rights.'),
  row('critdates', 'Dates', 'created?, revised*', 'When it was made and changed.'),
  row('created', 'Made', 'empty', { help: 'When it was made.', attributes: 'date! golive expiry' }),
  row('revised', 'Changed', 'empty', {
    help: 'When it was changed.',
    attributes: 'modified! golive expiry',
  }),
  row('permissions', 'Permissions', 'empty', { help: 'Who may see it.', attributes: 'view' }),
  row('metadata', 'Metadata', '(@metadata)*', 'Audience, keywords, products and other facts.'),
  row('audience', 'Audience', 'empty', {
    help: 'Who it is for.',
    attributes: 'type job otherjob experiencelevel name',
  }),
  row('category', 'Category', '(@keyWording | @phrase)*', 'A class to which it belongs.'),
  row(
    'keywords',
    'Keywords',
    '(keyword | indexterm | ph | term | apiname | option | parmname | cmdname | varname)*',
    'Words by which it is found.',
  ),
  row(
    'prodinfo',
    'Product',
    'prodname, vrmlist?, (brand | component | featnum | platform | prognum | series)*',
    'The product it is about.',
  ),
  row('prodname', 'Product name', '(@keyWording | @phrase)*', 'The name of the product.'),
  row('vrmlist', 'Versions', 'vrm+', 'Versions of the product.'),
  row('vrm', 'Version', 'empty', {
    help: 'One version of the product.',
    attributes: 'version! release modification',
  }),
  row('brand', 'Brand', '(@keyWording)*', 'The brand.'),
  row('component', 'Component', '(@keyWording)*', 'A part of the product.'),
  row('featnum', 'Feature number', '(@keyWording)*', 'The number of a feature.'),
  row('platform', 'Platform', '(@keyWording)*', 'What the product runs on.'),
  row('prognum', 'Order number', '(@keyWording)*', 'The number of the product.'),
  row('series', 'Series', '(@keyWording)*', 'The series of the product.'),
  row('othermeta', 'Own fact', 'empty', {
    help: 'Any other fact, by name.',
    attributes: 'name! content! translate-content',
  }),
  row('resourceid', 'Context-help id', 'empty', {
    help: 'The id by which an application opens this topic.',
    attributes: 'appid appname ux-context-string ux-source-priority',
  }),
  row('ux-window', 'Help window', 'empty', {
    help: 'The window in which help opens.',
    attributes: 'name!',
  }),
];
