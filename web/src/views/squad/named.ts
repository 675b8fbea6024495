/** The golfers an address names: ids with commas between them. */
export function named(query: unknown): string[] {
  return typeof query === 'string' ? query.split(',').filter((id) => /^[0-9a-f-]{36}$/.test(id)) : []
}
