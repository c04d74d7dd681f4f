import { row, type ElementDefinition } from '../definition.ts';

const noteTypes =
  'note|tip|fastpath|restriction|important|remember|attention|caution|notice|danger|warning|' +
  'trouble|other';

/** Hazard statements (DITA 1.3, hazard statement domain; their parts are those of ANSI Z535.6). */
export const safetyElements: readonly ElementDefinition[] = [
  row('hazardstatement', 'Hazard statement', 'messagepanel+, hazardsymbol*', {
    help: 'Warns of a hazard: what it is, what can happen and how to avoid it.',
    base: 'note',
    attributes: `type=${noteTypes} othertype spectitle`,
  }),
  row('messagepanel', 'Message', 'data*, typeofhazard, consequence*, howtoavoid+', {
    help: 'The words of one hazard.',
    base: 'ul',
    attributes: 'spectitle',
  }),
  row('typeofhazard', 'Hazard', '(@inline)*', { help: 'What the hazard is.', base: 'li' }),
  row('consequence', 'Consequence', '(@inline)*', {
    help: 'What happens if the hazard is not avoided.',
    base: 'li',
  }),
  row('howtoavoid', 'Avoidance', '(@inline | ul | ol | sl)*', {
    help: 'How to avoid the hazard.',
    base: 'li',
  }),
  row('hazardsymbol', 'Safety symbol', 'alt?, longdescref?', {
    help: 'The symbol of the hazard.',
    base: 'image',
    attributes:
      'href keyref alt format scope height width scale scalefit align placement longdescref',
  }),
];
