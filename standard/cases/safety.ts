import { topic, type Cases } from '../case.ts';

const hazards = '3.3.2.1 Hazard statement domain elements';
const requirements = '3.3.8 Task requirements domain elements';

const hazard = (attributes: string, ...panels: readonly string[]): string =>
  `<hazardstatement ${attributes}>${panels.join('')}</hazardstatement>`;
const panel =
  '<messagepanel><typeofhazard>Rotating light</typeofhazard>' +
  '<consequence>The lens can crush a hand.</consequence>' +
  '<howtoavoid>Switch the drive off.</howtoavoid><howtoavoid>Wait until it stands.</howtoavoid>' +
  '</messagepanel>';
/** One task of which these requirements are the beginning. */
const task = (before: string, after = ''): Record<string, string> => ({
  'a.dita':
    `<task id="a"><title>Lift the lens</title><taskbody>${before}` +
    `<steps><step><cmd>Lift it.</cmd></step></steps>${after}</taskbody></task>`,
});

export const safety: Cases = {
  'a hazard statement says its signal word, the hazard, what can happen and how to avoid it': {
    section: hazards,
    files: { 'a.dita': topic('a', 'Lens', hazard('type="danger"', panel)) },
    shows: [
      'Danger',
      'Rotating light',
      'The lens can crush a hand.',
      'Switch the drive off.',
      'Wait until it stands.',
    ],
    site: {
      has: { '.hazard.danger .signal': 'Danger', '.hazard .typeofhazard': 'Rotating light' },
    },
  },
  'a hazard statement can have several messages': {
    section: hazards,
    files: {
      'a.dita': topic(
        'a',
        'Lens',
        hazard(
          'type="warning"',
          panel,
          '<messagepanel><typeofhazard>Mercury</typeofhazard>' +
            '<howtoavoid>Wear gloves.</howtoavoid></messagepanel>',
        ),
      ),
    },
    shows: ['Warning', 'Rotating light', 'Mercury', 'Wear gloves.'],
    site: { has: { '.hazard .message': 2 } },
  },
  'a way to avoid a hazard can be a list': {
    section: hazards,
    files: {
      'a.dita': topic(
        'a',
        'Lens',
        hazard(
          'type="caution"',
          '<messagepanel><typeofhazard>Heat</typeofhazard><howtoavoid>Before you touch it:' +
            '<ul><li>Let it cool.</li><li>Wear gloves.</li></ul></howtoavoid></messagepanel>',
        ),
      ),
    },
    shows: ['Caution', 'Heat', 'Before you touch it:', 'Let it cool.', 'Wear gloves.'],
    site: { has: { '.hazard li': ['Let it cool.', 'Wear gloves.'] } },
    print: { has: { lbody: ['Let it cool.', 'Wear gloves.'] } },
  },
  'a hazard statement stands before the command of its step': {
    section: hazards,
    files: {
      'a.dita':
        `<task id="a"><title>Lift</title><taskbody><steps><step>${hazard('type="danger"', panel)}` +
        '<cmd>Lift the lens.</cmd></step></steps></taskbody></task>',
    },
    shows: ['Danger', 'Rotating light', 'Lift the lens.'],
  },
  'an excluded message of a hazard is not there': {
    section: '2.4.3.1 Conditional processing attributes',
    files: {
      'a.dita': topic(
        'a',
        'Lens',
        hazard(
          'type="danger"',
          panel,
          '<messagepanel audience="crew"><typeofhazard>Oil</typeofhazard>' +
            '<howtoavoid>Mop it.</howtoavoid></messagepanel>',
        ),
      ),
    },
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    shows: ['Rotating light'],
    hides: ['Mop it.', 'Oil'],
  },
  'a hazard statement of another type is named by it': {
    section: hazards,
    files: {
      'a.dita': topic('a', 'Lens', hazard('type="other" othertype="Beware"', panel)),
    },
    shows: ['Beware', 'Rotating light'],
  },
  'conditions, personnel, equipment, supplies, spares and safety stand before the steps': {
    section: requirements,
    files: task(
      '<prelreqs><reqconds><reqcond>The light is off.</reqcond></reqconds>' +
        '<reqpers><personnel>2 keepers</personnel><perscat>Mechanic</perscat>' +
        '<perskill>Skilled</perskill><esttime>3 h</esttime></reqpers>' +
        '<supequip><supeqli><supequi>Chain hoist</supequi></supeqli></supequip>' +
        '<supplies><supplyli><supply>Grease</supply></supplyli></supplies>' +
        '<spares><sparesli><sparepart>Bearing ring</sparepart></sparesli></spares>' +
        '<safety><safecond>Wear a helmet.</safecond></safety></prelreqs>',
    ),
    shows: [
      'Before you start',
      'Required conditions',
      'The light is off.',
      'Required personnel',
      '2 keepers',
      'Mechanic',
      'Skilled',
      '3 h',
      'Support equipment',
      'Chain hoist',
      'Supplies',
      'Grease',
      'Spare parts',
      'Bearing ring',
      'Safety conditions',
      'Wear a helmet.',
      'Lift it.',
    ],
  },
  'requirements of which there are none say so': {
    section: requirements,
    files: task(
      '<prelreqs><reqconds><noconds/></reqconds><supequip><nosupeq/></supequip>' +
        '<safety><nosafety/></safety></prelreqs>',
    ),
    shows: [
      'Required conditions',
      'None',
      'Support equipment',
      'None',
      'Safety conditions',
      'None',
    ],
  },
  'closing conditions stand after the steps': {
    section: requirements,
    files: task(
      '',
      '<closereqs><reqconds><reqcond>The light turns.</reqcond></reqconds></closereqs>',
    ),
    shows: ['Lift it.', 'What to do next', 'Required conditions', 'The light turns.'],
  },
};
