import { randomUUID } from 'node:crypto';
import { expect, type Browser, type Locator, type Page } from '@playwright/test';

export type Person = 'ines' | 'tomasz' | 'mara';

const isLoaded = (page: Page): boolean => page.url() !== 'about:blank';

/** One of the demo people is signed in, as the form for it would. */
export async function signIn(page: Page, name: Person): Promise<void> {
  await make(page, 'post', '/session', { name, password: `dunlin-${name}` });
}

/** Leaves everything that is open on a page, as somebody does who begins something else, and rests at a quiet place. */
export async function tidy(page: Page): Promise<void> {
  for (const other of page.context().pages()) if (other !== page) await other.close();
  await page.unrouteAll();
  await page.emulateMedia({ colorScheme: null });
  // A deliverable may have been opened last.
  if ((await page.locator('al-root').count()) === 0) {
    await page.goto('about:blank');
    return;
  }
  await page.mouse.move(0, 0);
  // Dialogs and lists that were left open.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.evaluate(goesTo('/settings'));
  const discard = page.getByRole('alertdialog').getByRole('button', { name: 'Leave and discard' });
  const heading = page.getByRole('heading', { name: 'My settings' });
  await expect(discard.or(heading)).toBeVisible();
  if (await discard.isVisible()) await discard.click();
  await expect(heading).toBeVisible();
  await page.evaluate(`document.querySelectorAll('.p-toast-close-button').forEach((each) => each.click())`);
  await expect(page.locator('.notice')).toHaveCount(0);
}

/** Another person at another machine. */
export async function elsewhere(browser: Browser, name: Person): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await signIn(page, name);
  return page;
}

/** The page on which content is written. */
export const sheet = (page: Page) => page.getByRole('textbox', { name: /^Content of/ });

/** Looks through a variant or profile; null takes the lens off. */
export async function lookThrough(page: Page, title: string | null): Promise<void> {
  if (title === null) {
    await page.keyboard.press('Alt+l');
    return;
  }
  // An earlier list may still be closing.
  await expect(page.getByRole('listbox')).toHaveCount(0);
  await page.locator('al-lens-strip p-select').click();
  await page.getByPlaceholder('Find a variant or profile').fill(title);
  await page.getByRole('option', { name: title, exact: true }).first().click();
}

/** Opens the insert menu and takes the option that a search finds. */
export async function insert(page: Page, find: string, option: string | RegExp): Promise<void> {
  await page.keyboard.press('Control+Space');
  await page.getByRole('combobox', { name: 'Find something to insert' }).fill(find);
  await page.getByRole('option', { name: option }).first().click();
}

export async function save(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/Saved as revision/).last()).toBeVisible();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
}

/**
 * Takes back what a notice tells. Notices of earlier acts may still be on their way out.
 * @param said what the notice says
 */
export async function takeBack(page: Page, said: string | RegExp): Promise<void> {
  const notice = page.locator('.notice').filter({ hasText: said }).last();
  await notice.getByRole('button', { name: 'Undo', exact: true }).click();
}

/** Waits until the page knows what is selected: the browser tells it after what is pressed at once. */
export async function selectionKnown(page: Page): Promise<void> {
  await page.evaluate('new Promise((done) => requestAnimationFrame(() => setTimeout(done)))');
}

/** Puts the cursor where a block is clicked. */
export async function clickInto(page: Page, block: Locator): Promise<void> {
  await block.click();
  await selectionKnown(page);
}

/** Waits until what was written is kept for the case that the window is closed. */
export async function draftWith(page: Page, text: string): Promise<void> {
  await expect.poll(async () => JSON.stringify(await page.context().storageState())).toContain(text);
}

/** Whether all animations of a page have ended. */
export const nothingMoves = `document.getAnimations().every(({ playState, effect }) =>
  playState !== 'running' || effect?.getTiming().iterations === Infinity)`;

/** Chooses a variant in the dialog of Builds, which is open on that place, and builds it. */
export async function buildVariant(page: Page, variant: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Build variants' }).click();
  const dialog = page.getByRole('dialog', { name: 'Build variants' });
  const option = dialog.getByRole('option', { name: variant });
  await expect(option).toBeVisible();
  // What is clicked while the dialog still moves may be missed.
  await expect.poll(() => page.evaluate<boolean>(nothingMoves)).toBe(true);
  await option.click();
  await expect(dialog).toContainText('1 variant is chosen.');
  await dialog.getByRole('button', { name: 'Build', exact: true }).click();
}

/** Opens a place and waits until something of it shows and nothing moves any more. */
export async function openPlace(page: Page, path: string, shows: string): Promise<void> {
  await visit(page, path);
  await expect(page.locator(shows).first()).toBeVisible();
  await expect.poll(() => page.evaluate<boolean>(nothingMoves)).toBe(true);
}

const goesTo = (path: string): string =>
  `history.pushState({}, '', ${JSON.stringify(path)}); dispatchEvent(new PopStateEvent('popstate', { state: {} }))`;

/** Opens a place on a page, whether the application is loaded there or not. */
export async function visit(page: Page, path: string): Promise<void> {
  if (isLoaded(page)) await goTo(page, path);
  else await page.goto(path);
}

/** Goes to another place within the page that is open, as back and forward do: the application is not loaded anew. */
export async function goTo(page: Page, path: string): Promise<void> {
  // Who is there already, stays.
  if (page.url() === new URL(path, page.url()).href) return;
  await page.evaluate(goesTo(path));
  // The application numbers what it went to; the address alone says so before it is there.
  await expect.poll(() => page.evaluate<unknown>('typeof history.state?.navigationId')).toBe('number');
}

/** Makes or changes something of the library, as the interface would. */
export async function make(
  page: Page,
  method: 'post' | 'put',
  address: string,
  data: object,
): Promise<{ key: string }> {
  const token = (await page.context().cookies()).find(({ name }) => name === 'XSRF-TOKEN')?.value ?? '';
  const response = await page.request[method](`/api${address}`, { data, headers: { 'X-XSRF-TOKEN': token } });
  expect(response.ok()).toBe(true);
  return (await response.json()) as { key: string };
}

/** A new topic of one's own, by a name that no other test has: tests may be repeated. */
export async function newTopic(page: Page, ...paragraphs: readonly string[]): Promise<string> {
  const key = `t-${randomUUID().slice(0, 12)}`;
  const text = (words: string) => [{ type: 'text', text: words }];
  const content = [
    { type: 'title', content: text(`Topic ${key}`) },
    ...paragraphs.map((words) => ({ type: 'paragraph', content: text(words) })),
  ];
  await make(page, 'post', '/components', {
    kind: 'topic',
    title: `Topic ${key}`,
    key,
    body: { type: 'topic', content },
  });
  return key;
}
