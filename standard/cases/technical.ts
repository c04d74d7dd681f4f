import { topic, type Cases } from '../case.ts';

const syntax = '3.3.3.3 Programming domain elements';
const mention = '3.3.5 XML mention domain elements';

const diagram = (inner: string): Record<string, string> => ({
  'a.dita': topic('a', 'Commands', `<syntaxdiagram>${inner}</syntaxdiagram>`),
});

export const technical: Cases = {
  'names of XML show the signs by which they are written': {
    section: mention,
    files: {
      'a.dita': topic(
        'a',
        'Names',
        '<p><xmlelement>buoy</xmlelement>, <xmlatt>colour</xmlatt>, <textentity>' +
          'amp</textentity>, ' +
          '<parameterentity>marks</parameterentity>, <numcharref>x2014</numcharref>, ' +
          '<xmlnsname>urn:sea</xmlnsname>, <xmlpi>chart</xmlpi></p>',
      ),
    },
    shows: ['<buoy>, @colour, &amp;, %marks;, &#x2014;, urn:sea, <?chart?>'],
    site: { has: { code: 7 } },
  },
  'a markup name is shown as code': {
    section: '3.3.4 Markup domain elements',
    files: { 'a.dita': topic('a', 'Names', '<p>Use <markupname>lamp</markupname>.</p>') },
    shows: ['Use lamp.'],
    site: { has: { code: 'lamp' } },
  },
  'a title can hold names of XML': {
    section: mention,
    files: {
      'a.dita':
        '<topic id="a"><title>About <xmlelement>buoy</xmlelement></title><body><p>Text</p></body>' +
        '</topic>',
    },
    shows: ['About', 'buoy', 'Text'],
  },
  'parts of a sequence are written one after the other, optional ones in brackets': {
    section: syntax,
    files: diagram(
      '<groupseq><kwd>light</kwd><var>name</var><groupseq importance="optional">' +
        '<kwd>at</kwd><var>time</var></groupseq></groupseq>',
    ),
    shows: ['light name [at time]'],
    site: { has: { 'figure var': ['name', 'time'] } },
  },
  'choices stand beside each other': {
    section: syntax,
    files: diagram(
      '<groupseq><kwd>turn</kwd><groupchoice><kwd>on</kwd><kwd>off</kwd></groupchoice></groupseq>',
    ),
    shows: ['turn (on | off)'],
  },
  'parts of a composite stand without a space': {
    section: syntax,
    files: diagram('<groupcomp><kwd>depth</kwd><oper>=</oper><var>metres</var></groupcomp>'),
    shows: ['depth=metres'],
  },
  'what is repeated shows what stands between': {
    section: syntax,
    files: diagram('<groupseq><var>buoy</var><repsep>,</repsep></groupseq>'),
    shows: ['buoy [, …]'],
  },
  'a fragment is referred to by its title and stands below': {
    section: syntax,
    files: diagram(
      '<title>Sound</title><groupseq><kwd>sound</kwd><fragref href="#a/times"/></groupseq>' +
        '<fragment id="times"><title>Times</title><groupseq><var>from</var><delim>-</delim>' +
        '<var>to</var></groupseq></fragment>',
    ),
    shows: ['sound ⟨Times⟩', 'Times = from - to', 'Sound'],
    site: { has: { figcaption: 'Sound' } },
  },
  'a diagram is drawn, above its words': {
    section: syntax,
    files: diagram(
      '<groupseq><kwd>sound</kwd><groupchoice><kwd>bell</kwd><kwd>horn</kwd></groupchoice>' +
        '</groupseq>',
    ),
    shows: ['sound (bell | horn)'],
    site: { has: { 'figure img[src$=".svg"]': 1 } },
  },
  'a diagram without a part has no drawing': {
    section: syntax,
    files: diagram('<title>Sound</title>'),
    shows: ['Sound'],
    site: { has: { 'figure img': 0 } },
  },
  'a note on syntax is a footnote': {
    section: syntax,
    files: diagram('<groupseq><kwd>sound</kwd><synnote>Only in fog.</synnote></groupseq>'),
    site: { shows: ['sound', 'Only in fog.'] },
    print: { shows: ['Only in fog.'], has: { note: 1 } },
  },
  'an excluded part of a diagram is not there': {
    section: '2.4.3.1 Conditional processing attributes',
    files: diagram(
      '<groupseq><kwd>light</kwd><groupseq importance="optional" audience="crew"><kwd>' +
        'forthwith</kwd>' +
        '</groupseq></groupseq>',
    ),
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    shows: ['light'],
    hides: ['forthwith'],
  },
  'a sort key is not shown': {
    section: '3.3.6.1 Utilities domain elements',
    files: {
      'a.dita':
        '<topic id="a"><title>Ærø<sort-as>Aeroe</sort-as></title><body><p>An island</p></body>' +
        '</topic>',
    },
    shows: ['Ærø', 'An island'],
    hides: ['Aeroe'],
  },
  'a history of changes is metadata': {
    section: '3.3.7 Release management domain elements',
    files: {
      'a.dita':
        '<topic id="a"><title>Anchors</title><prolog><metadata><change-historylist><change-item>' +
        '<change-person>Ada</change-person><change-summary>Chains added</change-summary>' +
        '</change-item></change-historylist></metadata></prolog><body><p>Drop it.</p></body>' +
        '</topic>',
    },
    shows: ['Anchors', 'Drop it.'],
    hides: ['Chains added'],
  },
  'an equation in a line reads on, and its number stands beside the equation': {
    section: '3.3.1.1 Equation domain elements',
    files: {
      'a.dita': topic(
        'a',
        'Depth',
        '<p>It is <equation-inline>d = ct</equation-inline>.</p>' +
          '<equation-block>d = ct / 2 <equation-number>7</equation-number></equation-block>',
      ),
    },
    shows: ['It is d = ct.', 'd = ct / 2', '7'],
  },
  'a figure of equations has a title': {
    section: '3.3.1.1 Equation domain elements',
    files: {
      'a.dita': topic(
        'a',
        'Depth',
        '<equation-figure><title>Sounding</title><equation-block>d = ct</equation-block>' +
          '</equation-figure>',
      ),
    },
    shows: ['d = ct', 'Sounding'],
    site: { has: { 'figure figcaption': 'Sounding' } },
  },
};
