/**
 * What is right beyond the content model: the team's own rules, and whether a text is complete.
 * In: a tree and rules as data; out: problems, many with a fix, and the tree after fixes.
 * Patterns of rules are matched in linear time, so that none can run without end.
 */
export { checkCompleteness, placeholderTarget } from './completeness.ts';
export { checkHouseRules, mostHouseProblems, patternFrom } from './check.ts';
export { applyEdit, applyFixes } from './fixing.ts';
export { countedWords, permits, ruleSentence, type HouseRule } from './house-rule.ts';
export { leadsOutside, webAddress } from './web-address.ts';
