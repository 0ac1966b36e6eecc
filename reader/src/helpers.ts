import { make, site } from './site.js';

/** A button at every listing that copies it. */
export function copyButtons(): void {
  if (!site) return;
  const { copy, copied } = site.words;
  for (const pre of document.querySelectorAll('main pre')) {
    const button = make('button', { type: 'button', class: 'copy' }, copy);
    button.addEventListener('click', () => {
      void copyText(pre.querySelector('code')?.textContent ?? '').then((done) => {
        if (!done) return;
        button.textContent = copied;
        setTimeout(() => (button.textContent = copy), 2000);
      });
    });
    const box = make('div', { class: 'listing' });
    pre.replaceWith(box);
    box.append(pre, button);
  }
}

/** Where the page may not use the clipboard, what is to be copied is selected and copied as the reader would. */
async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    const field = make('textarea', { readonly: '', class: 'off' });
    field.value = text;
    document.body.append(field);
    field.select();
    // The only way without the permission.
    const done = document.execCommand('copy');
    field.remove();
    return done;
  }
}

/** A link at every heading to itself, to be copied. */
export function headingLinks(): void {
  if (!site) return;
  const { linkHere } = site.words;
  const headings = document.querySelectorAll<HTMLElement>('main section[id] > :is(h1, h2, h3, h4, h5, h6, .heading)');
  for (const heading of headings) {
    const id = heading.parentElement?.id ?? '';
    const label = `${linkHere}: ${heading.textContent.trim()}`;
    heading.append(' ', make('a', { class: 'here', href: `#${encodeURIComponent(id)}`, 'aria-label': label }, '#'));
  }
}

/** Figures open as large as the window is, by a click or the keyboard; Escape closes them. */
export function largeFigures(): void {
  if (!site) return;
  const { enlarge, close } = site.words;
  for (const picture of document.querySelectorAll<HTMLImageElement>('main figure img')) {
    // What stands in a link leads there.
    if (picture.closest('a, button')) continue;
    const button = make('button', { type: 'button', class: 'enlarge', 'aria-label': `${enlarge}: ${picture.alt}` });
    picture.replaceWith(button);
    button.append(picture);
    button.addEventListener('click', () => {
      const dialog = make('dialog', { class: 'large', 'aria-label': picture.alt === '' ? enlarge : picture.alt });
      const closing = make('button', { type: 'button' }, close);
      const copy = picture.cloneNode() as HTMLImageElement;
      dialog.append(closing, copy);
      closing.addEventListener('click', () => dialog.close());
      copy.addEventListener('click', () => dialog.close());
      dialog.addEventListener('close', () => {
        dialog.remove();
        button.focus();
      });
      document.body.append(dialog);
      dialog.showModal();
    });
  }
}

/** What is wider than its place can be reached by the keyboard, as long as it is: windows are turned and fonts come late. */
export function scrollable(): void {
  const boxes = document.querySelectorAll<HTMLElement>('main :is(.table, pre, .formula)');
  const observer = new ResizeObserver(() => {
    for (const box of boxes)
      if (box.scrollWidth > box.clientWidth) box.tabIndex = 0;
      else box.removeAttribute('tabindex');
  });
  for (const box of boxes) for (const each of [box, ...box.children]) observer.observe(each);
}

/** Says in which state of the content the site is, and when it was made. */
export function madeAt(): void {
  const place = document.querySelector('body > header .variant');
  if (!place || !site || !/^\d{4}-\d{2}-\d{2}$/.test(site.date)) return;
  const date = new Intl.DateTimeFormat(site.language, { dateStyle: 'medium', timeZone: 'UTC' });
  place.after(' ', make('time', { datetime: site.date }, date.format(new Date(`${site.date}T00:00:00Z`))));
}
