import { row, type ElementDefinition } from '../definition.ts';

const list = (name: string, label: string, content: string, help: string): ElementDefinition =>
  row(name, label, content, { help, base: 'ul' });
const item = (name: string, label: string, help: string): ElementDefinition =>
  row(name, label, '(@flow)*', { help, base: 'li' });
const none = (name: string, label: string, help: string): ElementDefinition =>
  row(name, label, 'empty', { help, base: 'li' });
const kit = (name: string, label: string, content: string, help: string): ElementDefinition =>
  row(name, label, content, { help, base: 'p' });

/** What a task on a machine needs before and after (DITA 1.3, task requirements domain). */
export const machineryElements: readonly ElementDefinition[] = [
  row('prelreqs', 'Requirements', 'reqconds?, reqpers?, supequip?, supplies?, spares?, safety?', {
    help: 'Everything that is needed before the first step.',
    base: 'prereq',
  }),
  row('closereqs', 'Closing requirements', 'reqconds?', {
    help: 'The conditions that must be met after the last step.',
    base: 'postreq',
  }),
  list(
    'reqconds',
    'Required conditions',
    'noconds | (reqcond | reqcontp)+',
    'The conditions that must be met.',
  ),
  none('noconds', 'No conditions', 'No condition has to be met.'),
  item('reqcond', 'Condition', 'A condition that must be met.'),
  item('reqcontp', 'Technical condition', 'A condition that another document describes.'),
  list(
    'reqpers',
    'Required personnel',
    '(personnel, perscat?, perskill?, esttime?)+',
    'The people who are needed.',
  ),
  item('personnel', 'Personnel', 'How many people of which kind are needed.'),
  item('perscat', 'Category', 'The trade or category of the personnel.'),
  item('perskill', 'Skill', 'The skill level of the personnel.'),
  item('esttime', 'Estimated time', 'The time that the personnel needs.'),
  kit('supequip', 'Support equipment', 'nosupeq | supeqli+', 'The equipment that is needed.'),
  none('nosupeq', 'No equipment', 'No support equipment is needed.'),
  list('supeqli', 'List of equipment', 'supequi+', 'Pieces of support equipment.'),
  item('supequi', 'Piece of equipment', 'One piece of support equipment.'),
  kit('supplies', 'Supplies', 'nosupply | supplyli+', 'The supplies that are needed.'),
  none('nosupply', 'No supplies', 'No supplies are needed.'),
  list('supplyli', 'List of supplies', 'supply+', 'Supplies that are used up.'),
  item('supply', 'Supply', 'One of the supplies.'),
  kit('spares', 'Spare parts', 'nospares | sparesli+', 'The spare parts that are needed.'),
  none('nospares', 'No spare parts', 'No spare parts are needed.'),
  list('sparesli', 'List of spare parts', 'sparepart+', 'Spare parts that are fitted.'),
  item('sparepart', 'Spare part', 'One spare part.'),
  row('safety', 'Safety conditions', 'nosafety | safecond+', {
    help: 'The safety conditions of the task.',
    base: 'ol',
  }),
  none('nosafety', 'No safety conditions', 'No safety condition applies.'),
  item('safecond', 'Safety condition', 'One safety condition.'),
];
