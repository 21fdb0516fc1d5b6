/** Files on their way to the server: a few at a time, each with its progress; no React here. */

import { csrfToken, Refusal, refusalFrom } from '../api/client';

export type Upload = {
  key: number;
  name: string;
  size: number;
  sent: number;
  /** Twice: the stack has the same file already; it can be taken in all the same. */
  state: 'waiting' | 'sending' | 'done' | 'failed' | 'twice';
  error: string;
};

type Item = Upload & { file: File; again: boolean };
/** Sends one file; reports bytes sent; resolves to what of an archive was left out; rejects with a Refusal. */
export type Send = (file: File, index: number, onSent: (bytes: number) => void, again: boolean) => Promise<string[]>;

const AT_ONCE = 2;

/** The files of one new stack. Snapshots are new arrays, so that a view can tell that something changed. */
export class UploadQueue {
  private items: Item[] = [];
  private snapshot: readonly Upload[] = [];
  private listeners = new Set<() => void>();
  private running = 0;

  constructor(private readonly send: Send) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  get = (): readonly Upload[] => this.snapshot;

  add(files: readonly { file: File; name: string }[]): void {
    const start = this.items.length;
    this.items.push(
      ...files.map(({ file, name }, index) => ({
        file,
        name,
        key: start + index,
        size: file.size,
        sent: 0,
        again: false,
        state: 'waiting' as const,
        error: '',
      })),
    );
    this.tell();
    this.pump();
  }

  retry(key: number): void {
    const item = this.items.find((one) => one.key === key && (one.state === 'failed' || one.state === 'twice'));
    if (!item) return;
    Object.assign(item, { again: item.state === 'twice', state: 'waiting', sent: 0, error: '' });
    this.tell();
    this.pump();
  }

  private pump(): void {
    for (const item of this.items) {
      if (this.running >= AT_ONCE) return;
      if (item.state === 'waiting') void this.run(item);
    }
  }

  private async run(item: Item): Promise<void> {
    this.running += 1;
    item.state = 'sending';
    this.tell();
    try {
      const leftOut = await this.send(
        item.file,
        item.key,
        (bytes) => {
          item.sent = bytes;
          this.tell();
        },
        item.again,
      );
      Object.assign(item, { state: 'done', sent: item.size, error: leftOut.join(' ') });
    } catch (error) {
      const message = error instanceof Refusal ? error.message : 'The file could not be sent: try again.';
      const twice = error instanceof Refusal && error.status === 409;
      Object.assign(item, { state: twice ? 'twice' : 'failed', error: message });
    }
    this.running -= 1;
    this.tell();
    this.pump();
  }

  private tell(): void {
    this.snapshot = this.items.map(({ key, name, size, sent, state, error }) => ({
      key,
      name,
      size,
      sent,
      state,
      error,
    }));
    for (const listener of this.listeners) listener();
  }
}

/** Sends to a load over HTTP; XMLHttpRequest because fetch does not tell how much was sent. */
export function sendTo(loadId: number): Send {
  return (file, index, onSent, again) =>
    new Promise((resolve, reject) => {
      const request = new XMLHttpRequest();
      request.open(
        'PUT',
        `/api/loads/${loadId}/files/${index}?${new URLSearchParams({ name: file.name, again: String(again) })}`,
      );
      request.setRequestHeader('X-CSRFToken', csrfToken());
      request.setRequestHeader('Content-Type', 'application/octet-stream');
      request.upload.onprogress = (event) => onSent(event.loaded);
      request.onload = () =>
        request.status < 300
          ? resolve(JSON.parse(request.responseText).left_out)
          : reject(refusalFrom(request.status, request.responseText));
      request.onerror = () => reject(refusalFrom(0, ''));
      request.send(file);
    });
}
