import { topic, type Cases } from '../case.ts';

const mathml = '3.4.2 MathML domain';
const svg = '3.4.3 SVG domain';
const equations = '3.4.1 Equation domain';
const foreignContent = '3.3.9.1 foreign';

const math = (inner: string, more = ''): string =>
  `<math xmlns="http://www.w3.org/1998/Math/MathML"${more}>${inner}</math>`;
const half = '<mfrac><mi>a</mi><mn>2</mn></mfrac>';
const square = (more = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"${more}><title>A chart</title>` +
  '<rect width="40" height="30"/></svg>';

export const foreign: Cases = {
  'a formula in a line is shown as MathML, and read aloud in words': {
    section: mathml,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<p>Take <equation-inline><mathml>${math(half)}</mathml></equation-inline> of it.</p>`,
      ),
    },
    shows: ['Take', 'of it.'],
    site: { has: { 'p math mfrac': ['a 2'], 'math[display]': 0 } },
    print: { has: { formula: 1 } },
  },
  'a formula on a line of its own is shown as a block': {
    section: equations,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<equation-block><mathml>${math(half)}</mathml></equation-block><p>After.</p>`,
      ),
    },
    shows: ['After.'],
    site: { has: { 'math[display=block]': 1 } },
    print: { has: { formula: 1 } },
  },
  'an equation has its number': {
    section: equations,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<equation-block><mathml>${math(half)}</mathml> <equation-number>17</equation-number>` +
          '</equation-block>',
      ),
    },
    shows: ['17'],
  },
  'equations in a figure have its title': {
    section: equations,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<equation-figure><title>Holding power</title><equation-block>' +
          `<mathml>${math(half)}</mathml></equation-block></equation-figure>`,
      ),
    },
    shows: ['Holding power'],
    site: { has: { 'figure math': 1 } },
  },
  'a formula with a prefix is the same': {
    section: mathml,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p><mathml><m:math xmlns:m="http://www.w3.org/1998/Math/MathML"><m:msup><m:mi>x</m:mi>' +
          '<m:mn>2</m:mn></m:msup></m:math></mathml></p>',
      ),
    },
    site: { has: { 'math msup': ['x 2'] } },
    print: { has: { formula: 1 } },
  },
  'roots, scripts, limits, fences and tables are shown': {
    section: mathml,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<equation-block><mathml>${math(
          '<mrow><msqrt><mi>a</mi></msqrt><mo>+</mo><mroot><mi>b</mi><mn>3</mn></mroot><mo>=</mo>' +
            '<munderover><mo>∑</mo><mi>i</mi><mi>n</mi></munderover><msubsup><mi>x</mi><mi>i</mi>' +
            '<mn>2</mn></msubsup><mfenced><mi>p</mi><mi>q</mi></mfenced><mover><mi>v</mi>' +
            '<mo>→</mo>' +
            '</mover><mtable><mtr><mtd><mn>1</mn></mtd><mtd><mn>0</mn></mtd></mtr></mtable></mrow>',
        )}</mathml></equation-block>`,
      ),
    },
    site: {
      has: {
        msqrt: ['a'],
        mroot: ['b 3'],
        munderover: ['∑ i n'],
        msubsup: ['x i 2'],
        mtd: ['1', '0'],
        mfenced: 0,
      },
    },
    print: { has: { formula: 1 } },
  },
  'a formula is read from a file': {
    section: mathml,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>Take <mathml><mathmlref href="half.mml"/></mathml> of it.</p>',
      ),
      'half.mml': `<?xml version="1.0"?>${math(half)}`,
    },
    shows: ['Take', 'of it.'],
    site: { has: { 'p math mfrac': ['a 2'] } },
    print: { has: { formula: 1 } },
  },
  'a formula whose file is not there is reported': {
    section: mathml,
    files: {
      'a.dita': topic('a', 'Anchors', '<p>Take <mathml><mathmlref href="gone.mml"/></mathml>.</p>'),
    },
    shows: ['Take'],
    problems: ['image.missing'],
  },
  'of several ways to write a formula the one for readers is shown': {
    section: mathml,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<p><mathml>${math(
          `<semantics>${half}<annotation encoding="text/plain">a over two</annotation></semantics>`,
        )}</mathml></p>`,
      ),
    },
    hides: ['a over two'],
    site: { has: { mfrac: 1 } },
  },
  'a formula that is filtered out is not there': {
    section: '2.4.3.3 Filtering and flagging logic',
    files: {
      'a.dita': topic('a', 'Anchors', `<p>Kept.<mathml audience="crew">${math(half)}</mathml></p>`),
    },
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    shows: ['Kept.'],
    site: { has: { math: 0 } },
    print: { has: { formula: 0 } },
  },
  'a formula that acts is shown without what acts': {
    section: mathml,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<p><mathml>${math(
          '<maction actiontype="statusline" onclick="act()"><mi href="javascript:act()">x</mi>' +
            '<mtext>more</mtext></maction><script>act()</script>',
          ' onload="act()"',
        )}</mathml></p>`,
      ),
    },
    hides: ['act()', 'javascript'],
    site: { has: { 'math mi': ['x'] } },
  },
  'a drawing in a text is shown as an image with its title': {
    section: svg,
    files: {
      'a.dita': topic('a', 'Anchors', `<fig><svg-container>${square()}</svg-container></fig>`),
    },
    site: { has: { 'figure img[alt="A chart"][width="40"]': 1 } },
    print: { has: { figure: 1 } },
  },
  'a drawing stands in a line': {
    section: svg,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<p>Before <svg-container>${square()}</svg-container> after.</p>`,
      ),
    },
    shows: ['Before', 'after.'],
    site: { has: { 'p img': 1 } },
  },
  'a drawing with a prefix is the same': {
    section: svg,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<fig><svg-container><s:svg xmlns:s="http://www.w3.org/2000/svg" viewBox="0 0 20 10">' +
          '<s:rect width="20" height="10"/></s:svg></svg-container></fig>',
      ),
    },
    site: { has: { 'figure img[width="20"][height="10"]': 1 } },
  },
  'a drawing that acts is shown without what acts': {
    section: svg,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<fig><svg-container><svg xmlns="http://www.w3.org/2000/svg" width="4" height="3" ' +
          'onload="act()"><script>act()</script><rect width="4" height="3"/></svg>' +
          '</svg-container></fig>',
      ),
    },
    hides: ['act()'],
    site: { has: { 'figure img': 1 } },
  },
  'a drawing from a file is an image': {
    section: svg,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<fig><title>Plan</title><svg-container><svgref href="plan.svg"/></svg-container></fig>',
      ),
      'plan.svg': square(),
    },
    shows: ['Plan'],
    site: { has: { 'figure img': 1 } },
  },
  'a drawing from a file that a key names is an image': {
    section: svg,
    files: {
      'book.ditamap':
        '<map><title>Book</title><keydef keys="plan" href="plan.svg" format="svg"/>' +
        '<topicref href="a.dita"/></map>',
      'a.dita': topic(
        'a',
        'Anchors',
        '<fig><svg-container><svgref keyref="plan"/></svg-container></fig>',
      ),
      'plan.svg': square(),
    },
    site: { has: { 'figure img': 1 } },
  },
  'a drawing whose file is not there is reported': {
    section: svg,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<fig><svg-container><svgref href="gone.svg"/></svg-container></fig>',
      ),
    },
    problems: ['image.missing'],
  },
  'an image stands in for content of another vocabulary': {
    section: foreignContent,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>Before.</p><fig><foreign><score xmlns="urn:score"><bar/></score>' +
          '<image href="score.svg"><alt>Bell signals</alt></image></foreign></fig>',
      ),
      'score.svg': square(),
    },
    shows: ['Before.'],
    site: { has: { 'figure img[alt="Bell signals"]': 1 } },
  },
  'content of another vocabulary without an image for it is reported': {
    section: foreignContent,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>Before.</p><fig><foreign><score xmlns="urn:score">Hidden</score></foreign></fig>',
      ),
    },
    shows: ['Before.'],
    hides: ['Hidden'],
    problems: ['content.not-shown'],
  },
};
