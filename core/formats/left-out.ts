/** What is wrong in one cell: the file's line (the heading is 1), its column, and the sentence. */
export interface ImportProblem {
  line: number;
  column: string;
  sentence: string;
}

/** Columns of a file that Kampong knows nothing of: a word for each, as nothing of them is read. */
export function leftOut(heading: readonly string[], known: readonly string[]): ImportProblem[] {
  const names = heading.map((cell) => cell.trim()).filter((cell) => cell !== '');
  return names
    .filter((name) => !known.includes(name.toLowerCase()))
    .map((name) => ({
      line: 1,
      column: name.slice(0, 40),
      sentence: 'This column is none Kampong knows; what stands in it is left out.',
    }));
}
