/**
 * Topics as Markdown, for those that Markdown can express.
 * In: a topic, or Markdown and the topic that it was; out: the other, without loss, or what stands
 * in the way by name and line.
 */
export { readMarkdown, type ReadMarkdown } from './read.ts';
export { writeMarkdown, type WrittenMarkdown } from './write.ts';
