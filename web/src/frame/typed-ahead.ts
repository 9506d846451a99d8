/**
 * Catches the letters typed while the box they are meant for is still opening, and Enter after them, so that none lands in
 * the field that had the focus and none is lost.
 */
export class TypedAhead {
  private text = '';
  private entered = false;
  private readonly catch = (event: KeyboardEvent): void => {
    const letter = event.key.length === 1 && !event.ctrlKey && !event.altKey && !event.metaKey;
    if (!letter && event.key !== 'Enter') return;
    event.preventDefault();
    event.stopPropagation();
    // What follows Enter is meant for what it leads to.
    if (letter && !this.entered) this.text += event.key;
    if (!letter) this.entered = true;
  };

  constructor() {
    document.addEventListener('keydown', this.catch, true);
  }

  /** What was caught, once; from now on keys go where the focus is. */
  take(): { text: string; entered: boolean } {
    document.removeEventListener('keydown', this.catch, true);
    const { text, entered } = this;
    this.text = '';
    this.entered = false;
    return { text, entered };
  }
}
