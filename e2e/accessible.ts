import AxeBuilder from '@axe-core/webdriverjs';
import type { WebDriver } from 'selenium-webdriver';

/** Violations of WCAG 2.1 A and AA on the screen as it is now. */
export async function violations(driver: WebDriver): Promise<string[]> {
  const { violations } = await new AxeBuilder(driver).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  return violations.map((each) => `${each.id}: ${each.nodes.map((node) => node.target.join(' ')).slice(0, 4).join(' | ')}`);
}
