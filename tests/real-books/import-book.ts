import { readFileSync } from 'node:fs';
import {
  assemblePublication,
  componentFrom,
  formatsOf,
  libraryOf,
  numberPublication,
  type Component,
  type FormatFile,
  type Problem,
  type Recipe,
  type Source,
} from '@allomorph/core';
import { resolveDesign } from '../../core/src/design/resolve.js';
import { shippedDesigns } from '../../core/src/design/shipped.js';
import { importDocbook, type ImportResult } from '../../core/src/interchange/index.js';
import { fileInside } from '../../server/src/imports/file-inside.js';
import { belowInFolder, styleSheetsFor } from '../../server/src/imports/style-sheets.js';
import { decodeXml } from '../../server/src/imports/decode-xml.js';

/** A book that was imported and built as a web site, without a database. */
export interface ImportedBook {
  readonly result: ImportResult;
  readonly source: Source;
  readonly recipe: Recipe;
  readonly files: readonly FormatFile[];
  readonly problems: readonly Problem[];
}

/** Imports a book as it is shipped, and builds it with the design that imported books get. */
export function importBook(folder: string, main: string): ImportedBook {
  const read = (path: string, encoding?: string): string | undefined => {
    const file = fileInside(folder, path);
    return file === undefined ? undefined : decodeXml(readFileSync(file), path, encoding);
  };
  const styleSheets = styleSheetsFor(main, belowInFolder(folder)).map((path) => ({ path, text: read(path) ?? '' }));
  const result = importDocbook({ main, read, publication: 'Book', styleSheets });
  const pictures = result.images.map(({ key, title, alt, path }, at): Component =>
    componentFrom({
      key,
      kind: 'image',
      title,
      revision: 1,
      body: {
        type: 'image',
        alt,
        file: {
          digest: String(at).padStart(64, '0'),
          mediaType: path.endsWith('.svg') ? 'image/svg+xml' : 'image/png',
          width: null,
          height: null,
        },
        versions: [],
      },
    }),
  );
  const axes = result.axes.map(({ key, values }) => ({
    key,
    title: key,
    values: values.map((value) => ({ key: value, title: value, code: 'X', colour: 0, pattern: 0 })),
  }));
  const source: Source = {
    library: libraryOf([...result.components, ...pictures]),
    axes,
    stamps: [],
    publications: new Map(),
  };
  const recipe: Recipe = {
    publication: result.publication,
    variantTitle: 'All',
    profile: { axes: {} },
    values: {},
    language: 'en',
    design: resolveDesign(result.design.key, [...shippedDesigns, result.design], 'en'),
    buildDate: '2026-11-24',
    leaveOutEmpty: false,
  };
  const numbered = numberPublication(assemblePublication(source, recipe), recipe);
  const files = formatsOf(['html']).flatMap((format) => format.render(numbered).files);
  return { result, source, recipe, files, problems: numbered.problems };
}
