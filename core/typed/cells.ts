/** The cells of a pasted row: between tabs, else semicolons, wide gaps, or commas with a space after them. */
export function cellsOf(line: string): string[] {
  const trimmed = line.trim();
  const cells = line.includes('\t') ? line.split('\t') : trimmed.split(/\s*;\s*|\s{2,}|\s*,\s+/);
  return cells.map((cell) => cell.trim());
}
