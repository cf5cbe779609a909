/** A kind of the store as CSV and back: the first row names the columns, lengths are in mm unless a cell says its unit. */
import type { StoreKind } from '@hollow-finch/core/stock/store';
import { ITEM_SCHEMAS } from '@hollow-finch/core/stock/storeSchema';
import { parseLength } from '@hollow-finch/core/units/length';
import Papa from 'papaparse';
import { enteredAs, idFrom, kindOf, type FieldSpec, type Item } from './kinds.ts';

/** Rows of a file at most. */
const MOST_ROWS = 2_000;

const cellOf = (value: unknown): string =>
  value === undefined ? '' : Array.isArray(value) ? value.join(' x ') : String(value);

/** All of a kind as CSV, a column for every field; what a spreadsheet would take for a formula is kept a text. */
export function csvOf(kind: StoreKind, items: readonly Item[]): string {
  const fields = kindOf(kind).fields.map(({ key }) => key);
  return Papa.unparse(
    {
      fields: ['id', ...fields],
      data: items.map((item) => {
        const cells = item as unknown as Record<string, unknown>;
        return [item.id, ...fields.map((key) => cellOf(cells[key]))];
      }),
    },
    { escapeFormulae: true, newline: '\r\n' },
  );
}

/**
 * A cell as a field's value; a sentence when it cannot be read.
 *
 * @param coupon the one that the row is of, where it is of any
 */
function read(field: FieldSpec, cell: string, coupon: unknown): { value: unknown } | { wrong: string } {
  const text = cell.trim();
  switch (enteredAs(field, coupon)) {
    case 'length': {
      const length = parseLength(text, 'mm');
      return length.ok ? { value: length.mm } : { wrong: length.message };
    }
    case 'number': {
      const value = Number(text);
      return text !== '' && Number.isFinite(value) ? { value } : { wrong: `“${text}” is no number` };
    }
    case 'yes':
      return /^(true|yes|1)$/i.test(text)
        ? { value: true }
        : /^(false|no|0)$/i.test(text)
          ? { value: false }
          : { wrong: `“${text}” should be yes or no` };
    case 'pair': {
      if (text === '') return { value: undefined };
      const sides = text.split(/\s*[x×,]\s*/i).map((side) => parseLength(side, 'mm'));
      const [a, b] = sides;
      return sides.length === 2 && a.ok && b.ok
        ? { value: [a.mm, b.mm] }
        : { wrong: `“${text}” should be two lengths, such as 148 x 105` };
    }
    default:
      return { value: cell.replace(/^'(?=[=+\-@\t\r])/, '') };
  }
}

export type ReadItems =
  { readonly ok: true; readonly items: readonly Item[] } | { readonly ok: false; readonly message: string };

/**
 * Reads a kind from CSV. Columns may come in any order and be called by key or label; a missing id is made from the name, and
 * what a row does not have takes its usual value.
 *
 * @returns the things, or a sentence with the row and the column of the first that cannot be read
 */
export function itemsFromCsv(
  kind: StoreKind,
  text: string,
  taken: Readonly<Record<string, unknown>>,
): ReadItems {
  const { fields } = kindOf(kind);
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n'), {
    skipEmptyLines: 'greedy',
    newline: '\n',
  });
  const [head = [], ...rows] = data;
  const wrong = (message: string): ReadItems => ({ ok: false, message });
  if (rows.length === 0)
    return wrong('The file has no rows: the first names the columns, each other one is a thing.');
  if (rows.length > MOST_ROWS)
    return wrong(`The file has ${rows.length} rows; at most ${MOST_ROWS} can be read.`);
  const columns = head.map((title) => {
    const plain = title.trim().toLowerCase();
    if (plain === 'id') return 'id';
    return fields.find(({ key, label }) => key.toLowerCase() === plain || label.toLowerCase() === plain)?.key;
  });
  if (!columns.includes('name'))
    return wrong('The first row has no column “name”: it should name the columns.');
  const made: Record<string, unknown> = { ...taken };
  const items: Item[] = [];
  for (const [i, row] of rows.entries()) {
    const item: Record<string, unknown> = Object.fromEntries(
      fields.filter(({ usual }) => usual !== undefined).map(({ key, usual }) => [key, usual]),
    );
    const coupon = row[columns.indexOf('coupon')]?.trim() || item.coupon;
    for (const [c, key] of columns.entries()) {
      if (!key) continue;
      const cell = row[c] ?? '';
      if (key === 'id') {
        if (cell.trim()) item.id = cell.trim();
        continue;
      }
      const field = fields.find((each) => each.key === key)!;
      if (cell.trim() === '' && field.kind !== 'text') continue;
      const value = read(field, cell, coupon);
      if ('wrong' in value)
        return wrong(`Row ${i + 2}, column “${head[c]}”: ${value.wrong}. Put that right and try again.`);
      item[key] = value.value;
    }
    item.id ??= idFrom(String(item.name), made);
    const checked = ITEM_SCHEMAS[kind].safeParse(item);
    if (!checked.success) {
      const [issue] = checked.error.issues;
      return wrong(
        `Row ${i + 2}, “${issue.path.join(' > ')}”: ${issue.message}. Put that right and try again.`,
      );
    }
    made[checked.data.id] = checked.data;
    items.push(checked.data);
  }
  return { ok: true, items };
}
