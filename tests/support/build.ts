import { assemblePublication } from '../../core/src/assemble/assemble.js';
import type { AssembledPublication } from '../../core/src/assemble/assembled.js';
import { Memory } from '../../core/src/assemble/memory.js';
import { componentFrom, type Component, type ComponentBody } from '../../core/src/model/component.js';
import type { Recipe } from '../../core/src/model/publication.js';
import type { Source } from '../../core/src/model/source.js';
import { numberPublication } from '../../core/src/number/number.js';
import { flattenPages, type NumberedPage, type NumberedPublication } from '../../core/src/number/numbered.js';
import type { FormatFile } from '../../core/src/output/format.js';
import { PageWriter } from '../../core/src/output/web/page-writer.js';
import { web } from '../../core/src/output/web/web.js';
import { recordBuild, type BuildRecord } from '../../core/src/reach/record.js';

/** All steps of a build of one variant to the web format. */
export interface Built {
  readonly assembled: AssembledPublication;
  readonly numbered: NumberedPublication;
  readonly files: readonly FormatFile[];
  /** As it is stored. */
  readonly record: () => BuildRecord;
}

export function build(source: Source, recipe: Recipe, memory = new Memory()): Built {
  const assembled = assemblePublication(source, recipe, memory);
  const numbered = numberPublication(assembled, recipe);
  const rendition = web.render(numbered);
  const record = (): BuildRecord =>
    JSON.parse(JSON.stringify(recordBuild(assembled, recipe, [{ format: web, rendition }]))) as BuildRecord;
  return { assembled, numbered, files: rendition.files, record };
}

/** Numbers and references, without output. */
export function numberedOf(source: Source, recipe: Recipe, memory = new Memory()): NumberedPublication {
  return numberPublication(assemblePublication(source, recipe, memory), recipe);
}

/** The HTML of a page’s content: what stands in `<main>`. */
export function contentOf(publication: NumberedPublication, page: NumberedPage): string {
  return new PageWriter(publication, page).content();
}

export function firstPage(publication: NumberedPublication): NumberedPage {
  return flattenPages(publication.pages)[0] as NumberedPage;
}

export function lastPage(publication: NumberedPublication): NumberedPage {
  return flattenPages(publication.pages).at(-1) as NumberedPage;
}

/** What the files of a build read, by their paths. */
export function textsOf({ files }: Pick<Built, 'files'>): ReadonlyMap<string, string> {
  return new Map(files.map(({ path, text }) => [path, text]));
}

export function fileOf(built: Pick<Built, 'files'>, path: string): string {
  return textsOf(built).get(path) ?? '';
}

/** A component with another body. */
export function withBody(component: Component, body: ComponentBody, revision = component.revision): Component {
  return componentFrom({ ...component, body, revision });
}
