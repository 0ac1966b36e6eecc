import { inject, Injectable } from '@angular/core';
import { MessageService, type ToastMessageOptions } from 'primeng/api';
import { problemText } from './api';

/** What a notice can offer to do. */
export interface NoticeData {
  readonly undo: () => void;
}

/** Short messages at the edge of the window. */
@Injectable({ providedIn: 'root' })
export class Notices {
  private readonly messages = inject(MessageService);

  done(text: string): void {
    this.show({ severity: 'success', summary: text, life: 3500 });
  }

  /** Says that something was done, with a button that undoes it. */
  undoable(text: string, undo: () => void): void {
    const data: NoticeData = { undo };
    this.show({ severity: 'info', summary: text, data, life: 12_000 });
  }

  /** Says why something failed; stays until it is closed. */
  failed(error: unknown): void {
    this.show({ severity: 'error', summary: problemText(error), sticky: true });
  }

  /** One at a time: the newest is what the person just did. */
  private show(message: ToastMessageOptions): void {
    this.messages.clear();
    this.messages.add(message);
  }

  clear(): void {
    this.messages.clear();
  }
}
