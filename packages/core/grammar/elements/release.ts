import { row, type ElementDefinition } from '../definition.ts';

const fact = (name: string, label: string, help: string, content = '#text*'): ElementDefinition =>
  row(name, label, content, { help, base: 'data', attributes: 'name value datatype' });

/** What changed in a topic, as metadata (DITA 1.3, release management domain). */
export const releaseElements: readonly ElementDefinition[] = [
  fact('change-historylist', 'Change history', 'The changes to this topic.', 'change-item*'),
  fact(
    'change-item',
    'Change',
    'One change.',
    '(change-person | change-organization | change-revisionid | change-request-reference | ' +
      'change-started | change-completed | change-summary | data)*',
  ),
  fact('change-person', 'Person', 'The person who made the change.'),
  fact('change-organization', 'Organisation', 'The organisation that made the change.'),
  fact('change-revisionid', 'Revision', 'The revision in which the change was made.'),
  fact(
    'change-request-reference',
    'Change request',
    'The request for the change.',
    '(change-request-system | change-request-id)*',
  ),
  fact('change-request-system', 'Request system', 'The system that keeps the request.'),
  fact('change-request-id', 'Request ID', 'The ID of the request.'),
  fact('change-started', 'Started', 'The date on which the change began.'),
  fact('change-completed', 'Completed', 'The date on which the change was completed.'),
  fact('change-summary', 'Summary', 'A summary of the change.'),
];
