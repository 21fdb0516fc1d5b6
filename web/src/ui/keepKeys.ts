import type { MouseEvent } from 'react';

/**
 * What is chosen by mouse leaves the keyboard where it is: the arrow keys go on through the pages, not along the row that was clicked.
 * A field that is being written in lets go of it all the same, so that what was written counts.
 */
export function keepKeys(event: MouseEvent) {
  event.preventDefault();
  const at = document.activeElement;
  if (at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement) at.blur();
}
