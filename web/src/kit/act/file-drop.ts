import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';

/** A file as it is sent: its name, and its content in base64. */
export interface FileRead {
  name: string;
  content: string;
}

/** A place to choose a file or drop one; it is read here and told. Again, where another is chosen. */
@Component({
  selector: 'k-file-drop',
  template: `<label
    class="drop"
    [class.over]="over()"
    (dragover)="$event.preventDefault(); over.set(true)"
    (dragleave)="over.set(false)"
    (drop)="$event.preventDefault(); over.set(false); read($event.dataTransfer?.files?.[0])"
  >
    <input
      type="file"
      data-first
      [attr.aria-label]="label()"
      [accept]="accept()"
      (change)="read($any($event.target).files[0])"
    />
    <b>{{ name() || 'Choose a file' }}</b>
    <span>{{ name() ? 'Choose or drop another to read it instead' : 'or drop it here' }}</span>
  </label>`,
  styles: `
    .drop {
      display: grid;
      gap: 2px;
      justify-items: center;
      padding: 22px;
      border: 1.5px dashed var(--rule-strong);
      border-radius: 6px;
      cursor: pointer;
      color: var(--ink-soft);
    }
    .drop b {
      color: var(--deep);
    }
    .drop.over,
    .drop:hover,
    .drop:focus-within {
      border-color: var(--deep);
      background: var(--deep-wash);
    }
    .drop:focus-within {
      outline: 2px solid var(--deep);
      outline-offset: 1px;
    }
    .drop input {
      position: absolute;
      opacity: 0;
      width: 1px;
      height: 1px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FileDrop {
  readonly label = input.required<string>();
  readonly accept = input('');
  readonly chosen = output<FileRead>();
  protected readonly name = signal('');
  protected readonly over = signal(false);

  protected read(file: File | undefined): void {
    if (!file) return;
    this.name.set(file.name);
    const reader = new FileReader();
    reader.onload = () => this.chosen.emit({ name: file.name, content: String(reader.result).split(',')[1] ?? '' });
    reader.readAsDataURL(file);
  }
}
