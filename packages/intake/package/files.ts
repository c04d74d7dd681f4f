/**
 * The files of a package by path with forward slashes; each is read when it is asked for. A map of
 * bytes is one.
 */
export interface PackageFiles {
  keys(): Iterable<string>;
  get(path: string): Uint8Array | undefined;
}

const textEndings = /\.(dita|ditamap|bookmap|xml|ditaval|json)$/iu;

/** Whether a file is read as a whole: topics, maps, lenses and what is published. */
export const isTextFile = (path: string): boolean => textEndings.test(path);
