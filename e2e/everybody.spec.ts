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

/** What Tab stops at. Answers side by side, and tabs, are one stop together: arrow keys choose among them. */
const CONTROLS =
  'main :is(a[href], button, input, textarea, [role=radiogroup], [role=tablist]):not([aria-hidden=true], [tabindex="-1"])';

test('every control of a pack’s page is reached by Tab and shows where the focus is', async ({
  custodian,
}) => {
  await openPack(custodian, 'FW-03');
  await expect(custodian.getByRole('figure').first()).toBeVisible();
  await custodian.locator('body').evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  const wanted = await custodian
    .locator(CONTROLS)
    .evaluateAll(
      (controls) =>
        controls.filter((control) => control.checkVisibility({ contentVisibilityAuto: true })).length,
    );
  for (let i = 0; i < wanted + 40; i++) {
    await custodian.keyboard.press('Tab');
    const focus = await custodian.evaluate(() => {
      const element = document.activeElement;
      if (!element?.closest('main')) return null;
      (element.closest('[role=radiogroup], [role=tablist]') ?? element).setAttribute('data-reached', '');
      return { outline: getComputedStyle(element).outlineStyle, tag: element.tagName };
    });
    if (focus) expect(focus.outline === 'none' ? focus : 'outlined').toBe('outlined');
  }
  expect(await custodian.locator('main [data-reached]').count()).toBeGreaterThanOrEqual(wanted);
});

test('a pilot in the field: may I fly this one, on a phone', async ({ browser, register }) => {
  const page = await signedIn(browser, register, 'Jory Penhallick', { phone: true });
  await page.getByRole('combobox', { name: /Scan or type/ }).fill('IQ-05');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'IQ-05' })).toBeVisible();
  await expect(page.getByText('Charge before flying')).toBeInViewport();
  await expect(cells(page)).not.toBeFocused();
  const small = await page
    .locator('main :is(button, a[href], input):not([aria-hidden=true])')
    .evaluateAll((controls) =>
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
