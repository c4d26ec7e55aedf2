import AxeBuilder from '@axe-core/playwright';
import { expect } from './malle';
import { onEachScreen } from './screens';

const STANDARDS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

/** No violation axe can find. What the dark theme changes is colours, so contrast is all that is looked for again in it. */
onEachScreen(false, async (page) => {
  await page.emulateMedia({ colorScheme: 'light' });
  const light = await new AxeBuilder({ page }).withTags(STANDARDS).analyze();
  await page.emulateMedia({ colorScheme: 'dark' });
  const dark = await new AxeBuilder({ page }).withRules(['color-contrast']).analyze();
  const found = { light: light.violations, dark: dark.violations };
  const told = Object.entries(found).flatMap(([theme, violations]) =>
    violations.map(
      ({ id, nodes }) => `${theme}: ${id} at ${nodes.map(({ target }) => target.join(' ')).join(', ')}`,
    ),
  );
  expect(told).toEqual([]);
});
