import { expect } from './malle';
import { onEachScreen } from './screens';

/** No screen scrolls sideways on a phone, down to 360 px. */
onEachScreen(true, async (page) => {
  const tooWide: string[] = [];
  for (const width of [390, 360]) {
    await page.setViewportSize({ width, height: 844 });
    const sideways = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    if (sideways > 0) tooWide.push(`${sideways} px at ${width}`);
  }
  expect(tooWide).toEqual([]);
});
