import { map, topic, type Cases } from '../case.ts';

const flagging = '2.4.3.3 Filtering and flagging logic';
const revisions = '3.10.2 revprop';
const flagParts = '3.10.4 startflag and endflag';
const styles = '3.10.1 prop';

const flagged = (look: string, inner = ''): string =>
  `<val><prop att="audience" val="crew" action="flag" ${look}>${inner}</prop></val>`;
const forCrew = {
  'a.dita': topic('a', 'Anchors', '<p>Plain.</p><p audience="crew">For the crew.</p>'),
};
const revised = {
  'a.dita': topic('a', 'Anchors', '<p>Plain.</p><p rev="2">Revised.</p><p rev="3">Newer.</p>'),
};
const sign =
  '<svg xmlns="http://www.w3.org/2000/svg" width="8" height="8"><rect width="8" height="8"/></svg>';

export const flags: Cases = {
  'what is flagged has the colour that the filter gives it': {
    section: styles,
    files: forCrew,
    filter: flagged('color="#112233"'),
    site: { has: { '.marked[style*="color:#112233"]': ['For the crew.'] } },
  },
  'colours have names': {
    section: styles,
    files: forCrew,
    filter: flagged('backcolor="yellow"'),
    site: { has: { '.marked[style*="background:#ffff00"]': ['For the crew.'] } },
  },
  'what is flagged has the letters that the filter gives it': {
    section: styles,
    files: forCrew,
    filter: flagged('style="bold italics"'),
    shows: ['For the crew.'],
    site: { has: { '[style*="font-weight:bold"][style*="font-style:italic"]': ['For the crew.'] } },
  },
  'what is flagged is underlined': {
    section: styles,
    files: forCrew,
    filter: flagged('style="underline"'),
    site: { has: { '[style*="text-decoration:underline"]': ['For the crew.'] } },
  },
  'what is flagged is underlined twice': {
    section: styles,
    files: forCrew,
    filter: flagged('style="double-underline"'),
    site: { has: { '[style*="text-decoration:underline double"]': ['For the crew.'] } },
  },
  'what is flagged is struck through, and has a line above': {
    section: styles,
    files: forCrew,
    filter: flagged('style="overline line-through"'),
    site: { has: { '[style*="text-decoration:overline line-through"]': ['For the crew.'] } },
  },
  'what is flagged in several colours has those for conflicts': {
    section: '3.10.6 style-conflict',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p audience="crew" platform="quay">For both.</p><p audience="crew">For the crew.</p>',
      ),
    },
    filter:
      '<val><style-conflict foreground-conflict-color="red"/>' +
      '<prop att="audience" val="crew" action="flag" color="#112233" backcolor="#eeeeee"/>' +
      '<prop att="platform" val="quay" action="flag" color="#332211" backcolor="#dddddd"/></val>',
    site: {
      has: {
        '.marked[style*="color:#ff0000"][style*="background:#eeeeee"]': ['For both.'],
        '.marked[style*="color:#112233"]': ['For the crew.'],
      },
    },
  },
  'a style that is not known is reported': {
    section: styles,
    files: forCrew,
    filter: flagged('style="shimmering"'),
    shows: ['For the crew.'],
    problems: ['ditaval.unknown-look'],
  },
  'words stand before and after what is flagged': {
    section: flagParts,
    files: forCrew,
    filter: flagged(
      '',
      '<startflag><alt-text>[Crew:</alt-text></startflag><endflag><alt-text>end]</alt-text>' +
        '</endflag>',
    ),
    shows: ['Plain.', '[Crew: For the crew. end]'],
  },
  'an image stands before what is flagged': {
    section: flagParts,
    files: { ...forCrew, 'sign.svg': sign },
    filter: flagged('', '<startflag imageref="sign.svg"><alt-text>Crew</alt-text></startflag>'),
    shows: ['Plain.', 'For the crew.'],
    site: { has: { 'p img[alt=Crew]': 1 } },
    print: { has: { figure: 1 } },
  },
  'an image stands after what is flagged': {
    section: flagParts,
    files: { ...forCrew, 'sign.svg': sign },
    filter: flagged('', '<endflag imageref="sign.svg"><alt-text>Crew</alt-text></endflag>'),
    site: { has: { 'p img[alt=Crew]': 1 } },
  },
  'the words of a flag stand in for an image that is not there': {
    section: flagParts,
    files: forCrew,
    filter: flagged('', '<startflag imageref="gone.svg"><alt-text>Crew:</alt-text></startflag>'),
    shows: ['Crew: For the crew.'],
    problems: ['ditaval.unknown-look'],
  },
  'a phrase is flagged': {
    section: flagging,
    files: { 'a.dita': topic('a', 'Anchors', '<p>All <ph audience="crew">and crew</ph>.</p>') },
    filter: flagged('color="#112233" style="bold"'),
    site: { has: { 'p span.marked': ['and crew'] } },
  },
  'what is plain is not flagged': {
    section: flagging,
    files: forCrew,
    filter: flagged('color="#112233"'),
    site: { has: { '.marked': ['For the crew.'] } },
  },
  'of several flags each gives what the others do not': {
    section: flagging,
    files: {
      'a.dita': topic('a', 'Anchors', '<p audience="crew" platform="deck">Both.</p>'),
    },
    filter:
      '<val><prop att="audience" val="crew" action="flag" color="#112233"/>' +
      '<prop att="platform" val="deck" action="flag" style="bold"/></val>',
    site: { has: { '[style*="color:#112233"][style*="font-weight:bold"]': ['Both.'] } },
  },
  'a revision is flagged': {
    section: revisions,
    files: revised,
    filter: '<val><revprop val="2" action="flag" color="#112233"/></val>',
    shows: ['Plain.', 'Revised.', 'Newer.'],
    site: { has: { '.marked': ['Revised.'] } },
  },
  'a revision has a bar beside it': {
    section: revisions,
    files: revised,
    filter: '<val><revprop val="2" action="flag" changebar="solid"/></val>',
    site: { has: { '.barred': ['Revised.'] } },
  },
  'all revisions are flagged': {
    section: revisions,
    files: revised,
    filter: '<val><revprop action="flag" style="italics"/></val>',
    site: { has: { '[style*="font-style:italic"]': ['Revised.', 'Newer.'] } },
  },
  'a revision that is not to be flagged is plain': {
    section: revisions,
    files: revised,
    filter: '<val><revprop val="2" action="noflag"/><revprop action="flag" style="bold"/></val>',
    site: { has: { '[style*="font-weight:bold"]': ['Newer.'] } },
  },
  'revisions are never filtered': {
    section: revisions,
    files: revised,
    filter: '<val><prop action="exclude"/></val>',
    shows: ['Plain.', 'Revised.', 'Newer.'],
  },
  'an excluded element is not flagged but gone': {
    section: flagging,
    files: {
      'a.dita': topic('a', 'Anchors', '<p>Plain.</p><p audience="crew" rev="2">For the crew.</p>'),
    },
    filter:
      '<val><prop att="audience" val="crew" action="exclude"/>' +
      '<revprop val="2" action="flag" style="bold"/></val>',
    hides: ['For the crew.'],
  },
  'flags hold in one branch alone': {
    section: '2.4.3.4 Branch filtering',
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"/><topicref href="b.dita"><ditavalref href="crew.ditaval"/>' +
          '</topicref>',
      ),
      'crew.ditaval': flagged('color="#112233"'),
      ...forCrew,
      'b.dita': topic('b', 'Buoys', '<p audience="crew">Crew at the buoy.</p>'),
    },
    site: { has: { '.marked': ['Crew at the buoy.'] } },
  },
};
