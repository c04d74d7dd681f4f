import { row, type ElementDefinition } from '../definition.ts';

/** The parts of a task (DITA 1.3, general task with all kinds of steps). */
export const taskElements: readonly ElementDefinition[] = [
  row(
    'taskbody',
    'Task body',
    '(prereq | context | section)*, (steps | steps-unordered | steps-informal)?, result?, ' +
      'tasktroubleshooting?, example*, postreq*',
    'The content of the task.',
    {
      base: 'body',
    },
  ),
  row(
    'prereq',
    'Before you start',
    'title?, (@sectionFlow)*',
    'What must be so before the first step.',
    { base: 'section' },
  ),
  row('context', 'About this task', 'title?, (@sectionFlow)*', 'Why and when one does this.', {
    base: 'section',
  }),
  row('steps', 'Steps', 'data*, (stepsection?, step)+', 'What to do, in order.', { base: 'ol' }),
  row(
    'steps-unordered',
    'Steps in any order',
    'data*, (stepsection?, step)+',
    'What to do, in whatever order.',
    { base: 'ul' },
  ),
  row('steps-informal', 'Steps as prose', '(@flow)*', 'What to do, told without numbered steps.', {
    base: 'section',
  }),
  row('stepsection', 'Between steps', '(@flow)*', 'Words that introduce a run of steps.', {
    base: 'li',
  }),
  row(
    'step',
    'Step',
    'note*, cmd, (info | choices | choicetable | substeps | itemgroup | stepxmp | ' +
      'tutorialinfo)*, stepresult?, steptroubleshooting?',
    'One action of the reader.',
    { base: 'li' },
  ),
  row('cmd', 'Instruction', '(@inline)*', 'The action itself, in one sentence.', { base: 'ph' }),
  row('info', 'More on the step', '(@flow)*', 'What helps to do the step.', { base: 'itemgroup' }),
  row('substeps', 'Substeps', 'data*, substep+', 'A step taken apart.', { base: 'ol' }),
  row(
    'substep',
    'Substep',
    'note*, cmd, (info | itemgroup | stepxmp | tutorialinfo)*, stepresult?',
    'One part of a step.',
    { base: 'li' },
  ),
  row('choices', 'Choices', 'data*, choice+', 'Ways to do the step.', { base: 'ul' }),
  row('choice', 'Choice', '(@flow)*', 'One way to do the step.', { base: 'li' }),
  row(
    'choicetable',
    'Table of choices',
    'chhead?, chrow+',
    'Choices beside what each of them means.',
    { base: 'simpletable', attributes: 'relcolwidth keycol frame expanse scale spectitle' },
  ),
  row('chhead', 'Choices head', 'choptionhd, chdeschd', 'Heads of the columns.', {
    base: 'sthead',
  }),
  row('choptionhd', 'Choice head', '(@flow)*', 'Heads the column of choices.', { base: 'stentry' }),
  row('chdeschd', 'Meaning head', '(@flow)*', 'Heads the column of meanings.', { base: 'stentry' }),
  row('chrow', 'Choice row', 'choption, chdesc', 'One choice.', { base: 'strow' }),
  row('choption', 'Choice', '(@flow)*', 'What can be chosen.', { base: 'stentry' }),
  row('chdesc', 'Meaning', '(@flow)*', 'What choosing it means.', { base: 'stentry' }),
  row('itemgroup', 'Part of an item', '(@flow)*', 'Holds parts of an item together.'),
  row('stepxmp', 'Example of the step', '(@flow)*', 'The step shown.', { base: 'itemgroup' }),
  row('tutorialinfo', 'Lesson', '(@flow)*', 'What a learner gains from the step.', {
    base: 'itemgroup',
  }),
  row('stepresult', 'Result of the step', '(@flow)*', 'What the reader sees after the step.', {
    base: 'itemgroup',
  }),
  row(
    'steptroubleshooting',
    'If the step fails',
    '(@flow)*',
    'What to do when the step does not work.',
    { base: 'itemgroup' },
  ),
  row('result', 'Result', 'title?, (@sectionFlow)*', 'What is so after the last step.', {
    base: 'section',
  }),
  row(
    'tasktroubleshooting',
    'If it does not work',
    'title?, (@sectionFlow)*',
    'What to do when the task fails.',
    { base: 'section' },
  ),
  row('postreq', 'What to do next', 'title?, (@sectionFlow)*', 'What must follow.', {
    base: 'section',
  }),
];
