import { makeNode, type ContentNode } from '../model/node.js';
import { p } from '../../../tests/support/library-parts.js';
import { tableCells } from './table-cells.js';

const cell = (text: string, columns = 1, rows = 1): ContentNode =>
  makeNode('table_cell', { colspan: columns, rowspan: rows }, [p(text)]);
const row = (...cells: ContentNode[]): ContentNode => makeNode('table_row', null, cells);
const head = (...cells: ContentNode[]): ContentNode => makeNode('table_row', { header: true }, cells);

describe('The cells of a table', () => {
  const placesOf = (attrs: object | null, ...rows: readonly ContentNode[]) => {
    const made = tableCells(makeNode('table_grid', attrs as never, rows) as never);
    const places = made.rows.map((cells) =>
      cells.map(({ cell: own, x, columns, rows: down }) => `${own ? '' : 'hole '}${x} ${columns}x${down}`).join(', '),
    );
    return { places, widths: made.widths, headRows: made.headRows };
  };

  it('fill rows that are shorter than others, so that no row has a hole', () => {
    expect(
      placesOf(null, row(cell('a')), row(cell('b'), cell('c'), cell('d')), row(cell('e', 1, 2), cell('f'))),
    ).toEqual({
      places: ['0 1x1, hole 1 2x1', '0 1x1, 1 1x1, 2 1x1', '0 1x1, 1 1x1, hole 2 1x1'],
      widths: [null, null, null],
      headRows: 0,
    });
  });

  it('reach out of neither the head nor the table', () => {
    expect(placesOf(null, head(cell('a', 1, 5), cell('b')), row(cell('c'), cell('d', 1, 9)))).toEqual({
      places: ['0 1x1, 1 1x1', '0 1x1, 1 1x1'],
      widths: [null, null],
      headRows: 1,
    });
  });

  it('have no column in which none begins; its width goes to the one before', () => {
    const columns = [{ width: 20 }, { width: 30 }, { width: 50 }];
    expect(placesOf({ columns }, row(cell('a', 2), cell('b')), row(cell('c', 2), cell('d')))).toEqual({
      places: ['0 1x1, 1 1x1', '0 1x1, 1 1x1'],
      widths: [50, 50],
      headRows: 0,
    });
  });
});
