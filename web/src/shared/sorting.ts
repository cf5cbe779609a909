import type { DataTableSortStatus } from 'mantine-datatable';

/** The order of rows that a table's head asks for: numbers by size, everything else by its letters. */
export function bySort<T>({ columnAccessor, direction }: DataTableSortStatus<T>): (a: T, b: T) => number {
  const key = columnAccessor as keyof T;
  const sign = direction === 'asc' ? 1 : -1;
  return (a, b) =>
    sign *
    (typeof a[key] === 'number'
      ? Number(a[key]) - Number(b[key])
      : String(a[key]).localeCompare(String(b[key])));
}
