import { map, topic, type Cases } from '../case.ts';

const relatedLinks = '2.2.4.3 Related links';

export const linking: Cases = {
  'a link of a topic is among its related links': {
    section: relatedLinks,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>Drop it.</p>',
        '<related-links><link href="b.dita"/></related-links>',
      ),
      'b.dita': topic('b', 'Buoys'),
    },
    shows: ['Drop it.', 'Buoys'],
    site: { links: ['Buoys → Buoys'] },
  },
  'words of a link of its own are shown in place of the title': {
    section: relatedLinks,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '',
        '<related-links><link href="b.dita"><linktext>All buoys</linktext></link></related-links>',
      ),
      'b.dita': topic('b', 'Buoys'),
    },
    shows: ['All buoys'],
    site: { links: ['All buoys → Buoys'] },
  },
  'a list of links has a title and a remark': {
    section: relatedLinks,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '',
        '<related-links><linklist><title>Read first</title><link href="b.dita"/><link href="c.dita"/><linkinfo>In this order.</linkinfo></linklist></related-links>',
      ),
      'b.dita': topic('b', 'Buoys'),
      'c.dita': topic('c', 'Chains'),
    },
    shows: ['Read first', 'Buoys', 'Chains', 'In this order.'],
    site: { links: ['Buoys → Buoys', 'Chains → Chains'] },
  },
  'a link to an address outside is shown with its words': {
    section: relatedLinks,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '',
        '<related-links><link href="https://tides.example/tables" scope="external" format="html"><linktext>Tide tables</linktext></link></related-links>',
      ),
    },
    shows: ['Tide tables'],
    site: { links: ['Tide tables → https://tides.example/tables'] },
  },
  'a row of a relationship table links its cells': {
    section: '2.2.4.1 Relationship tables',
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"/><topicref href="b.dita"/><reltable><relrow><relcell><topicref href="a.dita"/></relcell><relcell><topicref href="b.dita"/></relcell></relrow></reltable>',
      ),
      'a.dita': topic('a', 'Anchors'),
      'b.dita': topic('b', 'Buoys'),
    },
    shows: ['Anchors', 'Buoys', 'Buoys', 'Anchors'],
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
  },
  'links of a pool are related links without an order of their own': {
    section: relatedLinks,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '',
        '<related-links><linkpool><link href="b.dita"/><linkpool><link href="c.dita"/></linkpool>' +
          '</linkpool></related-links>',
      ),
      'b.dita': topic('b', 'Buoys'),
      'c.dita': topic('c', 'Chains'),
    },
    site: { links: ['Buoys → Buoys', 'Chains → Chains'] },
    print: { has: { link: 2 } },
  },
  'a list of links in a list keeps its title': {
    section: relatedLinks,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '',
        '<related-links><linklist><title>Moorings</title><linklist><title>In ports</title>' +
          '<link href="b.dita"/></linklist></linklist></related-links>',
      ),
      'b.dita': topic('b', 'Buoys'),
    },
    shows: ['Moorings', 'In ports', 'Buoys'],
    site: { links: ['Buoys → Buoys'] },
  },
  'a link says what it leads to in a description': {
    section: relatedLinks,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '',
        '<related-links><link href="b.dita"><desc>Of all colours.</desc></link></related-links>',
      ),
      'b.dita': topic('b', 'Buoys'),
    },
    shows: ['Buoys', 'Of all colours.'],
    site: { links: ['Buoys → Buoys'] },
  },
  'an excluded link is not there': {
    section: '2.4.3.1 Conditional processing attributes',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '',
        '<related-links><link href="b.dita" audience="crew"><linktext>For the crew</linktext>' +
          '</link><link href="b.dita"/></related-links>',
      ),
      'b.dita': topic('b', 'Buoys'),
    },
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    hides: ['For the crew'],
    site: { links: ['Buoys → Buoys'] },
  },
  'a link to the same topic by the topic and by the map is there once': {
    section: relatedLinks,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"/><topicref href="b.dita"/><reltable><relrow><relcell>' +
          '<topicref href="a.dita"/></relcell><relcell><topicref href="b.dita"/></relcell>' +
          '</relrow></reltable>',
      ),
      'a.dita': topic('a', 'Anchors', '', '<related-links><link href="b.dita"/></related-links>'),
      'b.dita': topic('b', 'Buoys'),
    },
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
  },
};
