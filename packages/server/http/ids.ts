/**
 * An id made from a title: letters and digits of any script, not among those that are taken.
 * @param kind what it begins with where the title begins with no letter
 */
export function freeId(title: string, taken: ReadonlySet<string>, kind: string): string {
  const plain = title
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/gu, '')
    .slice(0, 60);
  const base = /^\p{L}/u.test(plain) ? plain : `${kind}-${plain}`.replace(/-$/u, '');
  let id = base;
  for (let count = 2; taken.has(id); count += 1) id = `${base}-${count}`;
  return id;
}
