/** Pages that a site has beside those of its topics. */
export const glossaryFile = 'glossary.html';
export const helpFile = 'help.html';
export const contextScriptFile = 'context-help.js';
