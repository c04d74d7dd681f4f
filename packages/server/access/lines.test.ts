import { describe, expect, it } from 'vitest';
import type { Grant, Grants } from './grants.ts';
import { lineLimits, openLines } from './lines.ts';

/** Grants of people by the id of their session; those that are taken out hold no longer. */
function room() {
  const roles = new Map<string, string>();
  const grants = {
    standing: async (accesses: readonly { readonly id: string }[]) =>
      new Map(
        accesses.flatMap(({ id }) => {
          const role = roles.get(id);
          return role === undefined ? [] : [[id, { person: { role } } as Grant] as const];
        }),
      ),
  } as unknown as Grants;
  const lines = openLines(grants, () => undefined);
  const ended: string[] = [];
  const open = (name: string, { person = name, address = 'a', place = 'p' } = {}) => {
    roles.set(name, 'writer');
    const access = { kind: 'session', id: name } as const;
    const end = (): void => void ended.push(name);
    return lines.open({ access, person, role: 'writer', address, place, end });
  };
  return { roles, lines, ended, open };
}

describe('open lines', () => {
  it('end when their session is gone or their person has another role, and only then', async () => {
    const { roles, lines, ended, open } = room();
    for (const name of ['stays', 'gone', 'other-role']) open(name, { person: 'noor' });
    open('stranger', { person: 'teo' });
    roles.delete('gone');
    roles.set('other-role', 'reader');
    roles.delete('stranger');
    await lines.recheck('noor');
    expect(ended).toEqual(['gone', 'other-role']);
    lines.endAll();
    expect(ended).toContain('stays');
    lines.close();
  });
  it('are limited for each person, place and address, and make room when they close', () => {
    const { lines, open } = room();
    const opened = Array.from({ length: lineLimits.perPersonAndPlace }, (_, index) =>
      open(`one-${index}`, { person: 'noor' }),
    );
    expect(open('too-many', { person: 'noor' })).toBeUndefined();
    opened[0]!();
    expect(open('again', { person: 'noor' })).toBeDefined();
    for (let count = 0; open(`other-${count}`, { address: 'b', place: `q${count}` }); count += 1)
      expect(count).toBeLessThan(lineLimits.perAddress);
    expect(open('elsewhere', { address: 'c' })).toBeDefined();
    lines.close();
  });
});
