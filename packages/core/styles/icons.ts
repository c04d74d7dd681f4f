/**
 * The marks that ship, drawn on 24 × 24; `currentColor` is the colour of the note that they belong
 * to. Each fills its square from edge to edge.
 */
export const icons: Readonly<Record<string, string>> = {
  hazard:
    '<path fill="currentColor" d="M12 1 23.4 23H.6z"/>' +
    '<path fill="none" stroke="#fff" stroke-width="2.4" stroke-linecap="round" d="M12 9v6.5M12 19.4v.1"/>',
  triangle:
    '<path fill="none" stroke="currentColor" stroke-width="2.2" stroke-linejoin="round" d="M12 2.2 22.6 22H1.4z"/>' +
    '<path fill="none" stroke="currentColor" stroke-width="2.4" stroke-linecap="round" d="M12 9.4v5.8M12 18.7v.1"/>',
  square:
    '<rect x="1.2" y="1.2" width="21.6" height="21.6" rx="3" fill="none" stroke="currentColor" stroke-width="2.2"/>' +
    '<path fill="none" stroke="currentColor" stroke-width="2.6" stroke-linecap="round" d="M12 6.5v7M12 17.6v.1"/>',
  circle:
    '<circle cx="12" cy="12" r="10.8" fill="none" stroke="currentColor" stroke-width="2.2"/>' +
    '<path fill="none" stroke="currentColor" stroke-width="2.6" stroke-linecap="round" d="M12 7v.1M12 11.2v6"/>',
  tick:
    '<circle cx="12" cy="12" r="10.8" fill="none" stroke="currentColor" stroke-width="2.2"/>' +
    '<path fill="none" stroke="currentColor" stroke-width="2.4" stroke-linecap="round" stroke-linejoin="round" d="m7 12.6 3.4 3.6 6.6-8"/>',
  wrench:
    '<path fill="none" stroke="currentColor" stroke-width="2.2" stroke-linejoin="round" d="M1.4 19.2 11 9.6a6.2 6.2 0 0 1 8-8l-4 4 .8 2.6 2.6.8 4-4a6.2 6.2 0 0 1-8 8l-9.6 9.6z"/>',
};

/** A mark as an image of one colour. */
export const iconImage = (name: string, colour: string): string | undefined => {
  const drawn = icons[name];
  return drawn === undefined
    ? undefined
    : `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24" width="24" height="24">${drawn.replaceAll('currentColor', colour)}</svg>`;
};
