import { readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { openSync } from 'fontkit';

const require = createRequire(import.meta.url);

/** The faces that ship, as static TrueType files: the engine reads no other kind. */
const faces: Record<string, readonly string[]> = {
  'source-serif-4': ['400Regular', '400Regular_Italic', '600SemiBold', '700Bold', '700Bold_Italic'],
  'source-sans-3': ['400Regular', '400Regular_Italic', '600SemiBold', '700Bold'],
  'source-code-pro': ['400Regular', '400Regular_Italic', '600SemiBold'],
  'noto-sans-jp': ['400Regular', '700Bold'],
  'noto-naskh-arabic': ['400Regular', '700Bold'],
  'noto-sans-hebrew': ['400Regular', '700Bold'],
};

/** The folders in which they are. */
export function faceFolders(): string[] {
  return Object.entries(faces).flatMap(([family, weights]) => {
    const folder = dirname(require.resolve(`@expo-google-fonts/${family}/package.json`));
    return weights
      .map((weight) => join(folder, weight))
      .filter((path) => readdirSync(path).some((name) => name.endsWith('.ttf')));
  });
}

let covered: ReadonlySet<number> | undefined;

/**
 * Whether one of the faces has a sign for a code point of Unicode; a page engine takes it from any
 * of them.
 */
export function hasSign(codePoint: number): boolean {
  covered ??= new Set(
    faceFolders().flatMap((folder) =>
      readdirSync(folder)
        .filter((name) => name.endsWith('.ttf'))
        .flatMap((name) => signsIn(join(folder, name))),
    ),
  );
  return covered.has(codePoint);
}

function signsIn(file: string): readonly number[] {
  const face = openSync(file);
  return 'characterSet' in face ? face.characterSet : [];
}
