import { mostShapes, type Proof } from '@ukiyo/contracts';

/** What is known of a proof already: of the next one only what is new is asked for. */
export const has = (before: Proof | undefined): string[] =>
  Object.keys(before?.shapes ?? {}).slice(0, mostShapes);

/** A proof with everything that is on its pages, of which the asker had some. */
export function completed(answer: Proof, before: Proof | undefined): Proof {
  const known = (shape: string): string => answer.shapes[shape] ?? before?.shapes[shape] ?? '';
  return {
    ...answer,
    shapes: Object.fromEntries(
      answer.pages.flatMap(({ pieces }) => pieces.map(({ shape }) => [shape, known(shape)])),
    ),
  };
}
