import AxeBuilder from '@axe-core/playwright';
import { cells, expect, openPack, signedIn, test } from './malle';

/** What everybody needs: keys for all of it, and a phone in the field. The screens themselves are walked in axe.spec.ts and phone.spec.ts. */

test('the sign-in page is clean too, and needs no mouse', async ({ page, register }) => {
  await page.goto(register.url);
  await expect(page.getByRole('heading', { name: 'Who are you today?' })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id }) => id)).toEqual([]);
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();
});

test('every control of a pack’s page is reached by Tab and shows where the focus is', async ({
  custodian,
}) => {
  await openPack(custodian, 'FW-03');
  await expect(custodian.getByRole('figure').first()).toBeVisible();
  await custodian.locator('body').evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  const wanted = await custodian
    .locator('main :is(a[href], button, input, select, textarea, summary)')
    .evaluateAll(
      (controls) =>
        controls.filter((control) => control.checkVisibility({ contentVisibilityAuto: true })).length,
    );
  const reached = new Set<string>();
  for (let i = 0; i < wanted + 40; i++) {
    await custodian.keyboard.press('Tab');
    const focus = await custodian.evaluate(() => {
      const element = document.activeElement;
      if (!element?.closest('main')) return null;
      const all = [
        ...document.querySelectorAll('main :is(a[href], button, input, select, textarea, summary)'),
      ];
      return {
        at: String(all.indexOf(element)),
        outline: getComputedStyle(element.closest('label') ?? element).outlineStyle,
        tag: element.tagName,
      };
    });
    if (!focus) continue;
    expect(focus.outline === 'none' ? focus : 'outlined').toBe('outlined');
    reached.add(focus.at);
  }
  // The condition's three answers are one stop: arrow keys choose among them.
  expect(reached.size).toBeGreaterThanOrEqual(wanted - 2);
});

test('a pilot in the field: may I fly this one, on a phone', async ({ browser, register }) => {
  const page = await signedIn(browser, register, 'Jory Penhallick', { phone: true });
  await page.getByRole('combobox', { name: /Scan or type/ }).fill('IQ-05');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'IQ-05' })).toBeVisible();
  await expect(page.getByText('Charge before flying')).toBeInViewport();
  await expect(cells(page)).not.toBeFocused();
  const small = await page.locator('main :is(button, a[href], input, select)').evaluateAll((controls) =>
    controls
      .filter((control) => control.closest('[hidden]') === null && control.getClientRects().length > 0)
      .filter(
        (control) =>
          !control.classList.contains('sr-only') && !control.closest('details:not([open]) > :not(summary)'),
      )
      .map((control) => ({ name: control.textContent, height: control.getBoundingClientRect().height }))
      .filter(({ height }) => height < 24),
  );
  expect(small).toEqual([]);
  await page.context().close();
});
