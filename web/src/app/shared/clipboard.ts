import { inject, Injectable } from '@angular/core';
import { MessageService } from 'primeng/api';

/** Puts texts on the clipboard and tells in passing that it was done, or why it was not. */
@Injectable({ providedIn: 'root' })
export class Clipboard {
  private readonly messages = inject(MessageService, { optional: true });

  put(text: string, says = 'Copied.') {
    navigator.clipboard.writeText(text).then(
      () => this.tell('success', says),
      // What is short enough is shown, to be copied by hand.
      () => this.tell('warn', `The browser did not let the clipboard be used.${text.length <= 300 ? ` Here it is: ${text}` : ''}`, true),
    );
  }
  tell(severity: 'success' | 'warn' | 'error', detail: string, stays = severity === 'error') {
    this.messages?.add({ severity, detail, sticky: stays });
  }
}
