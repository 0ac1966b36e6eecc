import { expect } from '@playwright/test';
import { insert, newTopic, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

test('Formulas are written by the keyboard, drawn at once, and told where they cannot be drawn', async ({ page }) => {
  const key = await newTopic(page, 'The area');
  await visit(page, `/edit/${key}`);
  await sheet(page).locator('p').click();
  await page.keyboard.press('End');
  await page.keyboard.type(' is ');
  await insert(page, 'formula', /Formula in the line/);
  const source = page.getByLabel('Formula, in TeX');
  await expect(source).toBeFocused();
  await page.keyboard.type('a \\cdot b');
  await expect(sheet(page).locator('p math')).toHaveText('a⋅b');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type(', its side $s^2$ too.');
  await expect(sheet(page).locator('p math')).toHaveCount(2);
  await page.keyboard.press('Enter');
  await insert(page, 'formula', /^Formula mathematics on|^Formula\b(?! in)/);
  await expect(source).toBeFocused();
  await page.getByRole('button', { name: 'Fraction' }).click();
  await page.keyboard.type('1');
  const alone = sheet(page).locator('[data-node=display_formula]');
  await expect(alone.locator('mfrac')).toHaveText('1b');
  await page.keyboard.type('%');
  await expect(page.locator('al-formula-panel')).toContainText('This cannot be drawn: a “%” would begin a remark');
  await expect(alone).toHaveText('\\frac{1%}{b}');
  await page.keyboard.press('Backspace');
  await expect(alone.locator('mfrac')).toHaveText('1b');
  await page.keyboard.press('Escape');
  await expect(sheet(page)).toBeFocused();
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('p').first()).toHaveText('The area is a⋅b, its side s2 too.');
  await expect(alone.locator('math[display=block] mfrac')).toHaveText('1b');
  // Drawn in the font that comes along, not in one of the machine.
  await page.evaluate('document.fonts.ready');
  expect(await page.evaluate('document.fonts.check(\'16px "STIX Two Math"\')')).toBe(true);
});
