import AxeBuilder from '@axe-core/webdriverjs';
import type { WebDriver } from 'selenium-webdriver';

/** Violations of WCAG 2.1 A and AA on the screen as it is now. @param of its colours only: another look of the same screen has others, and nothing else */
export async function violations(driver: WebDriver, of: 'all' | 'colours' = 'all'): Promise<string[]> {
  // What passes is not gathered, and no other window is opened to put frames together: there are none.
  const axe = new AxeBuilder(driver).options({ resultTypes: ['violations'] }).setLegacyMode(true);
  const { violations } = await (
    of === 'all' ? axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']) : axe.withRules(['color-contrast'])
  ).analyze();
  return violations.map(
    (each) =>
      `${each.id}: ${each.nodes
        .map((node) => node.target.join(' '))
        .slice(0, 4)
        .join(' | ')}`,
  );
}
