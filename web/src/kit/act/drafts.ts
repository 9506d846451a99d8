/** What is being typed, kept in this browser until it is saved: a closed window loses nothing. */
export function keepDraft(key: string, value: unknown): void {
  try {
    localStorage.setItem(`draft ${key}`, JSON.stringify(value));
  } catch {
    // A full or forbidden storage only means that the draft lives as long as the page.
  }
}

export function keptDraft<T>(key: string): T | null {
  const text = localStorage.getItem(`draft ${key}`);
  return text === null ? null : (JSON.parse(text) as T);
}

export function dropDraft(key: string): void {
  localStorage.removeItem(`draft ${key}`);
}
