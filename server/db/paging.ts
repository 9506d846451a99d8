/** Numbers and names that contain the words, as a LIKE pattern with its own wildcards made harmless. */
export function likeOf(words: string): string {
  return `%${words.trim().replace(/[\\%_]/g, (each) => `\\${each}`)}%`;
}

export const PAGE_ROWS = 100;

/** One page of a list that is read newest first by id. */
export async function pageById<Row extends { id: number }, Out>(
  read: (before: number, most: number) => Promise<Row[]>,
  { cursor, rows: most = PAGE_ROWS }: { cursor?: string | undefined; rows?: number | undefined },
  map: (row: Row) => Out,
): Promise<{ rows: Out[]; next: string | null }> {
  const before = cursor && /^\d{1,10}$/.test(cursor) ? Number(cursor) : 4_294_967_295;
  const rows = await read(before, most + 1);
  const shown = rows.slice(0, most);
  return {
    rows: shown.map(map),
    next: rows.length > most ? String(shown.at(-1)!.id) : null,
  };
}
