import { map, topic, type Cases } from '../case.ts';

const code = '3.4.4.2 coderef';
const links = '3.2.1.12 xref';
const script = 'first\nsecond\nthird\nfourth\n';
const pdf = new TextEncoder().encode('%PDF-1.4\n%%EOF\n');

export const files: Cases = {
  'code from a file is quoted in its block': {
    section: code,
    files: {
      'a.dita': topic('a', 'Anchors', '<codeblock><coderef href="src/run.py"/></codeblock>'),
      'src/run.py': 'lower("anchor")\nif done:\n    report()\n',
    },
    shows: ['lower("anchor")', 'if done:', 'report()'],
    site: { has: { 'pre code': 1 } },
  },
  'code stands between the words around its reference': {
    section: code,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<codeblock># start\n<coderef href="run.py"/>\n# end</codeblock>',
      ),
      'run.py': 'lower()\n',
    },
    shows: ['# start', 'lower()', '# end'],
  },
  'signs of markup in code are shown as they are': {
    section: code,
    files: {
      'a.dita': topic('a', 'Anchors', '<codeblock><coderef href="run.c"/></codeblock>'),
      'run.c': 'if (a < b && c > d) { /* <b> */ }\n',
    },
    shows: ['if (a < b && c > d) { /* <b> */ }'],
    site: { has: { 'pre b': 0 } },
  },
  'a fragment names lines (RFC 5147)': {
    section: code,
    files: {
      'a.dita': topic('a', 'Anchors', '<codeblock><coderef href="run.txt#line=1,3"/></codeblock>'),
      'run.txt': script,
    },
    shows: ['second', 'third'],
    hides: ['first', 'fourth'],
  },
  'a fragment names lines from the beginning': {
    section: code,
    files: {
      'a.dita': topic('a', 'Anchors', '<codeblock><coderef href="run.txt#line=,2"/></codeblock>'),
      'run.txt': script,
    },
    shows: ['first', 'second'],
    hides: ['third'],
  },
  'a fragment names lines to the end': {
    section: code,
    files: {
      'a.dita': topic('a', 'Anchors', '<codeblock><coderef href="run.txt#line=2,"/></codeblock>'),
      'run.txt': script,
    },
    shows: ['third', 'fourth'],
    hides: ['second'],
  },
  'code is named by a key': {
    section: code,
    files: {
      'book.ditamap': map(
        '<keydef keys="run" href="run.py" format="python"/><topicref href="a.dita"/>',
      ),
      'a.dita': topic('a', 'Anchors', '<codeblock><coderef keyref="run"/></codeblock>'),
      'run.py': 'lower()\n',
    },
    shows: ['lower()'],
  },
  'a reference to code that is filtered out shows nothing': {
    section: '2.4.3.3 Filtering and flagging logic',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<codeblock>stays <coderef href="run.py" audience="crew"/></codeblock>',
      ),
      'run.py': 'lower()\n',
    },
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    shows: ['stays'],
    hides: ['lower()'],
  },
  'code whose file is not there is reported': {
    section: code,
    files: {
      'a.dita': topic('a', 'Anchors', '<codeblock>x <coderef href="gone.py"/></codeblock>'),
    },
    shows: ['x'],
    problems: ['image.missing'],
  },
  'code from a file that is no text is reported': {
    section: code,
    files: {
      'a.dita': topic('a', 'Anchors', '<codeblock>x <coderef href="plan.pdf"/></codeblock>'),
      'plan.pdf': pdf,
    },
    shows: ['x'],
    problems: ['content.not-shown'],
  },
  'a file that is not what its ending says is left out and reported': {
    section: code,
    files: {
      'a.dita': topic('a', 'Anchors', '<codeblock>x <coderef href="run.py"/></codeblock>'),
      'run.py': new Uint8Array([0, 1, 2, 255]),
    },
    shows: ['x'],
    problems: ['image.missing', 'package.file'],
  },
  'a link leads to a document that goes out with the site': {
    section: links,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>See <xref href="docs/plan.pdf" format="pdf">the plan</xref>.</p>',
      ),
      'docs/plan.pdf': pdf,
    },
    shows: ['See the plan.'],
    site: { leads: ['the plan → assets/plan.pdf'] },
  },
  'a link to a document without words says the name of its file': {
    section: links,
    files: {
      'a.dita': topic('a', 'Anchors', '<p>See <xref href="plan.pdf" format="pdf"/>.</p>'),
      'plan.pdf': pdf,
    },
    shows: ['See plan.pdf'],
  },
  'a key leads to a document': {
    section: links,
    files: {
      'book.ditamap': map(
        '<keydef keys="plan" href="plan.pdf" format="pdf"><topicmeta><linktext>Plan</linktext>' +
          '</topicmeta></keydef><topicref href="a.dita"/>',
      ),
      'a.dita': topic('a', 'Anchors', '<p>See <xref keyref="plan"/>.</p>'),
      'plan.pdf': pdf,
    },
    shows: ['See Plan'],
    site: { leads: ['Plan → assets/plan.pdf'] },
  },
  'a related link leads to a document': {
    section: links,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>Text.</p>',
        '<related-links><link href="plan.pdf" format="pdf"><linktext>Plan</linktext></link>' +
          '</related-links>',
      ),
      'plan.pdf': pdf,
    },
    shows: ['Text.', 'Plan'],
    site: { leads: ['Plan → assets/plan.pdf'] },
  },
};
