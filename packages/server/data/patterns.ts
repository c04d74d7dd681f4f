import { Op } from 'sequelize';

/** A text as a part of a LIKE pattern that matches only that text. */
export const likePattern = (text: string): string => text.replace(/[\\%_]/gu, '\\$&');

/** The condition that a column contains a text, in either case. */
export const contains = (text: string): { [Op.iLike]: string } => ({
  [Op.iLike]: `%${likePattern(text)}%`,
});

/** The words of a typed filter: each has to occur. */
export const typedWords = (typed: string): string[] =>
  typed.split(/\s+/u).filter((word) => word !== '');
