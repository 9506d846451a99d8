/**
 * Catches the letters typed while the box they are meant for is still opening, so that none of them lands in the field
 * that had the focus.
 */
export class TypedAhead {
  private text = '';
  private readonly catch = (event: KeyboardEvent): void => {
    const letter = event.key.length === 1 && !event.ctrlKey && !event.altKey && !event.metaKey;
    if (!letter && event.key !== 'Enter') return;
    event.preventDefault();
    event.stopPropagation();
    if (letter) this.text += event.key;
  };

  constructor() {
    document.addEventListener('keydown', this.catch, true);
  }

  /** What was caught, once; from now on keys go where the focus is. */
  take(): string {
    document.removeEventListener('keydown', this.catch, true);
    const text = this.text;
    this.text = '';
    return text;
  }
}
