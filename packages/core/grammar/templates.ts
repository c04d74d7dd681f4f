import { element, type Element, type Node } from '../markup/index.ts';
import type { TopicKind } from './table.ts';

/**
 * The processing instruction that holds guidance: shown in an empty element, gone once something is
 * typed, never published.
 */
export const guidanceTarget = 'guidance';

const guide = (body: string): Node => ({ target: guidanceTarget, body });
const empty = (name: string, guidance: string): Element => element(name, {}, [guide(guidance)]);
const opening = (title: string, shortdesc: string): Element[] => [
  empty('title', title),
  empty('shortdesc', shortdesc),
];

const bodies: Record<TopicKind, () => Element[]> = {
  concept: () => [
    ...opening(
      'Name the thing itself: a noun, not “Introduction to …”',
      'What is it, in one sentence that stands alone in a search result?',
    ),
    element('conbody', {}, [
      empty(
        'p',
        'What does the reader gain from knowing it? How does it relate to what they know?',
      ),
    ]),
  ],
  task: () => [
    ...opening(
      'Start with a verb: “Fit the bracket”',
      'When or why does the reader do this? One sentence.',
    ),
    element('taskbody', {}, [
      element('prereq', {}, [empty('p', 'What must be so, or at hand, before the first step?')]),
      element('context', {}, [
        empty('p', 'What helps to understand the steps? Leave it out if nothing.'),
      ]),
      element('steps', {}, [
        element('step', {}, [empty('cmd', 'One action in one sentence, beginning with a verb')]),
      ]),
      element('result', {}, [empty('p', 'What does the reader see when it worked?')]),
    ]),
  ],
  reference: () => [
    ...opening(
      'Name what is looked up: “Alarm codes”',
      'What does the reader find here? One sentence.',
    ),
    element('refbody', {}, [
      element('section', {}, [
        empty('title', 'A heading that can be scanned for'),
        empty('p', 'Facts, shortest first; a table where there are many of a kind'),
      ]),
    ]),
  ],
  troubleshooting: () => [
    ...opening(
      'Name what the reader sees: “The display stays dark”',
      'What is wrong, in the words of someone who calls for help?',
    ),
    element('troublebody', {}, [
      element('condition', {}, [
        empty('p', 'How does it show? What else is true when it happens?'),
      ]),
      element('troubleSolution', {}, [
        element('cause', {}, [empty('p', 'The most likely cause first')]),
        element('remedy', {}, [
          element('steps', {}, [
            element('step', {}, [empty('cmd', 'What puts it right, one action at a time')]),
          ]),
        ]),
      ]),
    ]),
  ],
  glossentry: () => [
    empty('glossterm', 'The term as it is used in text'),
    empty('glossdef', 'What it means, in one sentence that could replace the term'),
  ],
  topic: () => [
    ...opening('What is this about?', 'What does the reader find here? One sentence.'),
    element('body', {}, [empty('p', 'Begin with what matters most')]),
  ],
};

/** A new topic of a kind, valid and with guidance in its empty places. */
export function topicTemplate(kind: TopicKind, id: string, title = ''): Element {
  const children = bodies[kind]();
  if (title !== '') children[0] = element(children[0]!.name, {}, [title]);
  return element(kind, { id }, children);
}

/** A new map with a title and no topics. */
export function mapTemplate(id: string, title: string): Element {
  return element('map', { id }, [element('title', {}, [title])]);
}
