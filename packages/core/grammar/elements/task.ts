import { row, type ElementDefinition } from '../definition.ts';

/** The parts of a task (DITA 1.3, general task with all kinds of steps). */
export const taskElements: readonly ElementDefinition[] = [
  row(
    'taskbody',
    'Task body',
    '(prereq | prelreqs | context | section)*, (steps | steps-unordered | steps-informal)?, result?, ' +
      'tasktroubleshooting?, example*, (postreq | closereqs)*',
    { help: 'The content of the task.', base: 'body' },
  ),
  row('prereq', 'Before you start', 'title?, (@sectionFlow)*', {
    help: 'What must be so before the first step.',
    base: 'section',
  }),
  row('context', 'About this task', 'title?, (@sectionFlow)*', {
    help: 'Why and when one does this.',
    base: 'section',
  }),
  row('steps', 'Steps', 'data*, (stepsection?, step)+', {
    help: 'What to do, in order.',
    base: 'ol',
  }),
  row('steps-unordered', 'Steps in any order', 'data*, (stepsection?, step)+', {
    help: 'What to do, in whatever order.',
    base: 'ul',
  }),
  row('steps-informal', 'Steps as prose', '(@flow)*', {
    help: 'What to do, told without numbered steps.',
    base: 'section',
  }),
  row('stepsection', 'Between steps', '(@flow)*', {
    help: 'Words that introduce a run of steps.',
    base: 'li',
  }),
  row(
    'step',
    'Step',
    '(note | hazardstatement)*, cmd, (info | choices | choicetable | substeps | itemgroup | stepxmp | ' +
      'tutorialinfo)*, stepresult?, steptroubleshooting?',
    { help: 'One action of the reader.', base: 'li' },
  ),
  row('cmd', 'Instruction', '(@inline)*', {
    help: 'The action itself, in one sentence.',
    base: 'ph',
  }),
  row('info', 'More on the step', '(@flow)*', {
    help: 'What helps to do the step.',
    base: 'itemgroup',
  }),
  row('substeps', 'Substeps', 'data*, substep+', { help: 'A step taken apart.', base: 'ol' }),
  row(
    'substep',
    'Substep',
    '(note | hazardstatement)*, cmd, (info | itemgroup | stepxmp | tutorialinfo)*, stepresult?',
    { help: 'One part of a step.', base: 'li' },
  ),
  row('choices', 'Choices', 'data*, choice+', { help: 'Ways to do the step.', base: 'ul' }),
  row('choice', 'Choice', '(@flow)*', { help: 'One way to do the step.', base: 'li' }),
  row('choicetable', 'Table of choices', 'chhead?, chrow+', {
    help: 'Choices beside what each of them means.',
    base: 'simpletable',
    attributes: 'relcolwidth keycol frame expanse scale spectitle',
  }),
  row('chhead', 'Choices head', 'choptionhd, chdeschd', {
    help: 'Heads of the columns.',
    base: 'sthead',
  }),
  row('choptionhd', 'Choice head', '(@flow)*', {
    help: 'Heads the column of choices.',
    base: 'stentry',
  }),
  row('chdeschd', 'Meaning head', '(@flow)*', {
    help: 'Heads the column of meanings.',
    base: 'stentry',
  }),
  row('chrow', 'Choice row', 'choption, chdesc', { help: 'One choice.', base: 'strow' }),
  row('choption', 'Choice', '(@flow)*', { help: 'What can be chosen.', base: 'stentry' }),
  row('chdesc', 'Meaning', '(@flow)*', { help: 'What choosing it means.', base: 'stentry' }),
  row('itemgroup', 'Part of an item', '(@flow)*', 'Holds parts of an item together.'),
  row('stepxmp', 'Example of the step', '(@flow)*', { help: 'The step shown.', base: 'itemgroup' }),
  row('tutorialinfo', 'Lesson', '(@flow)*', {
    help: 'What a learner gains from the step.',
    base: 'itemgroup',
  }),
  row('stepresult', 'Result of the step', '(@flow)*', {
    help: 'What the reader sees after the step.',
    base: 'itemgroup',
  }),
  row('steptroubleshooting', 'If the step fails', '(@flow)*', {
    help: 'What to do when the step does not work.',
    base: 'itemgroup',
  }),
  row('result', 'Result', 'title?, (@sectionFlow)*', {
    help: 'What is so after the last step.',
    base: 'section',
  }),
  row('tasktroubleshooting', 'If it does not work', 'title?, (@sectionFlow)*', {
    help: 'What to do when the task fails.',
    base: 'section',
  }),
  row('postreq', 'What to do next', 'title?, (@sectionFlow)*', {
    help: 'What must follow.',
    base: 'section',
  }),
];
