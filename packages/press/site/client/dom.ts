export const byId = (id: string): HTMLElement | null => document.getElementById(id);

/** What the page says in the language of the site. */
export const label = (name: string): string => document.body.dataset[name] ?? '';

export function make(
  name: string,
  properties: Record<string, string> = {},
  ...children: (Node | string)[]
): HTMLElement {
  const made = document.createElement(name);
  for (const [key, value] of Object.entries(properties)) made.setAttribute(key, value);
  made.append(...children);
  return made;
}

/** Kept in the browser of the reader, where he lets anything be kept. */
export const kept = {
  read(name: string): string | null {
    try {
      return localStorage.getItem(name);
    } catch {
      return null;
    }
  },
  write(name: string, value: string): void {
    try {
      localStorage.setItem(name, value);
    } catch {
      // It is then as it was at the next page.
    }
  },
};
