import { make, ownFile, site } from './site.js';

/** Links to the page at hand in other variants and languages, or to where those begin that do not have it. */
export function otherVariants(): void {
  const header = document.querySelector('body > header');
  const others = window.siteOthers ?? [];
  if (!header || !site || others.length === 0) return;
  const { words, language } = site;
  const own = ownFile();
  const names = new Intl.DisplayNames([language], { type: 'language' });
  const item = (other: (typeof others)[number]): HTMLLIElement => {
    const has = !other.lacks.includes(own);
    const href = other.folder + (has ? encodeURIComponent(own) + location.hash : 'index.html');
    const said =
      other.language === language ? other.title : `${other.title} (${names.of(other.language) ?? other.language})`;
    const link = make('a', { href, hreflang: other.language }, said);
    return make('li', {}, link, ...(has ? [] : [' ', make('small', {}, words.notInVariant)]));
  };
  const summary = make('summary', {}, words.otherVariants);
  const box = make('details', { class: 'others' }, summary, make('ul', {}, ...others.map(item)));
  box.addEventListener('keydown', (event) => {
    if (event.key !== 'Escape') return;
    box.open = false;
    summary.focus();
  });
  (header.querySelector('time') ?? header.querySelector('.variant'))?.after(' ', box);
}
