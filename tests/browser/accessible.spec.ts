import { expect, type Page } from '@playwright/test';
import { findings, type Looked } from '../support/accessibility.js';
import { goTo, nothingMoves, openPlace } from './people.js';
import { testAs, testOnNewPage } from './server.js';

const test = testAs('tomasz');

// These take minutes each, and share nothing.
test.describe.configure({ mode: 'parallel' });

/** What has been found on a page, in every state that was looked at: rules of WCAG and of good practice, of any impact. */
class Finder {
  readonly found: string[] = [];

  constructor(private readonly page: Page) {}

  /**
   * @param state what the page shows, for the report
   * @param within a selector: only what lies in it is looked at
   */
  async look(state: string, looked?: Looked, within?: string): Promise<void> {
    await expect.poll(() => this.page.evaluate<boolean>(nothingMoves)).toBe(true);
    for (const each of await findings(this.page, looked, within)) this.found.push(`${state}: ${each}`);
  }

  /** Whether nothing makes the page wider than the window. */
  async fits(state: string, width: number): Promise<void> {
    const { height } = this.page.viewportSize() ?? { height: 800 };
    await this.page.setViewportSize({ width, height });
    // What moves out of the window counts until it has gone.
    await expect
      .poll(() => this.page.evaluate<number>('document.documentElement.scrollWidth'), `${state} at ${width}`)
      .toBeLessThanOrEqual(width);
  }

  async open(address: string, shows: string): Promise<void> {
    await this.page.goto(address);
    await expect(this.page.locator(shows).first()).toBeVisible();
    await this.look(address);
  }

  /** Opens something that lies over the page, looks, and closes it by Escape. */
  async over(state: string, open: () => Promise<void>, shows: string): Promise<void> {
    await open();
    await expect(this.page.locator(shows).first()).toBeVisible();
    await this.look(state, 'all but colours');
    // Those of the page are looked at where nothing lies over it.
    await this.look(state, 'colours', shows);
    await this.page.keyboard.press('Escape');
    await expect(this.page.locator(shows)).toHaveCount(0);
  }
}

const places = [
  ['/library?chosen=care', '.sheet >> text=Wipe the sensor head'],
  ['/library?find=zzzz', 'text=Nothing in the library fits.'],
  ['/library?find=voltge&usage=often', 'al-filter-bar p-select'],
  ['/library?collection=Network&archived=too', 'al-collection-tree .chosen'],
  ['/edit/care?panel=library', '.context >> text=Backup battery'],
  ['/edit/care?panel=when', '.context >> text=Applies when'],
  ['/edit/care?lens=pick:product%3Ddunlin-2', 'al-lens-strip p-multiselect, al-lens-chip'],
  ['/edit/care?panel=uses', '.direct a'],
  ['/edit/care?panel=reach', 'al-reach-panel'],
  ['/edit/care?panel=read', '.context al-reading-view'],
  ['/edit/care?panel=history', '.history li'],
  ['/edit/picture-station', 'text=Alternative text'],
  ['/variables?key=mains', 'text=120 V, 60 Hz'],
  ['/variables?by=market', 'text=1.25 to 2 in'],
  ['/variables?by=market&find=zzzz', 'text=No variable fits.'],
  ['/variation', 'text=North America'],
  ['/publications', 'text=Observer Handbook'],
  ['/publications/observer-handbook', 'al-topic-offer li >> text=Care'],
  ['/publications/network-guide?entry=e27', '[placeholder="the label of the link"]'],
  ['/publications/observer-handbook?entry=e7', 'text=Own title'],
  ['/builds', 'al-build-board tbody'],
  ['/builds?view=all', 'al-freshness summary'],
  ['/design?design=fennick-handbook', 'al-setting-row'],
  ['/design?design=formal&part=blocks', 'al-setting-row'],
  ['/compare', '.choice p-select'],
  ['/people', 'text=Ines Varga'],
  ['/people?tab=record', '.when'],
  ['/settings', 'text=Where you are signed in'],
  ['/bin', 'h1'],
  ['/checks', 'text=Words to avoid'],
  ['/edit/mount-mast?panel=checks', 'al-checks-panel'],
  ['/first-hour', 'text=Something else differs'],
  ['/first-hour?step=2', 'text=Another document'],
  ['/first-hour?step=3', 'text=Further topics'],
  ['/first-hour?step=4', 'text=Make all this'],
  ['/replace?find=mast&with=pole', 'li ins'],
  ['/no/such/place', 'text=There is nothing at this address'],
  ['/edit/no-such-topic', 'text=There is no component'],
  ['/publications/no-such', 'text=There is no publication'],
  ['/builds?build=5f5a9b64-0000-4000-8000-000000000000', 'h1'],
  ['/builds/5f5a9b64-0000-4000-8000-000000000000/origin', 'text=What this was built of was not kept'],
] as const;

/** Its table is wider than a small window: the page scrolls with the caret, which axe does not take for a way to scroll. */
const wideOnly = [['/edit/data', '[data-node=display_formula] math']] as const;

// Several tests, as workers share them out.
for (const share of [0, 1, 2, 3]) {
  test(`Every place can be used by everybody, in light and dark and in every window, and is no wider (share ${share})`, async ({
    page,
  }) => {
    test.slow();
    const finder = new Finder(page);
    const shared = [...places, ...wideOnly].filter((_, at) => at % 4 === share);
    // Each group of places is walked through within one page: loading it takes longer than what is looked at.
    await openPlace(page, '/settings', 'h1');
    for (const [address, shows] of shared) {
      await page.emulateMedia({ colorScheme: 'light' });
      await page.setViewportSize({ width: 1280, height: 800 });
      await goTo(page, address);
      await expect(page.locator(shows).first()).toBeVisible();
      await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached();
      await finder.look(address);
      await page.emulateMedia({ colorScheme: 'dark' });
      await expect(page.locator('html')).toHaveClass(/dark/);
      await finder.look(`${address} in the dark`, 'colours');
      for (const width of [1920, 2560]) await finder.fits(address, width);
    }
    await page.setViewportSize({ width: 360, height: 740 });
    await openPlace(page, '/settings', 'h1');
    for (const [address] of shared) {
      await goTo(page, address);
      await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached();
      // 320 and 640: a window of 1280 at a zoom of 400 and of 200 % (WCAG 2.2, 1.4.10 and 1.4.4).
      for (const width of [320, 640, 360, 768]) {
        await finder.fits(address, width);
        if (width === 320 || wideOnly.some(([each]) => each === address)) continue;
        await finder.look(`${address} at ${width}`, width === 360 ? 'all but colours' : 'room');
      }
    }
    expect(finder.found).toEqual([]);
  });
}

testOnNewPage('What nobody should have to use is found', async ({ page }) => {
  await page.setContent('<p style="color: #aaa">Pale <img src="x.png"></p><button>a</button><a href="#x">b</a>');
  const rules = async (looked?: Looked) => (await findings(page, looked)).map((each) => each.split(':')[0]);
  expect(await rules()).toEqual(expect.arrayContaining(['color-contrast', 'image-alt', 'html-has-lang']));
  expect(await rules('colours')).toEqual(['color-contrast']);
  expect(await rules('all but colours')).not.toContain('color-contrast');
  await page.setContent(
    '<div><a href="#x" style="font-size: 8px">b</a><a href="#y" style="font-size: 8px">c</a></div>',
  );
  expect(await rules('room')).toEqual(['target-size']);
});

testOnNewPage('Who is not signed in can use what they see', async ({ page }) => {
  const finder = new Finder(page);
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await finder.open('/sign-in', 'form');
    await finder.open('/join', 'text=This link does not open');
  }
  expect(finder.found).toEqual([]);
});

test('What lies over a place can be used by everybody', async ({ page }) => {
  test.slow();
  await openPlace(page, '/library', 'h1');
  const finder = new Finder(page);
  const button = (name: string | RegExp) => page.getByRole('button', { name, exact: true }).first();
  const dialog = '.p-dialog';
  await finder.over('keys', () => page.keyboard.press('?'), dialog);
  await finder.over('the menu of a person', () => button(/^You: /).click(), '.p-menu');
  await finder.over('a new component', () => button('New component').click(), dialog);
  await goTo(page, '/library?chosen=care');
  await finder.over('a question', () => button('Delete').click(), dialog);
  await goTo(page, '/edit/care');
  await finder.over('the list of lenses', () => page.locator('al-lens-strip p-select').click(), '.p-select-list');
  await page.getByRole('textbox', { name: 'Content of Care' }).click();
  await finder.over('the key of a component', () => button('care').click(), dialog);
  await page.getByRole('tab', { name: 'Library' }).click();
  const offered = page.getByRole('list', { name: 'Components of the library' }).getByRole('button');
  await finder.over(
    'how to place',
    () => offered.filter({ has: page.getByText('Caution: working at height', { exact: true }) }).click(),
    'al-placing-menu [role=menu]',
  );
  await finder.over('the insert menu', () => page.keyboard.press('Control+Space'), 'al-insert-menu [role=option]');
  await finder.over('a link', () => button('Link').click(), dialog);
  await goTo(page, '/variation');
  await finder.over('a new profile', () => button('New profile').click(), dialog);
  await goTo(page, '/publications');
  await finder.over('an import', () => button('Import a manual').click(), dialog);
  await goTo(page, '/publications/service-manual');
  await finder.over(
    'a variant',
    () => page.locator('.variant').getByRole('button', { name: 'Change' }).first().click(),
    dialog,
  );
  await goTo(page, '/builds');
  await finder.over('variants to build', () => button('Build variants').click(), dialog);
  await goTo(page, '/people');
  await finder.over('an invitation', () => button('Invite').click(), dialog);
  expect(finder.found).toEqual([]);
});

test('What a lens leaves out can be read by everybody', async ({ page }) => {
  const finder = new Finder(page);
  await openPlace(page, '/library', 'h1');
  for (const dark of [false, true]) {
    await page.emulateMedia({ colorScheme: dark ? 'dark' : 'light' });
    await goTo(page, '/edit/settings?lens=profile:dunlin-2-observer-europe');
    await expect(page.locator('al-lens-strip .count')).toHaveText(/\d+ blocks? out/);
    await finder.look(`ghost, ${dark ? 'dark' : 'light'}`);
    await page.getByRole('button', { name: 'Fold' }).click();
    await finder.look(`fold, ${dark ? 'dark' : 'light'}`);
    await goTo(page, '/publications/observer-handbook?lens=profile:dunlin-2-observer-europe');
    await expect(page.locator('al-outline-grid .out').first()).toBeVisible();
    await finder.look(`outline, ${dark ? 'dark' : 'light'}`);
  }
  expect(finder.found).toEqual([]);
});
