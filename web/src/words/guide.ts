/** The short way through the demo: what to do, a step at a time. */

export type Step = {
  title: string;
  text: string;
};

export const STEPS: readonly Step[] = [
  {
    title: 'Open the box',
    text: 'Box 27 is in the middle of its work: one file did not come in, and a page failed. Open it.',
  },
  {
    title: 'See what failed',
    text: 'Press the filter Failed. The side tells why, and the page is marked for recapture. Go back to All.',
  },
  {
    title: 'Put pages elsewhere',
    text: 'Choose pages with Shift and the arrow keys, press X to cut, go to another page, press V. Z undoes it.',
  },
  {
    title: 'Correct one by hand',
    text: 'Choose a page of the watch log and press E. On the bench, T and the arrow keys level it; C compares. Escape leaves.',
  },
  {
    title: 'Capture from the glass',
    text: 'Press N for Intake. L takes a first look: three photographs lie on the glass. C captures them as three pages; the first time it asks how paper goes in.',
  },
  {
    title: 'Bind',
    text: 'Press B. The box makes several documents; bind them, and download one. That is the whole way.',
  },
];
