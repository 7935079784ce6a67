/**
 * Writes rows that are given as one JSON parameter: a fraction of the work of a statement built row by row. Columns are named: one that a later version has
 * added gets its own default, also while a server of before still writes.
 * @param known what a row that is there already is called in what follows
 */
export function insertRows(table: string, columns: readonly string[], known = table): string {
  const names = columns.map(column => `"${column}"`).join(', ')
  const as = known === table ? '' : ` as "${known}"`
  return `insert into "${table}"${as} (${names}) select ${names} from jsonb_populate_recordset(null::"${table}", ?::jsonb)`
}
