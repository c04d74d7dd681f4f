import { map, topic, type Cases } from '../case.ts';

const generalisation = '2.5.4 Generalization';
const filtering = '2.4.3.3 Filtering and flagging logic';

const bulletin = (body: string): string =>
  '<bulletin class="- topic/topic concept/concept bulletin/bulletin " id="a">' +
  '<title class="- topic/title ">Fog</title>' +
  `<bulbody class="- topic/body concept/conbody bulletin/bulbody ">${body}</bulbody></bulletin>`;
const excluded = (attribute: string, value: string): string =>
  `<val><prop att="${attribute}" val="${value}" action="exclude"/></val>`;

export const specialising: Cases = {
  'a topic of a specialised type is shown as what it specialises': {
    section: generalisation,
    files: { 'a.dita': bulletin('<p>Sound the horn.</p>') },
    shows: ['Fog', 'Sound the horn.'],
  },
  'a specialised block is shown as what it specialises': {
    section: generalisation,
    files: {
      'a.dita': bulletin(
        '<alerts class="- topic/ul bulletin/alerts "><alert class="- topic/li bulletin/alert ">' +
          'Horn</alert></alerts>',
      ),
    },
    shows: ['Fog', 'Horn'],
    site: { has: { 'ul li': 'Horn' } },
    print: { has: { lbody: 'Horn' } },
  },
  'a specialised phrase is shown as what it specialises': {
    section: generalisation,
    files: {
      'a.dita': topic(
        'a',
        'Fog',
        '<p>Ring the <signal class="+ topic/ph hi-d/b sea-d/signal ">bell</signal>.</p>',
      ),
    },
    shows: ['Ring the bell.'],
    site: { has: { b: 'bell' } },
  },
  'a specialised map and its entries are what they specialise': {
    section: generalisation,
    files: {
      'b.ditamap':
        '<logbook class="- map/map logbook/logbook "><title class="- topic/title ">Book</title>' +
        '<page class="- map/topicref logbook/page " href="a.dita"/></logbook>',
      'a.dita': topic('a', 'Fog', '<p>Horn</p>'),
    },
    shows: ['Fog', 'Horn'],
    contents: ['Fog'],
  },
  'a link leads to a topic of a specialised type': {
    section: generalisation,
    files: {
      'a.dita': bulletin('<p>Horn</p>'),
      'b.dita': topic('b', 'Bells', '<p><xref href="a.dita"/></p>'),
    },
    site: { links: ['Fog → Fog'] },
    print: { has: { link: 1 } },
  },
  'a class that speaks of another element counts for nothing': {
    section: '2.5.3.6 class attribute rules and syntax',
    files: {
      'a.dita': topic('a', 'Fog', '<p>Horn</p><blare class="- topic/p sea/other ">Loud</blare>'),
    },
    shows: ['Fog', 'Horn'],
    hides: ['Loud'],
    problems: ['grammar.unknown-element'],
  },
  'an element without a class is unknown, and that is an error': {
    section: generalisation,
    files: { 'a.dita': topic('a', 'Fog', '<p>Horn</p><blare>Loud</blare>') },
    shows: ['Fog', 'Horn'],
    hides: ['Loud'],
    problems: ['grammar.unknown-element'],
  },
  'learning content is shown as what it specialises': {
    section: '2.8 Learning and training content',
    files: {
      'a.dita':
        '<learningContent id="a"><title>Horns</title><learningContentbody><lcIntro>' +
        '<title>Why</title><p>To be heard.</p></lcIntro><lcObjectives><lcObjectivesStem>You can:' +
        '</lcObjectivesStem><lcObjectivesGroup><lcObjective>blow</lcObjective>' +
        '</lcObjectivesGroup></lcObjectives></learningContentbody></learningContent>',
    },
    shows: ['Horns', 'Why', 'To be heard.', 'You can:', 'blow'],
    site: { has: { li: 'blow' } },
  },
  'an entry of learning content is an entry': {
    section: '2.8.5 Learning map domain',
    files: {
      'a.dita': topic('a', 'Fog', '<p>Horn</p>'),
      'b.ditamap': map('<learningObject><learningContentRef href="a.dita"/></learningObject>'),
    },
    shows: ['Fog', 'Horn'],
  },
  'an attribute that specialises props varies content': {
    section: '2.5.3.2 Attribute specialization',
    files: {
      'a.dita':
        '<topic id="a" domains="a(props crewrank)"><title>Fog</title><body><p crewrank="mate">' +
        'Watch</p><p crewrank="mate master">Steer</p><p>Horn</p></body></topic>',
    },
    filter: excluded('crewrank', 'mate'),
    shows: ['Steer', 'Horn'],
    hides: ['Watch'],
  },
  'an attribute of which a filter speaks varies content': {
    section: '2.5.3.2 Attribute specialization',
    files: { 'a.dita': topic('a', 'Fog', '<p crewrank="mate">Watch</p><p>Horn</p>') },
    filter: excluded('crewrank', 'mate'),
    shows: ['Horn'],
    hides: ['Watch'],
  },
  'a group without a rule answers to the rules of its attribute': {
    section: filtering,
    files: {
      'a.dita': topic('a', 'Fog', '<p product="horns(brass steel)">Polish</p><p>Horn</p>'),
    },
    filter:
      '<val><prop att="product" val="brass" action="exclude"/>' +
      '<prop att="product" val="steel" action="exclude"/></val>',
    shows: ['Horn'],
    hides: ['Polish'],
  },
  'a group with a rule of its own answers to it': {
    section: filtering,
    files: {
      'a.dita': topic('a', 'Fog', '<p product="horns(brass) bells(steel)">Polish</p><p>Horn</p>'),
    },
    filter:
      '<val><prop att="product" action="exclude"/><prop att="product" val="steel" ' +
      'action="include"/><prop att="horns" val="brass" action="include"/></val>',
    shows: ['Polish', 'Horn'],
  },
  'one group of which everything is excluded excludes the element': {
    section: filtering,
    files: {
      'a.dita': topic('a', 'Fog', '<p product="horns(brass) bells(steel)">Polish</p><p>Horn</p>'),
    },
    filter: excluded('bells', 'steel'),
    shows: ['Horn'],
    hides: ['Polish'],
  },
};
