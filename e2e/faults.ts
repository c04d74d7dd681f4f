import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

interface Where {
  /** Only what is in here, and nothing of what is in there. */
  readonly within?: string;
  readonly without?: string;
  readonly exceptRules?: readonly string[];
  /** What axe calls best practices is asked for too. */
  readonly withPractices?: boolean;
}

/**
 * What axe finds on a page against WCAG 2.2, levels A and AA: the rule, the markup and the reason
 * of each. Asked for nothing but what is wrong, it takes a third of the time; no page has frames
 * that need another one beside it to gather.
 */
export async function faults(
  page: Page,
  { within, without, exceptRules = [], withPractices = false }: Where = {},
): Promise<string[]> {
  const axe = new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'] })
    .withTags([
      'wcag2a',
      'wcag2aa',
      'wcag21a',
      'wcag21aa',
      'wcag22aa',
      ...(withPractices ? ['best-practice'] : []),
    ])
    .disableRules([...exceptRules]);
  if (within !== undefined) axe.include(within);
  if (without !== undefined) axe.exclude(without);
  const { violations } = await axe.analyze();
  return violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ html, any }) => `${html} ${any[0]?.message ?? ''}`).join('\n')}`,
  );
}
